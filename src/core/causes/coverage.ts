/** What the description and the wiring walk say of devices that the monitor may not see. */

import { sum } from '../quantity/numbers';
import { commonOf, HOUR, lengthOf, mergeSpans } from '../quantity/span';
import { amps } from '../quantity/text';
import type { Load, Source } from '../system/schema';
import { hasSensor } from '../system/sensor';
import type { MeanCurrent, Share } from '../count/shares';
import { isUnseen } from '../count/trueCurrent';
import type { Counting } from '../count/types';
import { type Evidence, type Judged, type Observations, oneIsEnough, shrunk } from './cause';

export const COVERAGE_WEIGHTS = {
  /** The description says that a device is not counted, or that all are; something else was found on the battery post. */
  describedUncounted: 15,
  describedCounted: -6,
  foundOnPost: 8,
  /** Its own log shows a current that the monitor does not, by steps; or the monitor shows it. */
  notShown: 15,
  shown: -12,
} as const;

/** A device is shown from this share on. */
const SHOWN = 0.4;

/** A source is shown wholly from this share on, and with no more doubt; alone it has kept the battery for so many hours at the least. */
const WHOLLY = { share: 0.9, error: 0.05, hours: 4 };

/**
 * A that the monitor shows out of a battery that a charger only keeps full, 0 or less. That is its zero where the monitor shows all that the
 * charger gives, and the logs of the others show that none of them ran.
 */
export function zeroAtFloat({ counting, charging, system }: Judged): number {
  const atFloat = counting?.meters.atFloat;
  const own = charging.filter((one) => one.knowsOwnAmps);
  if (!counting || !atFloat || atFloat.amps >= 0 || own.length < system.sources.length) return 0;
  const isShown = (id: string | undefined) =>
    counting.meters.shares.some(
      (one) => one.id === id && one.share >= WHOLLY.share && one.error <= WHOLLY.error,
    );
  const alone = own
    .filter(({ source }) => isShown(source?.id))
    .map((one) => {
      const kept = mergeSpans(commonOf(atFloat.spans, one.charges));
      const beside = own.filter((other) => other !== one).flatMap(({ charges }) => charges);
      return sum(kept.map(lengthOf)) - sum(mergeSpans(commonOf(kept, beside)).map(lengthOf));
    });
  return Math.max(0, ...alone) >= WHOLLY.hours * HOUR ? atFloat.amps : 0;
}

/** Devices with a log of their own against what the monitor shows of them: one that bypasses it is enough. */
export function weighShares({ counting, system }: Observations, kind: 'source' | 'load'): Evidence[] {
  if (!counting || (system.monitor && !hasSensor(system.monitor))) return [];
  const devices = kind === 'source' ? system.sources : system.loads;
  const name = (id: string) => devices.find((one) => one.id === id)?.name ?? id;
  const judged = counting.meters.shares.filter((one) => one.kind === kind && one.error < 0.25);
  const allShown = judged.length === devices.length && judged.every((one) => Math.abs(one.share) >= SHOWN);
  return oneIsEnough(
    judged
      // That some are shown clears nobody of whom nothing is known.
      .filter((one) => isUnseen(one) || allShown)
      .map((one): Evidence[] => {
        const hidden = isUnseen(one);
        return [
          {
            text: hidden
              ? hiddenText(one, name(one.id))
              : `The monitor shows what ${name(one.id)} ${kind === 'source' ? 'gives' : 'draws'}.`,
            decibans: shrunk(hidden ? COVERAGE_WEIGHTS.notShown : COVERAGE_WEIGHTS.shown, 2 * one.steps),
            group: 'shown',
            spans: [counting.logged],
          },
        ];
      }),
  );
}

const hiddenText = ({ steps, carriedHours }: Share, name: string): string =>
  carriedHours === undefined
    ? `When the current of ${name} moves, the monitor’s does not (${steps} times).`
    : `While ${name} carried the loads, the monitor showed them drawn from the battery (${carriedHours.toFixed(0)} hours).`;

export const COVERAGE_ANSWERS = {
  'battery-post': { found: 8, fine: -6, text: 'A second conductor was found on the battery negative.' },
} as const;

