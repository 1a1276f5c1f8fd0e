/** What the battery's voltage tells of the state: at rest, and at the knee where it is empty. */

import { clamp } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { cellStart, type Grid } from '../log/grid';
import { blocksInSeries, deadVolts, FULL_LITHIUM_STANDS, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { bankOhms } from '../system/sag';
import { LOAD_DROPS, restPercent, restVolts } from '../system/restVoltage';
import type { Anchor } from './anchors';

/** Lead that is empty has a little left, as its label counts (common practice, no source). */
const EMPTY = { charge: 0.01, deviation: 0.06 };
/** So far under the end of its table no table is off, V a block: what stands there is empty by any (common practice, no source). */
const SURELY = 0.2;
/** Small enough to tell the state by, parts of the capacity: drawn, and taken. */
const CALM = { drawn: 0.03, taken: 0.003 };
/** After charging the voltage stands too high for so long. */
export const SETTLES = { lead: 3 * HOUR, lithium: 1 * HOUR };
/** V a block above which lead is held by a charger, or was until just now, though next to nothing flows (common practice, no source). */
export const HELD = 12.95;
/** Sealed lead rests higher than flooded at the same charge, V a block (common practice, no source). */
const SEALED = 0.06;
/** A rest voltage speaks once in so long; or where the charge has changed by so much since, or lead has sunk further under its table. */
const EVERY = 8 * HOUR;
const OTHER = 0.15;
/** A load that comes and goes costs its resistance at once, and the rest by what it takes on the mean of such a time (common practice, no source). */
const LASTS = HOUR;
/** What a coarse meter shows of lead at rest is taken over so long, and tells of another charge no sooner. */
const STEADY = { over: 20 * MINUTE, again: HOUR };
/** After a heavy load the voltage comes back for so long. */
const RECOVERS = { lead: HOUR, lithium: 20 * MINUTE };
/**
 * What has come back to no more than this by then, V a 12 V block, is empty whatever it still comes back to; or as good as empty, where the
 * next charge does not leave it an hour (common practice, no source).
 */
const NO_MORE = { within: 20 * MINUTE, volts: 11.75 };
const HARDLY_MORE = { within: 30 * MINUTE, volts: 11.85, charge: 0.05, deviation: 0.09 };

/**
 * On its flat part a lithium voltage says little, and by makers' tables alone: once in so long, after so long a rest, that well (common
 * practice, no source).
 */
const FLAT = { rest: 3 * HOUR, every: 24 * HOUR, deviation: 0.15 };

/**
 * A lithium voltage says something below this, V a block: the knee. There makers' cells hold what the table says or half of it, and one
 * battery is the same each time: so much of the table (common practice, no source).
 */
const KNEE = 12.85;
const AT_KNEE = { part: 0.8, deviation: 0.03 };
/** There a source that gives no more than this part of its capacity hardly lifts it. */
const TRICKLE = 0.02;

/**
 * The battery's voltage in calm hours long after a charge. For lead all the way, though by a table that does not know this battery; for
 * lithium only under its knee. Surface charge and loads make none.
 */
export function restAnchors(bank: KnownBank, grid: Grid, amps: Float32Array, volts: Float32Array): Anchor[] {
  const lead = isLead(bank.chemistry);
  const blocks = blocksInSeries(bank);
  const dead = deadVolts(bank);
  const found: Anchor[] = [];
  let chargedAt = -Infinity;
  let last = -Infinity;
  let strainedAt = -Infinity;
  let drawnAt = -Infinity;
  let flatAt = -Infinity;
  let lastCharge = NaN;
  let lastRest = NaN;
  const settles = lead ? SETTLES.lead : SETTLES.lithium;
  const recovers = lead ? RECOVERS.lead : RECOVERS.lithium;
  const most = lead ? Math.max(1, Math.round(STEADY.over / grid.step)) : 1;
  const again = lead ? STEADY.again : 0;
  const rests = new Float64Array(most);
  let rested = 0;
  let sum = 0;
  let restedAt = -Infinity;
  /** What it gave over the last hours, parts of the capacity. */
  let lasting = 0;
  const follows = 1 - Math.exp(-grid.step / LASTS);
  const ohms = (bankOhms(bank) * bank.capacityAh) / blocks;
  const leadDrop = (drawn: number) => LOAD_DROPS.lead * lasting + ohms * (Math.max(0, drawn) - lasting);
  for (let cell = 0; cell < grid.count; cell++) {
    const part = amps[cell]! / bank.capacityAh;
    if (part !== part) continue;
    const at = cellStart(grid, cell);
    // A heavy load is waited for.
    if (part >= -CALM.drawn) lasting += (Math.max(0, -part) - lasting) * follows;
    if (part > CALM.taken || (lead && volts[cell]! > HELD * blocks)) chargedAt = at;
    if (part < -CALM.drawn) strainedAt = at;
    if (part < -CALM.taken) drawnAt = at;
    // A source that begins to take the loads over charges before it shows, and lifts the voltage.
    if (part > 0 && at - drawnAt < recovers) continue;
    const perBlock = volts[cell]! / blocks;
    // A bus without its battery rests at nothing.
    if (!(volts[cell]! >= dead) || at - strainedAt < (lead ? comesBack(perBlock) : recovers)) continue;
    const sealed = lead && bank.chemistry !== 'flooded' ? SEALED : 0;
    const now = perBlock + (lead ? leadDrop(-part) : LOAD_DROPS.lithium * Math.max(0, -part)) - sealed;
    if (at - restedAt > 2 * grid.step) rested = sum = 0;
    if (rested >= most) sum -= rests[rested % most]!;
    rests[rested++ % most] = now;
    sum += now;
    restedAt = at;
    const rest = sum / Math.min(rested, most);
    const charge = restPercent(bank.chemistry, rest) / 100;
    // What takes current stands above its rest: under the end of the table even so, it is empty.
    const isEmpty = lead && charge <= 0;
    const isLow = !lead && perBlock < KNEE && part < TRICKLE;
    if (at - chargedAt < settles && !isEmpty && !isLow) continue;
    // Nothing was seen before the start of a log.
    if (chargedAt === -Infinity && at - cellStart(grid, 0) < settles) continue;
    const isOther = Math.abs(charge - lastCharge) > OTHER || (isEmpty && lastRest - rest > SURELY / 2);
    if (at - last < (isOther ? again : EVERY)) continue;
    if (lead) {
      if (perBlock < 11.3 || perBlock > 13.1) continue;
      // Under the end of its table a voltage no longer says how far.
      if (charge > 0) found.push({ kind: 'rest', at, until: at, charge, deviation: 0.07, byTable: 1 });
      else
        found.push({
          kind: 'empty',
          at,
          until: at,
          ...(perBlock >= NO_MORE.volts && at - strainedAt < recovers
            ? { charge: HARDLY_MORE.charge, deviation: HARDLY_MORE.deviation }
            : EMPTY),
          byTable: clamp(1 - (restVolts(bank.chemistry, 0) - rest) / SURELY, 0, 1),
        });
    } else {
      if (perBlock < 9 || perBlock > FULL_LITHIUM_STANDS) continue;
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
      found.push({
        kind: perBlock < 12 ? 'empty' : 'rest',
        at,
        until: at,
        charge: AT_KNEE.part * charge,
        deviation: AT_KNEE.deviation,
        atKnee: true,
      });
    }
    last = at;
    lastCharge = charge;
    lastRest = rest;
  }
  return found;
}

/** So long after a heavy load the voltage of lead has come back far enough to tell. @param volts a 12 V block, now */
function comesBack(volts: number): number {
  const of = [NO_MORE, HARDLY_MORE].find((one) => volts < one.volts);
  return of ? of.within : RECOVERS.lead;
}

/**
 * A lead battery is as good as empty when its voltage falls off its knee at a usual current: V a block at next to no current, and what
 * it may be lower by, V for a current that would empty it in an hour; what is left for each V above the least. Empty and rested it stands at 11.9 V (Battery Council
 * International, from memory).
 */
const LEAD_KNEE = { volts: 11.65, falls: 3, atLeast: 11.2, left: 0.06 };
const leadKnee = (part: number): number =>
  Math.max(LEAD_KNEE.atLeast, LEAD_KNEE.volts + LEAD_KNEE.falls * part);

/** Lithium at its knee has a little left, and nothing where its cells are at 2.5 V (common practice, no source): V a 12 V block, parts. */
const LITHIUM_END = { most: 11.6, none: 10.2, left: 0.04 };
const lithiumLeft = (perBlock: number, part: number): number => {
  const { most, none, left } = LITHIUM_END;
  return left * clamp((perBlock - LOAD_DROPS.lithium * part - none) / (most - none), 0, 1);
};

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
    const isLow = perBlock >= 6 && perBlock <= (lead ? leadKnee(part) : LITHIUM_END.most);
    if (!drawn || !isLow || at - last < EVERY) continue;
    // The higher it stands as it comes to the knee, the more is left below it.
    const left = lead
      ? LEAD_KNEE.left * Math.max(0, perBlock - LEAD_KNEE.atLeast)
      : lithiumLeft(perBlock, part);
    const charge = lead ? EMPTY.charge + left : left;
    found.push({ kind: 'empty', at, until: at, charge, deviation: lead ? EMPTY.deviation : 0.04 });
    last = at;
  }
  return found;
}
