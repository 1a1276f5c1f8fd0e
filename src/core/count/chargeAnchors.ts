/** What charges tell of the state: those that got the battery full, and what was missing at the end of the others. */

import { clamp, sum } from '../quantity/numbers';
import { HOUR, lengthOf, MINUTE } from '../quantity/span';
import { heatOf } from '../charge/bySetting';
import { fills, FILLS_ON_FLOAT, foldsOver, isSteady, ownVolts, TAFEL } from '../charge/full';
import { forecastTail } from '../charge/tail';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import {
  blocksInSeries,
  expectedVolts,
  FULL_LITHIUM_STANDS,
  fullTailAmps,
  isLead,
} from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Anchor } from './anchors';

/**
 * The state when a battery has come down to its tail: at its charge voltage lead still takes for an hour and a half what flows then
 * (common practice, no source).
 */
const FULL = { lead: { charge: 0.96, deviation: 0.022 }, lithium: { charge: 0.995, deviation: 0.02 } };

/** After hours on float, with next to nothing flowing (common practice, no source). */
const LONG_FLOAT = { lead: { charge: 0.98, deviation: 0.025 }, lithium: { charge: 1, deviation: 0.02 } };

/** Charges that got it full, and ends of absorption that say what was missing. */
export function chargeAnchors(charging: readonly SourceCharging[]): Anchor[] {
  return onceEach(
    charging
      .filter((one) => one.knowsBatteryAmps)
      .flatMap(({ charges, bank }) => charges.flatMap((charge) => anchorsOf(charge, bank)))
      .sort((a, b) => a.at - b.at),
  );
}

/** Two that say full within so long say it of one charge. */
const ONE_CHARGE = HOUR;

/** Several sources that see one battery get full are one anchor: the earliest, for as long as any of them keeps it so. */
function onceEach(anchors: readonly Anchor[]): Anchor[] {
  const found: Anchor[] = [];
  let full: Anchor | undefined;
  for (const one of anchors) {
    if (one.kind === 'full' && full && one.at <= full.until + ONE_CHARGE) {
      full.until = Math.max(full.until, one.until);
      continue;
    }
    const own = { ...one };
    found.push(own);
    if (own.kind === 'full') full = own;
  }
  return found;
}

function anchorsOf(charge: Charge, bank: KnownBank): Anchor[] {
  const lead = isLead(bank.chemistry);
  const tailAmps = fullTailAmps(bank);
  const found: Anchor[] = [];
  charge.stages.forEach((stage, i) => {
    if (stage.stage !== 'absorption' && stage.stage !== 'equalise') return;
    const keeps = keptUntil(charge.stages, i);
    const amps =
      stage.endedBy === 'source-lost' || stage.endedBy === 'load' ? stage.settledAmps : stage.endAmps;
    if (charge.full && !stage.blocked && (amps <= tailAmps || isSteady(stage, amps, charge, bank))) {
      // What still flows once it has come down to its tail only keeps it full; at too low a voltage it goes on filling.
      const short = shortOf(stage, amps, bank, tailAmps);
      const at = short > 0 ? stage.to : clamp(stage.atTailFrom || stage.to, stage.from, stage.to);
      const full = lacking(bank, short);
      // How far a smaller current stands for a fuller battery at such a voltage, and how far for the voltage, nobody sees.
      const deviation = full.deviation + DOUBT.under * E_FOLD * foldsUnder(stage, bank);
      found.push({ kind: 'full', at, until: keeps, ...full, deviation, zeroHours: lead ? TAU.lead : 0 });
      return;
    }
    const partial = partialOf(stage, amps, bank, tailAmps);
    if (partial) found.push({ kind: 'absorption', at: stage.to, until: stage.to, ...partial });
  });
  if (charge.full && !found.some((one) => one.kind === 'full'))
    for (const { from, to } of charge.heldFull)
      found.push({ kind: 'full', at: from, until: to, ...(lead ? FULL.lead : FULL.lithium) });
  if (!lead) found.push(...floatAnchors(charge, bank));
  if (!charge.full) return found;
  // By a long float alone: a charger that hardly ever goes off has many. Where what kept it full is no anchor, its last float tells.
  const float = charge.stages.findLast((one) => one.stage === 'float' && !isDrawnOn(one, bank));
  const isOpen = charge.fullOnFloat.length === 0 && !found.some((one) => one.kind === 'full');
  const floats = (isOpen && float ? [float] : charge.fullOnFloat).filter(
    (one) => !(lead && stillLacks(one, charge, found, bank)),
  );
  for (const { from, to } of floats)
    if (!found.some((one) => one.kind === 'full' && one.until >= from && one.at < to))
      found.push({
        kind: 'full',
        at: lead && to - from > FILLS_ON_FLOAT ? from + FILLS_ON_FLOAT : to - Math.min(HOUR, (to - from) / 4),
        until: to,
        ...(lead ? LONG_FLOAT.lead : LONG_FLOAT.lithium),
      });
  return found;
}

/**
 * Part of the capacity that is still to be put in, for the small current of a float to be that of its low voltage and not of a full battery;
 * after so long on float it is full all the same (common practice, no source).
 */
const STILL_LACKS = { part: 0.02, within: 8 * HOUR };

