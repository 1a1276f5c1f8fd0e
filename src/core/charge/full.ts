/** Whether a charge got the battery truly full, or only says so. */

import { isNumber } from '../quantity/numbers';
import { HOUR, MINUTE, type Span } from '../quantity/span';
import {
  blocksInSeries,
  CHEMISTRY,
  expectedVolts,
  FULL_LITHIUM_STANDS,
  fullTailAmps,
  isLead,
} from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { cellAt, cellStart } from '../log/grid';
import { heatOf } from './bySetting';
import type { Setpoints } from './setpoint';
import type { Charge, Stage } from './types';
import { at25, type ChargeView } from './view';

/** A battery that is full already lets a charger end absorption soon; what is shorter than this is a jump of the voltage. */
const LEAST_ABSORPTION = 3 * MINUTE;

/** V a 12 V block above its float at which another source plainly holds more than a float. */
const ABOVE_FLOAT = 0.3;
/** At its tail for so long the battery is full, whoever holds the voltage; the voltage of lithium falls at once when the current does. */
const AT_TAIL = { lead: 10 * MINUTE, lithium: 2 * MINUTE };

/**
 * What a meter whose zero is off may show of a battery that takes nothing, parts of the capacity in A: lithium that gives no more than
 * that and stands at its charge voltage all the same is full.
 */
const ABOUT_NOTHING = 0.005;

/** What comes within so long belongs to the same time. */
const AGAIN = 2 * HOUR;

/** V a 12 V block by which a plateau may lie under the battery's range and still fill it, given its tail. */
const STILL_FILLS = 0.2;
/** And by how much more where its temperature is not known. */
export const WEATHER = 0.2;

/**
 * Held at a voltage that can fill this battery until its current was down to the full tail, by this source or by another; or after that
 * long on float, where the lower voltage asks for a far smaller current. At a plateau that is too low the current falls too: that
 * proves nothing.
 * @param alone the charger has a log of its own current, and there is no other source
 */
export function isFull(
  charge: Charge,
  bank: KnownBank,
  view: Pick<ChargeView, 'ampNoise' | 'blocks'>,
  alone = false,
): boolean {
  if (charge.heldFull.length > 0 || charge.fullOnFloat.length > 0) return true;
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  return charge.stages.some((one) => {
    if (one.stage !== 'absorption' && one.stage !== 'equalise') return false;
    const amps = taken(one, view, alone)?.atEnd;
    return (
      amps !== undefined &&
      !one.cutOff &&
      one.heldMs >= LEAST_ABSORPTION &&
      ((100 * amps) / bank.capacityAh <= fullTailPercent || isSteady(one, amps, charge, bank)) &&
      fills(one, bank, view.blocks)
    );
  });
}

/**
 * What the battery takes in a stage, A, at its end and as a rule; what collapses at the end is no tail. Null where the BMS lets none in, or a
 * load draws from the battery. A meter whose zero is off shows a battery drawn on that is held: no more goes in than its only charger gives.
 */
function taken(
  stage: Stage,
  { ampNoise }: Pick<ChargeView, 'ampNoise'>,
  alone: boolean,
): { atEnd: number; usual: number } | null {
  const lost = stage.endedBy === 'source-lost' || stage.endedBy === 'load';
  const shown = lost ? stage.settledAmps : stage.endAmps;
  const isDrawn = shown < -3 * ampNoise;
  if (stage.blocked || (isDrawn && !(alone && stage.endAmpsAreBattery))) return null;
  return isDrawn
    ? { atEnd: lost ? stage.usualSourceAmps : stage.endSourceAmps, usual: stage.usualSourceAmps }
    : { atEnd: shown, usual: stage.settledAmps };
}