/** Devices that may bypass the monitor: what was told and found. */
export function weighCoverage(
  seen: Observations,
  devices: readonly (Source | Load)[],
  kind: 'source' | 'load',
): Evidence[] {
  const { system, job } = seen;
  if (!system.monitor || !hasSensor(system.monitor)) return [];
  const evidence: Evidence[] = [];
  const unseen = devices.filter((one) => one.counted === false);
  if (unseen.length > 0)
    evidence.push({
      text: `${unseen.map((one) => one.name).join(' and ')} ${unseen.length === 1 ? 'is' : 'are'} wired so that the monitor does not count ${unseen.length === 1 ? 'it' : 'them'}.`,
      decibans: COVERAGE_WEIGHTS.describedUncounted,
      group: 'told',
      spans: [],
    });
  // What was measured goes before what was told.
  else if (devices.every((one) => one.counted !== null) && devices.length > 0 && !isMissed(seen, kind))
    evidence.push({
      text: `Each ${kind} is wired so that the monitor counts it.`,
      decibans: COVERAGE_WEIGHTS.describedCounted,
      group: 'told',
      spans: [],
    });
  for (const { what, amps: current } of job.walk?.others ?? [])
    evidence.push({
      text: `On the battery post: ${what}${current === undefined ? '' : `, carrying ${amps(Math.abs(current))}`}.`,
      decibans: COVERAGE_WEIGHTS.foundOnPost,
      group: 'check-battery-post',
      spans: [],
    });
  return evidence;
}

/** What a full battery takes on float at most, thousandths of its capacity in A (common practice, no source). */
export const FLOAT_CURRENT = { lead: 6, lithium: 0.4 };
/** Hardly a zero is off by so much, parts of the capacity in A. */
export const NO_ZERO = 0.006;
/** What goes by this is plainly more, whatever was told of the wiring. */
const FAR_FROM_ZERO = 0.015;
/** What comes and goes beside the BMS's meter for this part of the time is a load, no zero error. */
export const COMES_AND_GOES = 0.1;

/** Part of a load's current by which a zero hardly hides that it flows through the monitor. */
const PASSES = 0.15;

/**
 * Loads with a log of their own of which no step says whether the monitor shows them. The only load passes it where the monitor
 * shows the battery drawn on.
 */
export function mayBypass({ loads }: Observations['system'], { meters }: Counting): MeanCurrent[] {
  const drawn = -(meters.unseen?.drawnAmps ?? 0);
  return meters.means.filter(
    ({ id, kind, amps: mean }) =>
      kind === 'load' &&
      !meters.shares.some((one) => one.id === id) &&
      !(loads.length === 1 && drawn > PASSES * mean),
  );
}

/** The monitor plainly misses something of this kind, whatever was told. */
function isMissed({ counting, system }: Observations, kind: 'source' | 'load'): boolean {
  if (!counting) return false;
  const { wrong, meters, through, favours, offsetA } = counting;
  if (wrong.unseen.some((one) => one.kind === kind)) return true;
  const capacity = system.bank.capacityAh ?? Infinity;
  const { hours = 0, ofHours = 0 } = meters.unseen ?? {};
  if (kind === 'source') return hours > 0.3 * ofHours || through.out - through.in > 1.3 * capacity;
  const float = meters.atFloat?.amps ?? 0;
  const logged = mayBypass(system, counting);
  const missing = Math.max(float, favours.offset > 4 ? offsetA.value : 0);
  return (
    missing > FAR_FROM_ZERO * capacity ||
    logged.some(({ amps: mean }) => missing > 0 && Math.abs(missing / mean - 1) < 0.3)
  );
}

/** What would have to be told of devices before their coverage is known. */
export function missingCoverage({ system }: Observations, devices: readonly (Source | Load)[]): string[] {
  if (!system.monitor || system.monitor.method === 'voltage') return ['a monitor that counts'];
  if (!hasSensor(system.monitor)) return [];
  return devices.filter((one) => one.counted === null).map((one) => `whether the monitor counts ${one.name}`);
}
