/** Moments at which the state of charge is known from something else than the count, each with what it may be off by. */

import { clamp, isNumber } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { cellOf, cellStart, type Grid, toGrid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { fills, isSteady, WEATHER } from '../charge/full';
import { refusalsOf } from '../charge/refusals';
import { forecastTail } from '../charge/tail';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { blocksInSeries, expectedVolts, fullTailAmps, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { restPercent, restVolts } from '../system/restVoltage';

export const ANCHOR_KINDS = ['full', 'absorption', 'float', 'rest', 'flat', 'empty', 'bms'] as const;
export type AnchorKind = (typeof ANCHOR_KINDS)[number];

export interface Anchor {
  kind: AnchorKind;
  at: number;
  /** Until when the charger keeps the battery there; the same as `at` where it does not. */
  until: number;
  /** State of charge, parts of the capacity, and one standard deviation. */
  charge: number;
  deviation: number;
  /** Of that what it lacks by the current that still flowed: by how much more or less, all anchors of a battery share. */
  lacks?: number;
  /** By the table of rest voltages: which part of what that is off by shows in it. */
  byTable?: number;
}

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
      found.push({ kind: 'full', at, until: keeps, ...lacking(bank, short) });
      return;
    }
    const partial = partialOf(stage, amps, bank, tailAmps);
    if (partial) found.push({ kind: 'absorption', at: stage.to, until: stage.to, ...partial });
  });
  if (charge.full && !found.some((one) => one.kind === 'full'))
    for (const { from, to } of charge.heldFull)
      found.push({ kind: 'full', at: from, until: to, ...(lead ? FULL.lead : FULL.lithium) });
  if (!lead) found.push(...floatAnchors(charge, bank));
  const float = charge.stages.findLast((one) => one.stage === 'float' && !isDrawnOn(one, bank));
  // Full by a long float alone.
  if (charge.full && float && !found.some((one) => one.kind === 'full'))
    found.push({
      kind: 'full',
      at: float.to - Math.min(HOUR, (float.to - float.from) / 4),
      until: float.to,
      ...(lead ? LONG_FLOAT.lead : LONG_FLOAT.lithium),
    });
  return found;
}

/**
 * Lithium that stands for hours at float is as good as full even there (common practice, no source): once in so long,
 * after so long, at that many V a block and more.
 */
const FLOAT = { after: 4 * HOUR, every: 12 * HOUR, volts: 13.4, drawn: 0.01, charge: 0.975, deviation: 0.03 };

/** What the BMS keeps out, or what only feeds the loads, fills nothing. */
const isDrawnOn = ({ blocked, settledAmps }: Stage, bank: KnownBank): boolean =>
  blocked || !(settledAmps > -FLOAT.drawn * bank.capacityAh);

