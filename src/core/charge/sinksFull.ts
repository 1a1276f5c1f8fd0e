/**
 * Lithium that is let go at the top sinks slowly only where it is full: from the flat part of its curve it is back there within minutes,
 * whatever voltage the charger had driven it to.
 */

import { HOUR, MINUTE, type Span } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { cellAt, cellStart } from '../log/grid';
import type { Stage } from './types';
import type { ChargeView } from './view';

/**
 * V a 12 V block under which lithium may stand for minutes after a charge that did not fill it; for how long it stays higher when full; and
 * by how much it sinks meanwhile: what stands still is held by somebody (common practice, no source).
 */
const STANDS = { volts: 13.8, for: 5 * MINUTE, sinks: 0.05 };
/** Rows that must lie in that time: between two the voltage may be anything. */
const LEAST_CELLS = 3;
/** What comes within so long belongs to the same time. */
const AGAIN = 2 * HOUR;

/**
 * When it had stood so, drawn on or idle, after a charger let it go: once for each time.
 * @param known when it was seen to be full otherwise: these times are left out
 */
export function sinksFull(
  stages: readonly Stage[],
  bank: Pick<KnownBank, 'chemistry'>,
  { grid, volts: shown, batteryVolts, batteryAmps, batteryNoise, voltNoise, blocks }: ChargeView,
  known: readonly Span[] = [],
): Span[] {
  if (isLead(bank.chemistry) || !batteryAmps) return [];
  const volts = batteryVolts ?? shown;
  const cells = Math.max(LEAST_CELLS, Math.round(STANDS.for / grid.step));
  const found: Span[] = [];
  for (const stage of stages) {
    if (stage.blocked || stage.stage === 'absorption' || stage.stage === 'equalise') continue;
    let from = -1;
    for (let cell = cellAt(grid, stage.from); cell <= cellAt(grid, stage.to); cell++) {
      const stands = batteryAmps[cell]! <= 3 * batteryNoise && volts[cell]! >= STANDS.volts * blocks;
      const rises = from >= 0 && volts[cell]! > volts[cell - 1]! + 3 * voltNoise;
      if (!stands) from = -1;
      else if (from < 0 || rises) from = cell;
      if (from < 0 || cell - from < cells || volts[from]! - volts[cell]! < STANDS.sinks * blocks) continue;
      const at = cellStart(grid, cell);
      const isKnown = [...known, ...found].some((one) => at >= one.from - AGAIN && at <= one.to + AGAIN);
      if (!isKnown) found.push({ from: at, to: at });
      from = -1;
    }
  }
  return found;
}
