/** How the charge of a battery moves by what flows, with its unknowns, and what is known of these before a log is read. */

import { HOUR } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Anchor } from './anchors';
import { gassedCells, GASSING, keptCells, nearTop } from './kept';
import type { Motion, smooth } from './smoother';
import type { Through } from './through';

/** What is known beforehand, by common practice: label against truth, efficiency below the gassing voltage. */
const ASSUMED = {
  lead: { capacity: 0.1, efficiency: 0.94, efficiencyDeviation: 0.07 },
  lithium: { capacity: 0.05, efficiency: 0.995, efficiencyDeviation: 0.01 },
};
export const assumedOf = ({ chemistry }: Pick<KnownBank, 'chemistry'>) =>
  isLead(chemistry) ? ASSUMED.lead : ASSUMED.lithium;

/** Zero error, A: of any meter, and a part of the capacity. */
const ZERO = { amps: 0.03, part: 0.0006 };
/** What a meter's zero is usually off by, A. */
export const usualZero = ({ capacityAh }: Pick<KnownBank, 'capacityAh'>): number =>
  ZERO.amps + ZERO.part * capacityAh;

/** Where nothing is known a battery may be anywhere, parts of the capacity. */
const START = { lead: 0.7, lithium: 0.6, deviation: 0.35 };
/**
 * A table of rest voltages that does not know this battery: what all rests of a log are off by, parts of the capacity, and how much
 * steeper or flatter its curve may be about the middle.
 */
const TABLE = { level: { lead: 0.08, lithium: 0.2 }, slope: 0.12 };
/** The same under the knee of lithium. */
const KNEE = 0.04;
/** What the current at the end of a charge says that it lacks may be more or less by, on one battery: parts of it. */
const LACKS = 0.5;

/** What counting itself is off by: for a battery that was drawn and filled once, and for a day; parts of the capacity. */
const COUNTING = { cycle: 0.03, day: 0.015 };
/** By how much more where the log was written too seldom. */
const COARSE = 3;
/** Near the top part of what goes in is lost to gas, and it varies: variance for each part of the capacity that goes in there. */
const TOP_VARIANCE = 0.004;
/** The same of what goes in above its range since absorption began: some of it, or hardly any, is kept. */
const GASSED_VARIANCE = 0.03;

/**
 * Ah beyond what was drawn that Peukert's law takes off at a rate above that of twenty hours (W. Peukert, Elektrotechnische Zeitschrift
 * 20, 1897); how much of it a battery truly loses is open, and the log may tell: most of it comes back with time.
 */
const RATE = { exponent: 1.2, hours: 20, share: 0.35 };
const rateLoss = (out: number, hours: number, capacityAh: number): number =>
  out * (Math.max(1, (out / hours / capacityAh) * RATE.hours) ** (RATE.exponent - 1) - 1);

/**
 * Level; capacity (parts, as its inverse), loss of what goes in (parts), zero error (parts of the capacity an hour), what a high rate costs
 * lead (parts of what Peukert's law says) or what lithium's table is off by under its knee; rest table: level and slope; what charges
 * lack (parts of what their current says).
 */
const SIZE = 8;

export interface MotionInput {
  bank: KnownBank;
  through: Through;
  anchors: readonly Anchor[];
  /** Parts of the capacity that a charger which nobody sees may give in an hour, one standard deviation, a value a cell. */
  blind?: Float64Array;
  /** Cells in which lead is held far above its range. */
  overcharged?: Uint8Array;
  /** Cells in which it is past empty. */
  spent?: Uint8Array;
  /** The current moved more between samples than its mean tells. */
  coarse?: boolean;
}

/** The motion of this battery if it holds `c` Ah: what is lost goes by what it holds. */
export function motionsOf({
  bank,
  through,
  anchors,
  blind,
  overcharged,
  spent,
  coarse,
}: MotionInput): (c: number) => Motion {
  const { grid } = through;
  const { count } = grid;
  const { capacityAh } = bank;
  const lead = isLead(bank.chemistry);
  const { efficiency } = assumedOf(bank);
  const cycle = coarse ? COARSE * COUNTING.cycle : COUNTING.cycle;
  // What flows into a full lead battery is lost; lithium takes nothing, and gives to the loads what float does not.
  const kept = lead ? keptCells(anchors, grid) : new Uint8Array(count);
  const gassed = overcharged?.includes(1) ? gassedCells(anchors, through, capacityAh, overcharged) : null;
  gassed?.forEach((is, k) => is === GASSING.all && (kept[k] = 1));
  const near = nearTop(anchors, through, capacityAh);
  return (c) => {
    const drive = new Float64Array(count);
    const rows = new Float64Array(count * (SIZE - 1));
    const noise = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const into = kept[k] ? 0 : through.in[k]!;
      const out = kept[k] || spent?.[k] ? 0 : through.out[k]!;
      const net = (into - out + through.hidden[k]!) / c;
      const hours = kept[k] ? 0 : through.hours[k]!;
      drive[k] = net - ((1 - efficiency) * into) / c;
      rows[k * (SIZE - 1)] = net;
      rows[k * (SIZE - 1) + 1] = -into / c;
      rows[k * (SIZE - 1) + 2] = hours;
      rows[k * (SIZE - 1) + 3] = lead && hours > 0 ? -rateLoss(out, hours, c) / c : 0;
      noise[k] =
        cycle ** 2 * ((into + out) / (2 * c)) +
        (COUNTING.day ** 2 * (grid.step / HOUR)) / 24 +
        (lead && near[k] ? (TOP_VARIANCE * into) / c : 0) +
        (gassed?.[k] === GASSING.some ? (GASSED_VARIANCE * into) / c : 0) +
        (through.hiddenError[k]! / c) ** 2 +
        (blind ? (blind[k]! ** 2 * grid.step) / HOUR : 0);
    }
    return { steps: count, size: SIZE, drive, rows, noise };
  };
}

/**
 * The unknowns before the log is read.
 * @param c Ah that the motion counts by @param open deviation of the capacity, parts of c, and of the meter's zero, parts of the label
 */
export function startOf(
  bank: KnownBank,
  c: number,
  open: { capacity: number; offset: number },
): Parameters<typeof smooth>[2] {
  const { capacityAh: label } = bank;
  const lead = isLead(bank.chemistry);
  return {
    state: [lead ? START.lead : START.lithium, c / label - 1, 0, 0, 0, 0, 0, 0],
    deviations: [
      START.deviation,
      (open.capacity * c) / label,
      assumedOf(bank).efficiencyDeviation,
      (open.offset * label) / c,
      lead ? RATE.share : KNEE,
      lead ? TABLE.level.lead : TABLE.level.lithium,
      TABLE.slope,
      LACKS,
    ],
  };
}
