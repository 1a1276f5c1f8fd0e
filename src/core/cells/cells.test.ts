import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { interpolate } from '../quantity/numbers';
import { knownSystem } from '../system/known';
import type { System } from '../system/schema';
import { cellsOf } from './cells';
import { cellVerdict } from './verdict';

/** Drawn by hand: a flat part between two steep ends, V against charge. Not the curve of any simulator here. */
const CURVE = [
  [-0.05, 1.8],
  [0, 2.55],
  [0.04, 2.95],
  [0.1, 3.14],
  [0.2, 3.22],
  [0.6, 3.29],
  [0.93, 3.335],
  [0.97, 3.4],
  [1, 3.55],
  [1.05, 4.2],
] as const;
const CAPACITY = 100;
const AMPS = 20;
const STEP = 60_000;

interface Cell {
  /** Parts of the capacity. */
  holds?: number;
  /** Ah under the others at the start. */
  under?: number;
  /** Ah a day that it loses by itself. */
  leaks?: number;
}

/** Full and empty once a day: charged and let out at a fifth of the capacity until the first cell is at its end. */
function cycled(days: number, cells: readonly Cell[], { noTop = false } = {}): Series {
  const count = days * 1440;
  const time = Float64Array.from({ length: count }, (_, i) => i * STEP);
  const volts = cells.map(() => new Float32Array(count));
  const amps = new Float32Array(count);
  const held = cells.map(({ holds = 1, under = 0 }) => 0.5 * CAPACITY * holds - under);
  let direction = 1;
  for (let i = 0; i < count; i++) {
    const now = cells.map(({ holds = 1 }, k) => interpolate(CURVE, held[k]! / (CAPACITY * holds)));
    amps[i] = direction * AMPS;
    if (Math.max(...now) > (noTop ? 3.33 : 3.58)) direction = -1;
    if (Math.min(...now) < 2.6) direction = 1;
    cells.forEach(({ leaks = 0 }, k) => {
      held[k]! += (direction * AMPS) / 60 - leaks / 1440;
      volts[k]![i] = now[k]!;
    });
  }
  return {
    device: 'bms',
    time,
    channels: {
      battery_current: amps,
      ...Object.fromEntries(volts.map((one, k) => [`cell_${String(k + 1).padStart(2, '0')}_voltage`, one])),
    },
  };
}

const system = (chemistry: 'lfp' | 'agm', cellsInSeries: number) =>
  knownSystem({
    name: 'Drawn',
    timeZone: 'UTC',
    bank: {
      chemistry,
      cellsInSeries,
      stringsInParallel: 1,
      // A cell of no resistance worth speaking of: the drawn voltages have none.
      capacityAh: CAPACITY,
      capacityHours: 20,
      chargeVolts: { min: 3.5 * cellsInSeries, max: 3.6 * cellsInSeries },
    },
    sources: [],
    loads: [],
    bms: { balanceV: 3.4 },
  } as unknown as System)!;

const seenOf = (series: Series, count = 4) => cellsOf(system('lfp', count), timelineOf([series]))!;
const verdictOf = (found: ReturnType<typeof seenOf>, cell: number) =>
  cellVerdict(found, found.figures[cell - 1]!, CAPACITY);

test('cells that are alike are level', () => {
  const found = seenOf(cycled(4, [{}, {}, {}, {}]));
  expect(found.tops).toBeGreaterThan(5);
  expect(found.bottoms).toBeGreaterThan(5);
  expect([1, 2, 3, 4].map((cell) => verdictOf(found, cell))).toEqual(['level', 'level', 'level', 'level']);
  expect(found.spread.flat).toBeCloseTo(0, 3);
});

test('a cell with less charge and its whole capacity is out of step, by the ampere-hours that it lacks', () => {
  const found = seenOf(cycled(6, [{}, { under: 3 }, {}, {}]));
  expect(found.low).toMatchObject({ cell: '2' });
  expect(found.high!.cell).not.toBe('2');
  const own = found.figures[1]!;
  // So near to either end the drawn curve is steep: what is behind can be read.
  expect(own.behindAtTop.most - own.behindAtTop.least).toBeLessThan(1);
  expect(own.behindAtTop.ampHours).toBeCloseTo(3, 0);
  expect(own.shortAtBottom.ampHours).toBeCloseTo(3, 0);
  expect(verdictOf(found, 2)).toBe('out-of-step');
});

test('a cell that lacks far more is behind by between the least and the most', () => {
  const { behindAtTop } = seenOf(cycled(6, [{}, {}, { under: 30 }, {}])).figures[2]!;
  expect(behindAtTop.least).toBeLessThan(30);
  expect(behindAtTop.most).toBeGreaterThan(28);
  expect(behindAtTop.ampHours).toBeGreaterThan(22);
  expect(behindAtTop.ampHours).toBeLessThan(36);
});

