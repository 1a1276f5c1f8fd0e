/** Charging voltages while the monitor shows nothing but the loads: somebody charges whom it does not see. */

import { quantile } from '../quantity/numbers';
import { HOUR, MINUTE, mergeSpans, type Span } from '../quantity/span';
import { cellStart, type Grid } from '../log/grid';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';

/** Charging voltages while the monitor shows a current out of the battery. */
export interface Unseen {
  spans: Span[];
  hours: number;
  /** Median current then, and while the battery is drawn on at rest voltages, A. */
  amps: number;
  drawnAmps: number;
  /** Hours at charging voltage in all, as far as it stands there for long enough to tell. */
  ofHours: number;
}

/** V a 12 V block that no battery has which is being drawn on, some minutes after charging. */
const CHARGING_V = { lead: 13.3, lithium: 14 };
const PIECE = { lead: 30 * MINUTE, lithium: 10 * MINUTE };
/** What sinks too little in a piece is seen to sink in so long. */
const WINDOW = HOUR;

export const chargingVolts = (bank: KnownBank): number =>
  (isLead(bank.chemistry) ? CHARGING_V.lead : CHARGING_V.lithium) * blocksInSeries(bank);

export function unseenOf(
  { bank }: KnownSystem,
  grid: Grid,
  amps: Float32Array,
  volts: Float32Array,
): Unseen | null {
  const level = chargingVolts(bank);
  const out = 0.002 * bank.capacityAh;
  const spans: Span[] = [];
  const currents: number[] = [];
  const drawn: number[] = [];
  let atLevel = 0;
  let stood = 0;
  let from = -1;
  const blocks = blocksInSeries(bank);
  const least = Math.max(3, Math.round((isLead(bank.chemistry) ? PIECE.lead : PIECE.lithium) / grid.step));
  const window = Math.round(WINDOW / grid.step);
  // In pieces: a voltage that is held for hours and then let go is held for those hours.
  const close = (cell: number) => {
    for (let first = from; from >= 0 && cell - first >= least; first += least) {
      const last = cell - first >= 2 * least ? first + least : cell;
      const before = Math.max(from, last - window);
      const after = Math.min(cell, first + window);
      if (
        stands(volts, first, last, blocks) &&
        (stands(volts, before, last, blocks) || stands(volts, first, after, blocks))
      ) {
        spans.push({ from: cellStart(grid, first), to: cellStart(grid, last) });
        for (let i = first; i < last; i++) currents.push(amps[i]!);
      }
      if (last === cell) break;
    }
    from = -1;
  };
  for (let i = 0; i < grid.count; i++) {
    const charging = volts[i]! >= level;
    stood = charging ? stood + 1 : 0;
    if (stood >= least) atLevel += stood === least ? least : 1;
    if (charging && amps[i]! < -out) {
      if (from < 0) from = i;
      continue;
    }
    close(i);
    if (volts[i]! < level && amps[i]! < -out) drawn.push(amps[i]!);
  }
  close(grid.count);
  if (atLevel === 0) return null;
  return {
    spans: mergeSpans(spans, 10 * MINUTE),
    hours: (currents.length * grid.step) / HOUR,
    amps: quantile(currents, 0.5),
    drawnAmps: quantile(drawn, 0.5),
    ofHours: (atLevel * grid.step) / HOUR,
  };
}

/** V a 12 V block by which a held voltage may fall meanwhile; one that only lasts from a charge falls further. */
const FALLS = 0.03;

/** Whether the last third of a stretch stands as high as the first. */
function stands(volts: Float32Array, from: number, to: number, blocks: number): boolean {
  const third = Math.max(1, Math.floor((to - from) / 3));
  const first = quantile(volts.subarray(from, from + third), 0.5);
  const last = quantile(volts.subarray(to - third, to), 0.5);
  return last >= first - FALLS * blocks;
}
