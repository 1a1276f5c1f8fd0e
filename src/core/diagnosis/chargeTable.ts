/** Charges as a table lists them, and a charge beside what was to be expected of it, in words. */

import type { EndedBy, StageName } from '../charge/types';
import { CHEMISTRY, expectedVolts, fullTailAmps, isLead, type Range } from '../system/chemistry';
import { bankOf } from '../system/bankOf';
import { knownSystem } from '../system/known';
import type { System } from '../system/schema';
import { ampHours, amps, counted, duration, percent, volts } from '../quantity/text';
import { MINUTE } from '../quantity/span';
import type { DiagnosisCharge, DiagnosisStage } from './result';

export const ENDED_WORDS: Record<EndedBy, string> = {
  tail: 'tail current',
  timer: 'clock',
  'source-lost': 'supply lost',
  load: 'load',
  bms: 'BMS',
  'other-source': 'another source',
  unknown: 'not known',
};

export interface ChargeRow {
  /** Place of the charge in the diagnosis. */
  index: number;
  from: string;
  to: string;
  source: string | null;
  ampHours: number | null;
  /** Minutes in each stage; 0 where it was not reached. */
  minutes: Record<StageName, number>;
  /** At the end of its last absorption: current, A and % of capacity, and what ended it. Null without one. */
  endAmps: number | null;
  endPercent: number | null;
  endedBy: EndedBy | null;
  full: boolean;
}

const lengthMs = ({ from, to }: { from: string; to: string }): number => Date.parse(to) - Date.parse(from);

export function chargeRows(charges: readonly DiagnosisCharge[], system: System): ChargeRow[] {
  const { capacityAh } = system.bank;
  return charges.map((charge, index) => {
    const minutes: Record<StageName, number> = {
      bulk: 0,
      absorption: 0,
      float: 0,
      equalise: 0,
      hold: 0,
      off: 0,
    };
    for (const stage of charge.stages) minutes[stage.stage] += lengthMs(stage) / MINUTE;
    const last = absorptionOf(charge);
    const endAmps = last?.endAmps ?? null;
    return {
      index,
      from: charge.from,
      to: charge.to,
      source: charge.source,
      ampHours: charge.ampHours,
      minutes,
      endAmps,
      endPercent: endAmps === null || !capacityAh ? null : (100 * endAmps) / capacityAh,
      endedBy: last?.endedBy ?? null,
      full: charge.full,
    };
  });
}

const absorptionOf = ({ stages }: DiagnosisCharge): DiagnosisStage | undefined =>
  stages.filter((one) => one.stage === 'absorption').at(-1);

/** One line of a charge's card. */
export interface CardLine {
  what: string;
  expected: string;
  observed: string;
  /** What is to be said of it: null where it is as it should be, or nothing can be said. */
  verdict: string | null;
}

/** V a 12 V block by which a plateau may miss its range: meters and cables. */
const NEAR = 0.1;