/** The floats that show by themselves that the battery is full: for hours after an absorption, or for days, with next to nothing flowing. */
export function fullOnFloat(
  stages: readonly Stage[],
  bank: KnownBank,
  view: Pick<ChargeView, 'ampNoise' | 'blocks'>,
  alone = false,
): Span[] {
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  const found = stages.filter((one, i) => {
    const amps = one.stage === 'float' ? taken(one, view, alone)?.usual : undefined;
    if (amps === undefined) return false;
    const onFloat = (100 * amps) / bank.capacityAh;
    // What an absorption at too low a voltage has left goes in over days.
    const absorbed = stages
      .slice(0, i)
      .filter((before) => before.stage === 'absorption' && fills(before, bank, view.blocks));
    const endedLow = absorbed.some((before) => before.endAmps <= ENDED_LOW * fullTailAmps(bank));
    const least = fullTailPercent / (endedLow ? ON_FLOAT.usual : ON_FLOAT.early);
    return (
      (absorbed.length > 0 || fillsOnFloat(one, bank)) &&
      one.heldMs > 4 * HOUR &&
      one.endAmpsAreBattery &&
      (onFloat <= least || (onFloat <= fullTailPercent / 4 && keepsOnly(one, absorbed, bank))) &&
      one.volts >= leastOnFloat(one, bank, view.blocks)
    );
  });
  return found.map(({ from, to }) => ({ from, to }));
}

/** V at which a float may keep it full. */
function leastOnFloat(float: Stage, bank: KnownBank, blocks: number): number {
  const celsius = heatOf(float);
  const least = expectedVolts(bank, 'float', celsius).min - (celsius === celsius ? 0 : WEATHER * blocks);
  return isLead(bank.chemistry) ? least : Math.max(least, FULL_LITHIUM_STANDS * blocks);
}

/**
 * On float a full battery takes this part of its tail. Where absorption was broken off above so many tails it must take far less: what is
 * missing goes in so slowly at the lower voltage that the current is small all the same.
 */
const ON_FLOAT = { usual: 8, early: 20 };
const ENDED_LOW = 1.5;

/** A day on float fills lead from wherever its charge was left off, where the current has come down to one that keeps it (common practice, no source). */
export const FILLS_ON_FLOAT = 24 * HOUR;

const fillsOnFloat = ({ heldMs }: Stage, bank: KnownBank): boolean =>
  isLead(bank.chemistry) && heldMs > FILLS_ON_FLOAT;

/**
 * After so long on float a current that no longer falls, by parts of the capacity an hour in A, only keeps lead full; where absorption had
 * come down to so many tails: float goes on for days with what a short absorption has left.
 */
const KEEPS = { after: 8 * HOUR, falls: 0.0003, tails: 2 };

const keepsOnly = (float: Stage, absorbed: readonly Stage[], bank: KnownBank): boolean =>
  isLead(bank.chemistry) &&
  float.heldMs > KEEPS.after &&
  Math.abs(float.fallsPerHour) <= KEEPS.falls * bank.capacityAh &&
  (fillsOnFloat(float, bank) || absorbed.some((one) => one.endAmps <= KEEPS.tails * fullTailAmps(bank)));

/**
 * A current that no longer falls after hours at the charge voltage goes to gas, or is a meter's zero: an old lead battery takes several
 * per cent for ever. By no more than so much of the capacity an hour, A; and no more than `most`, and what a voltage above the range adds to
 * it, unless bulk gave plainly more: a charger at its limit shows a steady current too.
 */
const STEADY = { falls: 0.00125, most: 0.05, bulk: 1.25 };

export function isSteady(stage: Stage, amps: number, { stages }: Charge, bank: KnownBank): boolean {
  const { fallsPerHour, endSourceAmps } = stage;
  if (!isLead(bank.chemistry) || !(Math.abs(fallsPerHour) <= STEADY.falls * bank.capacityAh)) return false;
  return (
    amps <= STEADY.most * bank.capacityAh * Math.exp(foldsOver(stage, bank)) ||
    stages.some((one) => one.stage === 'bulk' && one.usualSourceAmps > STEADY.bulk * endSourceAmps)
  );
}