function floatAnchors({ stages }: Charge, bank: KnownBank): Anchor[] {
  return stages.flatMap((one): Anchor[] => {
    const { stage, volts, from, to } = one;
    if (stage !== 'float' || isDrawnOn(one, bank) || volts < FLOAT.volts * blocksInSeries(bank)) return [];
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
 * Hours for which a lead battery at its charge voltage would still take its current, where no fit says so; parts of the answer that are
 * doubt: of one charge against another, and beyond the range, where more is open.
 */
const TAU = { lead: 1.6, lithium: 0.4 };
const DOUBT = { each: 0.2, folds: 0.5 };

/** Current still flowing at the end of an absorption says what the battery is short of. Null where the voltage cannot fill it. */
function partialOf(
  stage: Stage,
  amps: number,
  bank: KnownBank,
  tailAmps: number,
): ReturnType<typeof lacking> | null {
  const lead = isLead(bank.chemistry);
  if (!stage.endAmpsAreBattery || stage.blocked || stage.cutOff || stage.heldMs < 10 * MINUTE || !(amps > 0))
    return null;
  if (!fills(stage, bank, blocksInSeries(bank))) return null;
  const folds = lead ? foldsOver(stage, bank) : 0;
  const forecast =
    lead && folds === 0 && stage.tail
      ? forecastTail(stage.tail, amps, Math.min(tailAmps, amps)).ampHours
      : null;
  const usual = (lead ? TAU.lead : TAU.lithium) * Math.max(0, amps * Math.exp(-folds) - tailAmps);
  const missing = (forecast === null ? usual : (forecast + usual) / 2) / bank.capacityAh;
  const found = lacking(bank, clamp(missing + shortOf(stage, amps, bank, tailAmps), 0, 0.4));
  return { ...found, deviation: found.deviation + DOUBT.folds * E_FOLD * folds };
}

/** Full, but for a part of the capacity. */
function lacking(bank: KnownBank, missing: number): Pick<Anchor, 'charge' | 'deviation' | 'lacks'> {
  const full = isLead(bank.chemistry) ? FULL.lead : FULL.lithium;
  return { charge: full.charge - missing, deviation: full.deviation + DOUBT.each * missing, lacks: missing };
}

/**
 * V a cell by which a lower voltage takes the current down to 1/e: a Tafel slope of 120 mV a decade (from memory). And the part of the
 * capacity that takes it down as far near full, at one voltage (common practice, no source).
 */
const TAFEL = 0.052;
const E_FOLD = 0.05;

/** What lies between charger and battery costs voltage: the battery's own, where it was logged, says what it gets. */
const ownVolts = ({ batteryVolts, volts }: Stage): number => (isNumber(batteryVolts) ? batteryVolts : volts);

/** How often a voltage above its range multiplies the current of lead by e: what flows then is mostly gas. */
function foldsOver(stage: Stage, bank: KnownBank): number {
  const weather = stage.celsius === stage.celsius ? 0 : WEATHER * blocksInSeries(bank);
  const over = ownVolts(stage) - expectedVolts(bank, 'absorption', stage.celsius).max - weather;
  return Math.max(0, over) / bank.cellsInSeries / TAFEL;
}

/** What lead still lacks, as a part of its capacity, because the voltage was under its range, whose tail then comes too soon. */
function shortOf(stage: Stage, amps: number, bank: KnownBank, tailAmps: number): number {
  if (!isLead(bank.chemistry)) return 0;
  const under = expectedVolts(bank, 'absorption', stage.celsius).min - ownVolts(stage);
  const below = Math.log(tailAmps / clamp(amps, 0.01 * tailAmps, tailAmps));
  return E_FOLD * Math.max(0, under / bank.cellsInSeries / TAFEL - below);
}

/** V a 12 V block that a small load of hours costs, for a current of the whole capacity (common practice, no source). */
const DROP = { lead: 5, lithium: 0.8 };
/** Lead that is empty has a little left, as its label counts (common practice, no source). */
const EMPTY = { charge: 0.01, deviation: 0.06 };
/** So far under the end of its table no table is off, V a block: what stands there is empty by any (common practice, no source). */
const SURELY = 0.2;
/** Small enough to tell the state by, parts of the capacity: drawn, and taken. */
const CALM = { drawn: 0.03, taken: 0.003 };
/** After charging the voltage stands too high for so long. */
const SETTLES = { lead: 3 * HOUR, lithium: 1 * HOUR };
/** Sealed lead rests higher than flooded at the same charge, V a block (common practice, no source). */
const SEALED = 0.06;
/** A rest voltage speaks once in so long; or where the charge has changed by so much since. */
const EVERY = 8 * HOUR;
const OTHER = 0.15;
/** After a heavy load the voltage comes back for so long. */
const RECOVERS = { lead: HOUR, lithium: 20 * MINUTE };
/** What has come back to no more than this by then, V a 12 V block, is empty whatever it still comes back to (common practice, no source). */
const NO_MORE = { within: 20 * MINUTE, volts: 11.75 };

/**
 * On its flat part a lithium voltage says little, and by makers' tables alone: once in so long, after so long a rest, that well, below
 * what only a full battery stands at, V a block (common practice, no source).
 */
const FLAT = { rest: 3 * HOUR, every: 24 * HOUR, deviation: 0.15, to: 13.4 };

/** A lithium voltage says something below this, V a block: the knee. */
const KNEE = 12.85;

/**
 * The battery's voltage in calm hours long after a charge. For lead all the way, though by a table that does not know this battery; for
 * lithium only under its knee. Surface charge and loads make none.
 */
export function restAnchors(bank: KnownBank, grid: Grid, amps: Float32Array, volts: Float32Array): Anchor[] {
  const lead = isLead(bank.chemistry);
  const blocks = blocksInSeries(bank);
  const found: Anchor[] = [];
  let chargedAt = -Infinity;
  let last = -Infinity;
  let strainedAt = -Infinity;
  let drawnAt = -Infinity;
  let flatAt = -Infinity;
  let lastCharge = NaN;
  const settles = lead ? SETTLES.lead : SETTLES.lithium;
  const recovers = lead ? RECOVERS.lead : RECOVERS.lithium;
  for (let cell = 0; cell < grid.count; cell++) {
    const part = amps[cell]! / bank.capacityAh;
    if (part !== part) continue;
    const at = cellStart(grid, cell);
    if (part > CALM.taken) chargedAt = at;
    if (part < -CALM.drawn) strainedAt = at;
    if (part < -CALM.taken) drawnAt = at;
    // A source that begins to take the loads over charges before it shows, and lifts the voltage.
    if (part > 0 && at - drawnAt < recovers) continue;
    const perBlock = volts[cell]! / blocks;
    const soon = lead && perBlock < NO_MORE.volts ? NO_MORE.within : recovers;
    if (perBlock !== perBlock || at - strainedAt < soon) continue;
    const sealed = lead && bank.chemistry !== 'flooded' ? SEALED : 0;
    const rest = perBlock + (lead ? DROP.lead : DROP.lithium) * Math.max(0, -part) - sealed;
    const charge = restPercent(bank.chemistry, rest) / 100;
    // What takes current stands above its rest: under the end of the table even so, it is empty.
    const isEmpty = lead && charge <= 0;
    if (at - chargedAt < settles && !isEmpty) continue;
    // Nothing was seen before the start of a log.
    if (chargedAt === -Infinity && at - cellStart(grid, 0) < settles) continue;
    if (at - last < EVERY && !(Math.abs(charge - lastCharge) > OTHER)) continue;
    if (lead) {
      if (perBlock < 11.3 || perBlock > 13.1) continue;
      // Under the end of its table a voltage no longer says how far.
      if (charge > 0) found.push({ kind: 'rest', at, until: at, charge, deviation: 0.07, byTable: 1 });
      else
        found.push({
          kind: 'empty',
          at,
          until: at,
          ...EMPTY,
          byTable: clamp(1 - (restVolts(bank.chemistry, 0) - rest) / SURELY, 0, 1),
        });
    } else {
      if (perBlock < 9 || perBlock > FLAT.to) continue;
      if (perBlock > KNEE) {
        if (at - chargedAt < FLAT.rest || at - flatAt < FLAT.every) continue;
        flatAt = at;
        found.push({
          kind: 'flat',
          at,
          until: at,
          charge: Math.min(charge, 0.9),
          deviation: FLAT.deviation,
          byTable: 1,
        });
        continue;
      }
      found.push({ kind: perBlock < 12 ? 'empty' : 'rest', at, until: at, charge, deviation: 0.04 });
    }
    last = at;
    lastCharge = charge;
  }
  return found;
}

/** A BMS counts its own cells: trusted before the monitor, though not without bounds. */
const BMS = { every: 6 * HOUR, deviation: 0.05 };

export function bmsAnchors(timeline: Timeline, grid: Grid): Anchor[] {
  const bms = logOf(timeline, 'bms', 'soc');
  if (!bms) return [];
  const reading = toGrid(bms.time, bms.channels.soc!, grid);
  const found: Anchor[] = [];
  let last = -Infinity;
  for (let cell = 0; cell < grid.count; cell++) {
    const at = cellStart(grid, cell);
    if (reading[cell]! !== reading[cell]! || at - last < BMS.every) continue;
    found.push({ kind: 'bms', at, until: at, charge: reading[cell]! / 100, deviation: BMS.deviation });
    last = at;
  }
  return found;
}

/**
 * A lead battery is as good as empty when its voltage falls off its knee at a usual current: V a block at next to no current, and what
 * it may be lower by, V for a current that would empty it in an hour; what is left for each V above the least. Empty and rested it stands at 11.9 V (Battery Council
 * International, from memory).
 */
const LEAD_KNEE = { volts: 11.65, falls: 3, atLeast: 11.2, left: 0.06 };
const leadKnee = (part: number): number =>
  Math.max(LEAD_KNEE.atLeast, LEAD_KNEE.volts + LEAD_KNEE.falls * part);

export function emptyAnchors(bank: KnownBank, grid: Grid, amps: Float32Array, volts: Float32Array): Anchor[] {
  const lead = isLead(bank.chemistry);
  const blocks = blocksInSeries(bank);
  const found: Anchor[] = [];
  let last = -Infinity;
  for (let cell = 1; cell < grid.count; cell++) {
    const part = amps[cell]! / bank.capacityAh;
    const perBlock = volts[cell]! / blocks;
    const at = cellStart(grid, cell);
    const drawn = part < -0.002 && part > (lead ? -0.08 : -0.3);
    if (!drawn || perBlock > (lead ? leadKnee(part) : 11.6) || perBlock < 6 || at - last < EVERY) continue;
    // The higher it stands as it comes to the knee, the more is left below it.
    const charge = lead ? EMPTY.charge + LEAD_KNEE.left * Math.max(0, perBlock - LEAD_KNEE.atLeast) : 0.04;
    found.push({ kind: 'empty', at, until: at, charge, deviation: lead ? EMPTY.deviation : 0.04 });
    last = at;
  }
  return found;
}

/**
 * A low-cell trip of the BMS with the mean of all cells near the knee: the whole battery is as good as empty, V a cell (common practice,
 * no source). With a healthy mean it says something of that cell alone.
 */
const TRIP = { lowest: 2.9, mean: 3.05, charge: 0.04, deviation: 0.05 };

export function tripAnchors(timeline: Timeline): Anchor[] {
  const trips = refusalsOf(timeline, 'bms_discharge_allowed') ?? [];
  return trips
    .filter((one) => one.lowestV <= TRIP.lowest && one.meanAtLowestV <= TRIP.mean)
    .map(({ from }) => ({
      kind: 'empty',
      at: from,
      until: from,
      charge: TRIP.charge,
      deviation: TRIP.deviation,
    }));
}

/** Cell in which an anchor lies. */
export const cellOfAnchor = (grid: Grid, anchor: Anchor): number =>
  clamp(cellOf(grid, anchor.at), 0, grid.count - 1);
