/** What the two causes of a low cell share: which cell is empty first, and where it stands when the others are full. */

import { APART, type AtTop, placeAtTop } from '../cells/verdict';
import { isNumber } from '../quantity/numbers';
import { counted } from '../quantity/text';
import { deviceName } from '../system/sourceName';
import { type Bands, type Evidence, type Judged, shrunk, weightOf } from './cause';
import { cuttingOf } from './cutting';

/** Weights of a cell that comes to its lower end first: V under the mean, and where it was not always the same one. */
export const FIRST_LOW = {
  under: [
    [0.25, 10],
    [0.12, 6],
    [0.05, 0],
    [0, -10],
  ],
  others: -8,
  /** As good as empty with the others: on the knee little charge is much voltage. */
  hardly: -8,
} as const satisfies Record<string, Bands | number>;

export interface LowCell {
  cell: string;
  /** Mostly one and the same, and empty well before the others. */
  isSame: boolean;
  atTop: AtTop;
  /** How often that was looked at: near the top of charges, or at the highest of each day where none came near it. */
  looked: number;
  isBelow: boolean;
  /** Ah behind the others at the top, and empty before them at the bottom; NaN where not known. */
  behindAh: number;
  shortAh: number;
  evidence: Evidence;
}

/** Null without cells or without an end that was seen. */
export function lowCell(seen: Judged): LowCell | null {
  const { cells } = seen;
  const low = cells?.low;
  if (!cells || !low) return null;
  const own = cells.figures.find((one) => one.cell === low.cell)!;
  const { times, ampHours, most } = own.shortAtBottom;
  const isOne = low.times >= 0.7 * low.of;
  const isBelow = cells.tops === 0;
  const isHardly = isOne && times > 0 && most < APART.part * cells.capacityAh;
  return {
    cell: low.cell,
    isSame: isOne && !isHardly,
    atTop: placeAtTop(cells, own, cells.capacityAh),
    looked: isBelow ? own.behindAtHigh.times : cells.tops,
    isBelow,
    behindAh: (isBelow ? own.behindAtHigh : own.behindAtTop).ampHours,
    shortAh: own.shortAtBottom.ampHours,
    evidence: {
      text: `Cell ${low.cell}${batteryWords(seen, cells.battery)} was the lowest ${counted(low.times, 'time')} of ${low.of}, ${Math.round(1000 * low.apart)} mV under the mean${isHardly ? `, yet empty only ${ampHours.toFixed(1)} Ah before the others` : ''}.`,
      decibans: isHardly
        ? FIRST_LOW.hardly
        : isOne
          ? shrunk(weightOf(FIRST_LOW.under, low.apart), low.times)
          : FIRST_LOW.others,
      group: 'low',
      spans: cuttingOf(seen)?.spans ?? [],
    },
  };
}

type WeightsAt = Readonly<Record<Exclude<AtTop, 'unknown'> | 'behindBelow' | 'levelBelow', number>>;

/** The weight of where it stands, told better near the top of charges than below. */
export function weightAt(weights: WeightsAt, { atTop, isBelow }: LowCell): number {
  if (atTop === 'unknown') return 0;
  if (!isBelow) return weights[atTop];
  return atTop === 'behind' ? weights.behindBelow : weights.levelBelow;
}

/** How it moves from the bottom to the highest of each day, where no charge comes near the top. */
export const belowText = ({ atTop, behindAh, shortAh }: LowCell): string =>
  atTop === 'level'
    ? `No charge came near the top. From its lowest to the highest of each day it catches up, from ${ampHourText(shortAh)} behind to ${ampHourText(behindAh)}: it holds less.`
    : `No charge came near the top. At the highest of each day it is behind by nearly as much as when it is empty${lagText(behindAh)}: it holds as much, but starts from less.`;

/** " of Battery 2" where there are several. */
export const batteryWords = ({ system }: Pick<Judged, 'system'>, battery: string | null): string =>
  battery === null ? '' : ` of ${deviceName(system, battery)}`;

const ampHourText = (ampHours: number): string =>
  `${ampHours < 10 ? ampHours.toFixed(1) : Math.round(ampHours)} Ah`;

/** ", 12 Ah behind" where that is known */
export const lagText = (ampHours: number): string =>
  isNumber(ampHours) && ampHours > 0 ? `, ${ampHourText(ampHours)} behind` : '';