/** V a cell by which a lower voltage takes the current of lead down to 1/e: a Tafel slope of 120 mV a decade (from memory). */
export const TAFEL = 0.052;

/** What lies between charger and battery costs voltage: the battery's own, where it was logged, says what it gets. */
export const ownVolts = ({ batteryVolts, volts }: Stage): number =>
  isNumber(batteryVolts) ? batteryVolts : volts;

/** How often a voltage above its range multiplies the current of lead by e: what flows then is mostly gas. */
export function foldsOver(stage: Stage, bank: KnownBank): number {
  const weather = isNumber(heatOf(stage)) ? 0 : WEATHER * blocksInSeries(bank);
  const over = ownVolts(stage) - expectedVolts(bank, 'absorption', heatOf(stage)).max - weather;
  return Math.max(0, over) / bank.cellsInSeries / TAFEL;
}

/** At the battery or at the charger, whichever is higher: what lies between them costs voltage, and a meter may read low. */
const highestVolts = ({ batteryVolts, volts }: Stage): number =>
  batteryVolts === batteryVolts ? Math.max(batteryVolts, volts) : volts;

/** Whether it was held high enough to fill the battery. */
export const fills = (stage: Stage, bank: KnownBank, blocks: number): boolean =>
  highestVolts(stage) >= fillingVolts(stage, bank, blocks);

/** Least voltage that fills the battery, given its tail, V. */
function fillingVolts(stage: Stage, bank: KnownBank, blocks: number): number {
  const celsius = heatOf(stage);
  const known = celsius === celsius || !isLead(bank.chemistry);
  return expectedVolts(bank, 'absorption', celsius).min - (STILL_FILLS + (known ? 0 : WEATHER)) * blocks;
}

/**
 * When the battery stood at its tail at a height that fills it though its own charger was in no absorption. Others held the voltage: from
 * the end of a while at the tail to the end of the stage. Or it is lithium, which is full when it comes to the voltage, in whatever
 * stage: each time for as long as it stood there. Empty where that is not seen.
 */
export function heldFullBy(
  stages: readonly Stage[],
  bank: KnownBank,
  view: ChargeView,
  { floatVolts, voltsPerC }: Pick<Setpoints, 'floatVolts' | 'voltsPerC'>,
): Span[] {
  const { grid, batteryAmps, batteryNoise, blocks } = view;
  if (!batteryAmps) return [];
  const volts = view.batteryVolts ?? view.volts;
  const aboveFloat = floatVolts + ABOVE_FLOAT * blocks;
  const tail = fullTailAmps(bank);
  const lithium = !isLead(bank.chemistry);
  const gives = Math.max(3 * batteryNoise, lithium ? ABOUT_NOTHING * bank.capacityAh : 0);
  // Two samples at least: between logs of different steps one shows the voltage of now beside a current of before.
  const atTailFor = Math.max(2 * grid.step, lithium ? AT_TAIL.lithium : AT_TAIL.lead);
  const found: Span[] = [];
  for (const stage of stages) {
    const others = stage.stage === 'hold';
    if (stage.blocked || !(others || (lithium && stage.stage === 'bulk'))) continue;
    const least = fillingVolts(stage, bank, blocks);
    let atTail = 0;
    let spell: Span | null = null;
    for (let cell = cellAt(grid, stage.from); cell <= cellAt(grid, stage.to); cell++) {
      const amps = batteryAmps[cell]!;
      const high = volts[cell]! >= least && at25(view, cell, voltsPerC) >= aboveFloat;
      const isAtTail = high && amps >= -gives && amps <= tail;
      atTail = isAtTail ? atTail + grid.step : 0;
      const at = cellStart(grid, cell);
      if (spell && (others || at - spell.to <= AGAIN)) {
        if (isAtTail && !others) spell.to = at;
        continue;
      }
      if (atTail < atTailFor) continue;
      spell = { from: at, to: others ? stage.to : at };
      found.push(spell);
    }
  }
  return found;
}