test('a cell that holds less is empty first and is not behind at the top', () => {
  const found = seenOf(cycled(6, [{ holds: 0.7 }, {}, {}, {}]));
  expect(found.low).toMatchObject({ cell: '1' });
  expect(found.high).toMatchObject({ cell: '1' });
  expect(verdictOf(found, 1)).toBe('holds-less');
  expect([2, 3, 4].map((cell) => verdictOf(found, cell))).toEqual(['level', 'level', 'level']);
});

test('without a full charge a cell that holds less catches up, one that only started from less stays as far behind', () => {
  const of = (cell: Cell) => {
    const found = seenOf(cycled(6, [{}, {}, {}, cell], { noTop: true }));
    expect(found.tops).toBe(0);
    expect(found.low).toMatchObject({ cell: '4' });
    return found;
  };
  const short = of({ holds: 0.7 });
  expect(short.figures[3]!.behindAtHigh.ampHours).toBeLessThan(
    0.5 * short.figures[3]!.shortAtBottom.ampHours,
  );
  expect(verdictOf(short, 4)).toBe('holds-less');
  // What went in is not known: either may be.
  expect(cellVerdict({ ...short, chargedToHigh: NaN }, short.figures[3]!, CAPACITY)).toBe('unknown');
  const less = of({ under: 25 });
  expect(less.figures[3]!.behindAtHigh.ampHours).toBeCloseTo(25, 0);
  expect(verdictOf(less, 4)).toBe('out-of-step');
});

test('a cell that leaks falls behind from charge to charge', () => {
  const found = seenOf(cycled(16, [{}, { leaks: 0.3 }, {}, {}]));
  expect(found.figures[1]!.fallsBehindADay).toBeCloseTo(0.3, 1);
  expect(verdictOf(found, 2)).toBe('falls-behind');
  expect(Math.abs(found.figures[2]!.fallsBehindADay)).toBeLessThan(0.05);
});

test('the current’s own drop is not taken for a charge', () => {
  const series = cycled(4, [{}, { under: 3 }, {}, {}]);
  const drop = 0.00125;
  for (let k = 1; k <= 4; k++)
    series.channels[`cell_0${k}_voltage`] = series.channels[`cell_0${k}_voltage`]!.map(
      (one, i) => one + drop * series.channels.battery_current![i]!,
    );
  const own = seenOf(series).figures[1]!;
  expect(own.behindAtTop.ampHours).toBeCloseTo(3, 0);
});

test('balancing runs while a cell is above its voltage and charged', () => {
  const found = seenOf(cycled(4, [{}, {}, {}, {}]));
  expect(found.balancingADay).toBeGreaterThan(0.1);
  expect(found.balancingADay).toBeLessThan(4);
});

test('a picture of at most 180 steps, with a row a cell', () => {
  const { heat } = seenOf(cycled(12, [{}, { under: 6 }, {}, {}]));
  expect(heat.apart).toHaveLength(4);
  expect(heat.spread.length).toBeLessThanOrEqual(181);
  expect(Math.min(...heat.apart[1]!)).toBeLessThan(-0.02);
  expect(Math.max(...heat.apart[0]!.map(Math.abs))).toBeLessThan(0.02);
});

test('a cell that is not logged for a while is left out there, and no number is made up', () => {
  const series = cycled(3, [{}, {}, {}, {}]);
  series.channels.cell_03_voltage!.fill(NaN, 500, 900);
  const found = seenOf(series);
  expect(found.figures[2]!.apart.flat).toBeCloseTo(0, 3);
  expect(Number.isFinite(found.spread.flat)).toBe(true);
});

test('without a current cells are judged by their voltages alone', () => {
  const series = cycled(6, [{}, { under: 8 }, {}, {}]);
  delete series.channels.battery_current;
  const found = seenOf(series);
  expect(found.figures[1]!.behindAtTop).toMatchObject({ times: 0 });
  expect(verdictOf(found, 2)).toBe('out-of-step');
});

test('the halves of a bank by the voltage between them; lead has no ends', () => {
  const time = Float64Array.from({ length: 2000 }, (_, i) => i * STEP);
  const whole = Float32Array.from(time, (_, i) => 25 + Math.sin(i / 300));
  const found = cellsOf(
    system('agm', 12),
    timelineOf([
      {
        device: 'monitor',
        time,
        channels: { battery_voltage: whole, midpoint_voltage: whole.map((one) => one / 2 - 0.1) },
      },
    ]),
  )!;
  expect(found.kind).toBe('halves');
  expect(found.spread.flat).toBeCloseTo(0.2, 2);
  expect(found.figures.map((one) => one.apart.flat)).toEqual([
    expect.closeTo(-0.1, 2),
    expect.closeTo(0.1, 2),
  ]);
  expect([found.tops, found.bottoms, found.low, found.high]).toEqual([0, 0, null, null]);
});

test('neither cells nor halves logged', () => {
  expect(
    cellsOf(system('lfp', 4), timelineOf([{ device: 'bms', time: Float64Array.of(0, 1), channels: {} }])),
  ).toBeNull();
});
