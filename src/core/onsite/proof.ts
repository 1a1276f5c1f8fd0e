/**
 * Proof of coverage: everything off, then each device alone. What the monitor should show is known from plate, own display or clamp meter;
 * what it does show says whether the device is counted, and with what sign and scale. Tolerances are common practice, no source.
 */

import { median } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import { restVolts } from '../system/restVoltage';
import type { Load, Source, System } from '../system/schema';
import type { Proof, Proved } from './visit';

export type Answer = 'shown' | 'unseen' | 'turned' | 'fraction' | 'too-small' | 'open';

export interface ProvedDevice {
  id: string;
  name: string;
  kind: 'source' | 'load';
  /** What the monitor should show, with its sign and how far that may be off, A; null where nobody knows. */
  expected: { amps: number; within: number; by: 'clamp' | 'known' | 'watts' | 'described' } | null;
  /** What it showed, the current with everything off taken away. */
  showed: number | null;
  answer: Answer;
}

/** Parts of the figure that it may be off, by where it comes from. */
const WITHIN = { clamp: 0.05, known: 0.1, watts: 0.3, described: 0.4 };
/** Less than this says nothing against the noise of a display, A. */
const TOO_SMALL = 0.5;
/** A device of which the monitor shows less than this part is not counted. */
const UNSEEN = 0.15;

/** Volts of the bank for watts: as read, else about its rest voltage. */
const voltsOf = ({ bank }: System, read?: number): number | null =>
  read ??
  (bank.chemistry && bank.cellsInSeries
    ? restVolts(bank.chemistry, 60) *
      blocksInSeries({ chemistry: bank.chemistry, cellsInSeries: bank.cellsInSeries })
    : null);

/** A that a device should draw or give, without sign. @param volts read at the posts */
export function expectedOf(
  device: Source | Load,
  proved: Proved,
  system: System,
  volts?: number,
): ProvedDevice['expected'] {
  const at = voltsOf(system, volts);
  const found = (value: number, by: keyof typeof WITHIN) => ({
    amps: value,
    within: WITHIN[by] * value + (by === 'clamp' ? 0.3 : 0.2),
    by,
  });
  if (proved.clampA !== undefined) return found(Math.abs(proved.clampA), 'clamp');
  if (proved.knownA !== undefined) return found(proved.knownA, 'known');
  if (proved.watts !== undefined && at !== null)
    return found(proved.watts / at / ((proved.efficiencyPercent ?? 100) / 100), 'watts');
  if ('usualA' in device && device.usualA !== undefined) return found(device.usualA, 'described');
  // What a charger gives is the battery’s affair: its rating says nothing of this moment.
  return null;
}

export function proveDevices(system: System, proof: Proof | undefined, volts?: number): ProvedDevice[] {
  const each = (kind: 'source' | 'load') => (device: Source | Load) => {
    const proved = proof?.devices?.[device.id] ?? {};
    const size = expectedOf(device, proved, system, volts);
    const sign = kind === 'source' ? 1 : -1;
    const expected = size && { ...size, amps: sign * size.amps };
    const showed = proved.showsA === undefined ? null : proved.showsA - (proof?.offA ?? 0);
    return {
      id: device.id,
      name: device.name,
      kind,
      expected,
      showed,
      answer: answerOf(expected, showed, sign),
    };
  };
  return settled([...system.sources.map(each('source')), ...system.loads.map(each('load'))]);
}

function answerOf(expected: ProvedDevice['expected'], showed: number | null, sign: number): Answer {
  if (showed === null) return 'open';
  if (expected === null)
    return Math.abs(showed) < TOO_SMALL ? 'open' : sign * showed > 0 ? 'shown' : 'turned';
  if (Math.abs(expected.amps) < TOO_SMALL) return 'too-small';
  const part = showed / expected.amps;
  if (Math.abs(part) < UNSEEN) return 'unseen';
  if (part < 0) return 'turned';
  return Math.abs(showed - expected.amps) <= expected.within ? 'shown' : 'fraction';
}

/** A plate may say so much more, or less, than a device draws, parts. */
const PLATE = { least: 0.5, most: 2 };

/** Of a device that is known by its plate alone a fraction is no news, unless a better known one says the same. */
function settled(devices: ProvedDevice[]): ProvedDevice[] {
  const scale = scaleOf(devices);
  return devices.map((one) => {
    if (one.answer !== 'fraction' || scale !== null || one.expected?.by === 'clamp') return one;
    const part = Math.abs(one.showed! / one.expected!.amps);
    return part > PLATE.least && part < PLATE.most ? { ...one, answer: 'shown' } : one;
  });
}

/** Devices that agree so far say that it is the scale, parts. */
const AGREE = 0.12;

/** Shown over expected, where it is plainly not 1 and the devices agree; null otherwise. */
export function scaleOf(devices: readonly ProvedDevice[]): number | null {
  const parts = devices.flatMap(({ expected, showed, answer }) =>
    expected && showed !== null && ['shown', 'fraction', 'turned'].includes(answer)
      ? [{ part: Math.abs(showed / expected.amps), sure: expected.by === 'clamp', off: answer !== 'shown' }]
      : [],
  );
  if (parts.length === 0) return null;
  const middle = median(parts.map((one) => one.part));
  const agree = parts.every((one) => Math.abs(one.part / middle - 1) < (one.sure ? AGREE : 2.5 * AGREE));
  const sure = parts.some((one) => one.sure) || parts.length > 1;
  const sureOff = parts.some((one) => one.sure) ? Math.abs(middle - 1) > 0.08 : Math.abs(middle - 1) > 0.35;
  return agree && sure && sureOff ? middle : null;
}

/** What the proof says of which device is counted; devices that it does not settle are left out. */
export function provenCounted(
  system: System,
  proof: Proof | undefined,
  volts?: number,
): Record<string, boolean> {
  return Object.fromEntries(
    proveDevices(system, proof, volts).flatMap(({ id, answer }): [string, boolean][] => {
      if (answer === 'unseen') return [[id, false]];
      return ['shown', 'turned', 'fraction'].includes(answer) ? [[id, true]] : [];
    }),
  );
}