/** What was to be expected of a charge, and what was seen. Empty while a basic of the bank is not known. */
export function chargeCard(charge: DiagnosisCharge, system: System): CardLine[] {
  const known = knownSystem(system);
  if (!known) return [];
  const source = system.sources.find((one) => one.id === charge.source) ?? null;
  const bank = bankOf(known, source);
  const figures = CHEMISTRY[bank.chemistry];
  const near = (NEAR * bank.cellsInSeries) / figures.cellsPerBlock;
  const rangeText = ({ min, max }: Range) => `${min.toFixed(2)} to ${volts(max)}`;
  const at = (stage: DiagnosisStage) =>
    isLead(bank.chemistry) && stage.celsius !== null ? ` at ${stage.celsius.toFixed(0)} °C` : '';
  const against = (value: number, { min, max }: Range): string | null =>
    value < min - near
      ? `${volts(min - value)} too low`
      : value > max + near
        ? `${volts(value - max)} too high`
        : null;
  const total = (name: StageName) =>
    charge.stages.filter((one) => one.stage === name).reduce((sum, one) => sum + lengthMs(one), 0);
  const lines: CardLine[] = [];

  const bulk = charge.stages.filter((one) => one.stage === 'bulk');
  const absorption = absorptionOf(charge);
  lines.push({
    what: 'Bulk',
    expected: 'All that the source has, until the charge voltage is reached',
    observed:
      bulk.length === 0
        ? 'None: the voltage was there at once'
        : `${duration(total('bulk'))}, ${ampHours(bulk.reduce((sum, one) => sum + (one.ampHours ?? 0), 0))}`,
    verdict:
      absorption || charge.stages.some((one) => one.stage === 'float')
        ? null
        : 'the charge voltage was not reached',
  });

  if (absorption?.volts != null) {
    const range = expectedVolts(bank, 'absorption', absorption.celsius ?? NaN);
    lines.push({
      what: 'Absorption voltage',
      expected: `${rangeText(range)}${at(absorption)}`,
      observed: volts(absorption.volts),
      verdict: against(absorption.volts, range),
    });
  }
  if (absorption) {
    const tailAmps = fullTailAmps(bank);
    const { endAmps, endedBy } = absorption;
    const ended = endedBy === 'unknown' ? '' : `, ended by: ${ENDED_WORDS[endedBy]}`;
    const dips = absorption.dips > 0 ? `, with ${counted(absorption.dips, 'dip')} of the supply` : '';
    lines.push({
      what: 'Absorption',
      expected: `Until the current is down to ${amps(tailAmps)}, ${percent(figures.fullTailPercent)} of capacity`,
      observed: `${duration(absorption.heldMinutes * MINUTE)}${dips}${endAmps === null ? '' : `, to ${amps(endAmps)} (${percent((100 * endAmps) / bank.capacityAh)})`}${ended}`,
      verdict:
        endAmps !== null && !charge.full && endAmps > 1.5 * tailAmps
          ? 'the battery still took current'
          : null,
    });
  }

  for (const stage of charge.stages.filter((one) => one.stage === 'equalise').slice(0, 1))
    lines.push({
      what: 'Equalisation',
      expected: bank.equalise
        ? `${volts(bank.equalise.volts)} for ${bank.equalise.minutes} min`
        : bank.chemistry === 'flooded'
          ? 'As the maker’s sheet says'
          : 'None: this battery must not have one',
      observed: `${duration(stage.heldMinutes * MINUTE)}${stage.volts === null ? '' : ` at ${volts(stage.volts)}`}`,
      verdict: bank.chemistry === 'flooded' || bank.equalise ? null : 'see the hazards',
    });

  const floats = charge.stages.filter((one) => one.stage === 'float');
  const float = floats.at(-1);
  if (float?.volts != null) {
    const range = expectedVolts(bank, 'float', float.celsius ?? NaN);
    lines.push({
      what: 'Float',
      expected: `${rangeText(range)}${at(float)}`,
      observed: `${volts(float.volts)} for ${duration(total('float'))}`,
      verdict: against(float.volts, range),
    });
  }
  lines.push({
    what: 'Full',
    expected: 'At a voltage that can fill it, until its tail',
    observed: charge.full ? 'Yes' : 'No',
    verdict: null,
  });
  return lines;
}

/** When the battery last got truly full, against the end of the log: one sentence. @param clock a moment in words */
export function lastFullText(
  lastFull: string | null,
  logEnds: number,
  clock: (iso: string) => string,
): string {
  if (lastFull === null) return 'In this log the battery never got truly full.';
  const ago = logEnds - Date.parse(lastFull);
  return `The battery was last truly full on ${clock(lastFull)}, ${
    ago < 60 * MINUTE
      ? 'at'
      : ago < 36 * 60 * MINUTE
        ? `${duration(ago)} before`
        : `${Math.round(ago / (1440 * MINUTE))} days before`
  } the end of the log.`;
}
