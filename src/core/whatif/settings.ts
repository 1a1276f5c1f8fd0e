/** The charger settings that a replay can change, and what they were: as the log shows them, else as they are described, else as is usual. */

import { median } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { ChargerSpec } from '../simulate/charger';
import { blocksInSeries, CHEMISTRY, compensationOf } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import type { ReplayFacts } from './recorded';

export interface ChargerSettings {
  absorptionV: number;
  /** Absorption ends after this long; null for a charger that goes by its tail alone. */
  absorptionMinutes: number | null;
  /** And as soon as its own current is below; null for a charger that goes by time alone. */
  tailA: number | null;
  floatV: number;
  /** mV per °C per cell, negative for lead. */
  compensationMvPerCellPerC: number;
  /** Times the size of the source. */
  size: number;
}

export type ChargerSettingName = keyof ChargerSettings;

/** Those that stand on the settings sheet; the size of a source is no setting. */
export const SHEET_SETTINGS = [
  'absorptionV',
  'absorptionMinutes',
  'tailA',
  'floatV',
  'compensationMvPerCellPerC',
] as const satisfies readonly ChargerSettingName[];

/** A charger that never was seen to end absorption is taken to go on for so long, min. */
const LONG_ABSORPTION = 480;
/** It rebulks this far under its float, V a 12 V block, where nothing else is known (common practice, no source). */
const REBULK_UNDER = 1;

type Charges = ReplayFacts['charges'];

/** How absorption gave way to float on this source, where the log shows it: how long it had lasted, and at what current of its own. */
function endsSeen(charges: Charges): { minutes: number; tailA: number } {
  const ends = charges.flatMap(({ stages }) =>
    stages.flatMap((one, i) => (one.stage === 'absorption' && stages[i + 1]?.stage === 'float' ? [one] : [])),
  );
  const byTail = ends.filter((one) => one.endedBy === 'tail');
  const byTime = ends.filter((one) => one.endedBy !== 'tail');
  return {
    minutes:
      byTime.length > 0 && byTime.length >= byTail.length
        ? median(byTime.map((one) => (Date.parse(one.to) - Date.parse(one.from)) / MINUTE))
        : NaN,
    tailA:
      byTail.length > byTime.length
        ? median(byTail.flatMap((one) => (one.endAmps !== null && one.endAmps > 0 ? [one.endAmps] : [])))
        : NaN,
  };
}

const known = (value: number): number | undefined => (value === value ? value : undefined);

export function settingsAsTheyWere(
  { bank }: KnownSystem,
  source: Source,
  { setpoints, charges, charging }: Pick<ReplayFacts, 'setpoints' | 'charges' | 'charging'>,
): ChargerSettings {
  const { profile } = source;
  const figures = CHEMISTRY[bank.chemistry];
  const held = setpoints.find((one) => one.source === source.id);
  const seen = endsSeen(charges.filter((one) => one.source === source.id));
  const slope = charging.sources.find((one) => one.source === source.id)?.compensation?.found;
  const middle = ({ min, max }: { min: number; max: number }) => (min + max) / 2;
  const absorptionV = held?.absorptionV ?? profile.absorptionV ?? middle(bank.chargeVolts);
  const tailA = known(seen.tailA) ?? (seen.minutes === seen.minutes ? undefined : profile.tailA);
  const minutes = known(seen.minutes) ?? profile.absorptionMinutes;
  return {
    absorptionV: round(absorptionV, 2),
    absorptionMinutes:
      minutes === undefined ? (tailA === undefined ? LONG_ABSORPTION : null) : round(minutes, 0),
    tailA: tailA === undefined ? null : round(tailA, 1),
    floatV: round(
      held?.floatV ??
        profile.floatV ??
        (bank.floatVolts ? middle(bank.floatVolts) : middle(figures.floatV) * bank.cellsInSeries),
      2,
    ),
    compensationMvPerCellPerC: round(
      slope ?? profile.compensationMvPerCellPerC ?? middle(compensationOf(bank)),
      1,
    ),
    size: 1,
  };
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));

/** The charger as the replay drives it. @param mostA the most that the source gives, A */
export function chargerOf(
  { bank }: KnownSystem,
  source: Source,
  settings: ChargerSettings,
  { mostA, pathOhms }: { mostA: number; pathOhms: number },
): ChargerSpec {
  const { profile } = source;
  const blockBelowC = profile.chargeAboveC;
  return {
    id: source.id,
    ratedA: mostA * settings.size,
    absorptionV: settings.absorptionV,
    floatV: settings.floatV,
    compensationVPerC: (settings.compensationMvPerCellPerC * bank.cellsInSeries) / 1000,
    absorptionMinutes: settings.absorptionMinutes ?? Infinity,
    tailA: settings.tailA ?? undefined,
    rebulkV: profile.rebulkV ?? settings.floatV - REBULK_UNDER * blocksInSeries(bank),
    pathOhms: source.senses === 'battery' ? 0 : pathOhms,
    remoteSense: source.senses === 'battery',
    ...(blockBelowC === undefined ? {} : { blockBelowC }),
  };
}