/** Whether the absorption before a float left more missing than the float has put in since. */
function stillLacks(
  float: Pick<Stage, 'from' | 'to'>,
  { stages }: Charge,
  found: readonly Anchor[],
  bank: KnownBank,
): boolean {
  const left = found.findLast((one) => one.kind === 'absorption' && one.at <= float.to);
  if (!left || lengthOf(float) > STILL_LACKS.within) return false;
  const since = stages.filter((one) => one.from >= left.at && one.to <= float.to && one.ampHours > 0);
  const put = sum(since.map((one) => one.ampHours));
  return (left.lacks ?? 0) - put / bank.capacityAh > STILL_LACKS.part;
}

/**
 * Lithium that stands for hours at float is as good as full even there (common practice, no source): once in so long, after so long.
 */
const FLOAT = { after: 4 * HOUR, every: 12 * HOUR, drawn: 0.01, charge: 0.975, deviation: 0.03 };

/** What the BMS keeps out, or what only feeds the loads, fills nothing. */
const isDrawnOn = ({ blocked, settledAmps }: Stage, bank: KnownBank): boolean =>
  blocked || !(settledAmps > -FLOAT.drawn * bank.capacityAh);

function floatAnchors({ stages }: Charge, bank: KnownBank): Anchor[] {
  return stages.flatMap((one): Anchor[] => {
    const { stage, volts, from, to } = one;
    if (stage !== 'float' || isDrawnOn(one, bank) || volts < FULL_LITHIUM_STANDS * blocksInSeries(bank))
      return [];
    const found: Anchor[] = [];
    for (let at = from + FLOAT.after; at <= to; at += FLOAT.every)
      found.push({ kind: 'float', at, until: at, charge: FLOAT.charge, deviation: FLOAT.deviation });
    return found;
  });
}

/** The stages that follow and only keep it full. */
function keptUntil(stages: readonly Stage[], from: number): number {
  let until = stages[from]!.to;
  for (const { stage, to } of stages.slice(from + 1)) {
    if (stage !== 'float' && stage !== 'absorption' && stage !== 'equalise' && stage !== 'hold') break;
    until = to;
  }
  return until;
}

/**
 * Hours for which a battery at its charge voltage would still take its current, where no fit says so; parts of the answer that are doubt: of
 * one charge against another, and beyond the range, where more is open. What lithium takes there goes by its resistance too, and that may be
 * several times what it was when new.
 */
const TAU = { lead: 1.6, lithium: 0.4 };
const DOUBT = { lead: 0.2, lithium: 0.6, folds: 0.5, under: 1.5 };

/** Lithium whose current has come down to its tail at a voltage under its range is nearly full (common practice, no source). */
const NEARLY_FULL = { charge: 0.965, deviation: 0.035 };

/** Current still flowing at the end of an absorption says what the battery is short of. Null where the voltage cannot fill it. */
function partialOf(
  stage: Stage,
  amps: number,
  bank: KnownBank,
  tailAmps: number,
): Omit<Anchor, 'kind' | 'at' | 'until'> | null {
  const lead = isLead(bank.chemistry);
  if (!stage.endAmpsAreBattery || stage.blocked || stage.cutOff || stage.heldMs < 10 * MINUTE || !(amps > 0))
    return null;
  if (!fills(stage, bank, blocksInSeries(bank)))
    return !lead && amps <= tailAmps && ownVolts(stage) >= FULL_LITHIUM_STANDS * blocksInSeries(bank)
      ? NEARLY_FULL
      : null;
  const folds = lead ? foldsOver(stage, bank) : 0;
  const forecast =
    lead && folds === 0 && stage.tail
      ? forecastTail(stage.tail, amps, Math.min(tailAmps, amps)).ampHours
      : null;
  const hours = lead ? TAU.lead : TAU.lithium;
  const usual = hours * Math.max(0, amps * Math.exp(-folds) - tailAmps);
  const missing = (forecast === null ? usual : (forecast + usual) / 2) / bank.capacityAh;
  const found = lacking(bank, clamp(missing + shortOf(stage, amps, bank, tailAmps), 0, 0.4));
  return {
    ...found,
    deviation: found.deviation + DOUBT.folds * E_FOLD * folds,
    zeroHours: hours * Math.exp(-folds),
  };
}

/** Full, but for a part of the capacity. */
function lacking(bank: KnownBank, missing: number): Pick<Anchor, 'charge' | 'deviation' | 'lacks'> {
  const chemistry = isLead(bank.chemistry) ? 'lead' : 'lithium';
  const full = FULL[chemistry];
  const deviation = full.deviation + DOUBT[chemistry] * missing;
  return { charge: full.charge - missing, deviation, lacks: missing };
}

/** The part of the capacity that takes the current down to 1/e near full, at one voltage (common practice, no source). */
const E_FOLD = 0.05;

/** What lead still lacks, as a part of its capacity, because the voltage was under its range, whose tail then comes too soon. */
function shortOf(stage: Stage, amps: number, bank: KnownBank, tailAmps: number): number {
  if (!isLead(bank.chemistry)) return 0;
  const below = Math.log(tailAmps / clamp(amps, 0.01 * tailAmps, tailAmps));
  return E_FOLD * Math.max(0, foldsUnder(stage, bank) - below);
}

/** How often a voltage under its range divides the current of lead by e. */
function foldsUnder(stage: Stage, bank: KnownBank): number {
  if (!isLead(bank.chemistry)) return 0;
  const under = expectedVolts(bank, 'absorption', heatOf(stage)).min - ownVolts(stage);
  return Math.max(0, under) / bank.cellsInSeries / TAFEL;
}
