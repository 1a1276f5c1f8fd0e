/** Where a charger that nobody sees charges too: what the monitor counts is not what went in. */

import { sum } from '../quantity/numbers';
import { HOUR, type Span } from '../quantity/span';
import { cellOf, cellStart, type Grid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import type { Through } from './through';
import type { Unseen } from './unseen';

/** Now and then a voltage stands while loads draw; a charger that nobody sees makes hours of it. */
const HOURS = 3;
/**
 * Parts of the capacity that go in unseen in an hour, one standard deviation: where it holds the voltage, it makes up for the loads, and
 * what it gives beside falls to next to nothing within some hours.
 */
const HELD = 0.05;
const SETTLED = { part: 0.005, after: 6 * HOUR };
/**
 * On its way there it gives half of what it is rated for, more or less: parts of the rating, and which part of the capacity that is where no
 * rating is known. Between these the deviation lies, parts of the capacity.
 */
const ON_ITS_WAY = { gives: 0.5, deviation: 0.8, unknown: 0.15, least: HELD, most: 0.2 };
/** V a 12 V block above which no battery rests, and how far under its top a charger has come to where it holds. */
const CHARGED_V = { lead: 12.9, lithium: 13.5, there: 0.15 };

/** What goes in unseen in an hour, and one standard deviation of it, which is nought where nothing does; parts of the capacity, a value a cell. */
export interface Blind {
  gives: Float64Array;
  deviation: Float64Array;
}

/** @param volts on the grid @param cells of the ledger */
export function blindOf(
  { bank, sources }: KnownSystem,
  timeline: Timeline,
  { grid, volts }: { grid: Grid; volts: Float32Array | null },
  unseen: Unseen | null,
  cells: Grid,
): Blind {
  const blind: Blind = { gives: new Float64Array(cells.count), deviation: new Float64Array(cells.count) };
  if (!unseen || !volts || unseen.hours <= HOURS) return blind;
  const markHeld = ({ from, to }: Span) => {
    const settled = Math.min(to, from + SETTLED.after);
    mark({ from, to: settled }, HELD);
    mark({ from: settled, to }, SETTLED.part);
  };
  const mark = ({ from, to }: Span, deviation: number, gives = 0) => {
    const last = Math.min(cells.count - 1, cellOf(cells, to));
    for (let k = Math.max(0, cellOf(cells, from)); k <= last; k++) {
      blind.deviation[k] = Math.max(blind.deviation[k]!, deviation);
      blind.gives[k] = gives;
    }
  };
  const silent = sources.filter(({ id }) => !logOf(timeline, id, 'source_current'));
  if (silent.length === 0) {
    unseen.spans.forEach(markHeld);
    return blind;
  }
  const { gives, deviation } = onItsWay(silent, bank.capacityAh);
  const blocks = blocksInSeries(bank);
  const level = (isLead(bank.chemistry) ? CHARGED_V.lead : CHARGED_V.lithium) * blocks;
  for (const { from, to } of unseen.spans) {
    let first = Math.max(0, cellOf(grid, from));
    const last = Math.min(grid.count, cellOf(grid, to));
    while (first > 0 && volts[first - 1]! >= level) first--;
    const stretch = volts.subarray(first, last);
    const there = stretch.reduce((most, one) => Math.max(most, one), 0) - CHARGED_V.there * blocks;
    const rises = Math.max(
      0,
      stretch.findIndex((one) => one >= there),
    );
    const held = cellStart(grid, first + rises);
    if (rises > 0) mark({ from: cellStart(grid, first), to: held }, deviation, gives);
    markHeld({ from: held, to });
  }
  return blind;
}

function onItsWay(sources: readonly Source[], capacityAh: number): { gives: number; deviation: number } {
  const { least, most, unknown } = ON_ITS_WAY;
  const rated = sum(sources.map(({ ratedA }) => ratedA ?? unknown * capacityAh)) / capacityAh;
  const part = Math.min(rated, most / ON_ITS_WAY.deviation);
  return { gives: ON_ITS_WAY.gives * part, deviation: Math.max(least, ON_ITS_WAY.deviation * part) };
}

/** What went through the battery: where somebody charges whom the monitor does not see, the loads that it shows draw on that charger. */
export function besideUnseen(through: Through, { gives, deviation }: Blind, capacityAh: number): Through {
  const apart = (values: Float64Array) => values.map((one, k) => (deviation[k]! > 0 ? 0 : one));
  return {
    ...through,
    in: through.in.map((one, k) => one + gives[k]! * capacityAh * through.hours[k]!),
    out: apart(through.out),
    hours: apart(through.hours),
  };
}
