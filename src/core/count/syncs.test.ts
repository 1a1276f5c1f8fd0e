/** Syncs in a reported percentage, and jumps that are none. */

import { MINUTE } from '../quantity/span';
import type { CounterLog } from './counterLog';
import { jumpsIn } from './jumps';
import { syncsIn, withoutRestarts } from './syncs';

/** One sample a minute. */
function log(reading: number[], amps: number | number[] = 2, minutes?: number[]): CounterLog {
  return {
    device: 'monitor',
    time: Float64Array.from(reading, (_, i) => (minutes?.[i] ?? i) * MINUTE),
    amps: Float32Array.from(reading, (_, i) => (typeof amps === 'number' ? amps : amps[i]!)),
    ampsAreItsOwn: true,
    volts: null,
    reading: Float32Array.from(reading),
  };
}

const found = (of: CounterLog) =>
  syncsIn(of, 100).map(({ at, from, to }) => [at / MINUTE, Math.round(from), to]);

test('a rise to full from below 99.5 %', () => {
  expect(found(log([84, 84.1, 84.1, 100, 100]))).toEqual([[3, 84, 100]]);
});

test('counting up to full is none: finely, in coarse steps, or by a large current between far samples', () => {
  expect(found(log([99.2, 99.3, 99.4, 99.5, 99.6, 99.8, 100], 6))).toEqual([]);
  // A step of one per cent every ten minutes, the last as slow as the others.
  const coarse = [93, 94, 95, 96, 97, 98, 99, 100].flatMap((one) => new Array<number>(10).fill(one));
  expect(found(log(coarse, 6))).toEqual([]);
  expect(found(log([94, 96.5, 99, 100], 15, [0, 10, 20, 30]))).toEqual([]);
});

test('a coarse reading that leaps its last step is one', () => {
  const coarse = [93, 94, 95, 96, 97, 98].flatMap((one) => new Array<number>(30).fill(one));
  expect(found(log([...coarse, 100, 100], 1))).toEqual([[180, 98, 100]]);
});

const COUNTS = { capacityAh: 100, chargedV: 28.2 };

test('several on one charge are one; after a discharge there is another', () => {
  const held = [80, 100, 100, 99.2, 100, 99.1, 100];
  expect(found(log(held))).toEqual([[1, 80, 100]]);
  const drawn = [80, 100, 95, 90, 85, 84, 100];
  expect(found(log(drawn))).toEqual([
    [1, 80, 100],
    [6, 84, 100],
  ]);
  const charge = [{ from: 0, to: 10 * MINUTE }];
  expect(syncsIn(log([80, 100, 96, 100]), 100, charge)).toHaveLength(1);
});

test('after a silence it is marked: nobody saw how the reading got there', () => {
  const silent = log([60, 60, 100, 100], 0, [0, 1, 61, 62]);
  expect(syncsIn(silent, 100)[0]).toMatchObject({ afterGap: true });
  const jump = {
    at: 61 * MINUTE,
    from: 60,
    to: 100,
    silentMs: 60 * MINUTE,
    sinceMs: 60 * MINUTE,
    couldFall: 0,
    drawn: false,
    charged: false,
  };
  expect(jumpsIn(silent, COUNTS)).toEqual([{ ...jump, mayBeSync: false }]);
  const charged = (volts: number[]) => jumpsIn({ ...silent, volts: Float32Array.from(volts) }, COUNTS);
  expect(charged([26, 26.5, 28.5, 28.5])).toEqual([{ ...jump, mayBeSync: true }]);
  expect(charged([28.2, 28.5, 27, 26])).toEqual([{ ...jump, mayBeSync: true }]);
  expect(charged([26, 26.5, 26.8, 26.8])).toEqual([{ ...jump, mayBeSync: false }]);
});

test('over a short silence within one charge it counts as seen', () => {
  const unseen = (minutes: number, amps: number[], volts = 28.5) => {
    const silent = {
      ...log([60, 60, 100, 100], amps, [0, 1, 1 + minutes, 2 + minutes]),
      volts: new Float32Array(4).fill(volts),
    };
    return withoutRestarts(syncsIn(silent, 100), jumpsIn(silent, COUNTS)).map((one) => one.afterGap);
  };
  const charged = [8, 8, 7, 7];
  expect(unseen(31, charged)).toEqual([false]);
  expect(unseen(90, charged)).toEqual([true]);
  expect(unseen(31, [8, 8, -2, -2])).toEqual([true]);
  // The monitor sets nothing to full so far under its charged voltage.
  expect(unseen(31, charged, 26)).toEqual([]);
});

test('a silence over the hour of the syncs of other days may hide one; at another hour, or from no charged voltage, it does not', () => {
  // Five days in rows of ten minutes: 55 % until seven, then full at the charged voltage; from ten o'clock on it is drawn down.
  const ROWS = 144;
  const LAST = 4 * ROWS;
  const jumps = (silent: { from: number; to: number }, reached = 28.5, fullFrom = 42) => {
    const rows = [...Array(5 * ROWS).keys()].filter(
      (row) => row < LAST + silent.from || row >= LAST + silent.to,
    );
    const full = (row: number) => (row < LAST ? 42 : fullFrom);
    const at = (row: number) => row % ROWS;
    const reading = rows.map((row) => (at(row) < full(row) ? 55 : Math.min(100, 100 - 0.3 * (at(row) - 60))));
    const volts = rows.map((row) => (at(row) >= 42 && at(row) < 50 ? reached : 27));
    const times = rows.map((row) => 10 * row);
    // Each midnight the drawing begins anew, which is a jump down.
    return jumpsIn({ ...log(reading, -1, times), volts: Float32Array.from(volts) }, COUNTS)
      .filter(({ from, to }) => to > from)
      .map(({ to, mayBeSync }) => [to, mayBeSync]);
  };
  expect(jumps({ from: 0, to: 0 })).toEqual([]);
  expect(jumps({ from: 36, to: 56 })).toEqual([[100, true]]);
  expect(jumps({ from: 40, to: 43 })).toEqual([[100, true]]);
  expect(jumps({ from: 36, to: 56 }, 27.5)).toEqual([[100, false]]);
  expect(jumps({ from: 10, to: 20 }, 28.5, 20)).toEqual([[100, false]]);
});

describe('jumps', () => {
  test('a fall that no current explains; a rise to full is a sync', () => {
    expect(jumpsIn(log([70, 70, 50, 50]), COUNTS)).toEqual([
      {
        at: 2 * MINUTE,
        from: 70,
        to: 50,
        silentMs: 0,
        sinceMs: MINUTE,
        couldFall: 0,
        mayBeSync: false,
        drawn: false,
        charged: true,
      },
    ]);
    expect(jumpsIn(log([70, 70, 100, 100]), COUNTS)).toEqual([]);
  });

  // A logger that writes means shows a jump over two rows, and the moving reading about it.
  test('a mean over a jump is no value that it went to; what goes on by what flows is one', () => {
    const every = [0, 25, 50, 75, 100];
    const ends = (readings: number[], amps: number) =>
      jumpsIn(log(readings, amps, every), COUNTS).map((one) => [one.from, one.to].map(Math.round));
    // 8 A for 25 minutes are 3.3 points of 100 Ah.
    expect(ends([70, 73.3, 87, 100, 100], 8)).toEqual([]);
    expect(ends([95, 92, 80, 60, 57], -8)).toEqual([[92, 60]]);
    // Drawn on before it; in its last row the load has gone, or a charger has begun.
    const drawn = (after: number) =>
      jumpsIn(
        { ...log([95, 95, 80, 60, 60], 0, every), amps: Float32Array.of(-8, -8, -8, after, after) },
        COUNTS,
      ).map((one) => one.drawn);
    expect([drawn(-0.2), drawn(6)]).toEqual([[true], [false]]);
    expect(ends([70, 73.3, 85, 88.3, 91.6], 8)).toEqual([[73, 85]]);
    // A step to full that what flows would account for is the rest of a sync where the charged voltage is reached.
    const nearly = (volts: number) => {
      const charge = log([70, 73.3, 98, 100, 100], 8, every);
      return jumpsIn({ ...charge, volts: new Float32Array(5).fill(volts) }, COUNTS).map((one) => one.to);
    };
    expect([nearly(28.5), nearly(26)]).toEqual([[], [98]]);
  });

  test('what could have flowed in a silence is none', () => {
    expect(jumpsIn(log([70, 70, 66, 66], -4, [0, 1, 60, 61]), COUNTS)).toEqual([]);
    expect(jumpsIn(log([70, 70, 20, 20], -4, [0, 1, 60, 61]), COUNTS)).toHaveLength(1);
  });

  test('a silence of hours after which reading and voltage are up may have held a whole charge', () => {
    const after = (to: number, volts: number, minutes = 300) =>
      jumpsIn(
        {
          ...log([60, 60, to, to], -4, [0, 1, minutes, minutes + 1]),
          volts: Float32Array.from([26.6, 26.6, volts, volts]),
        },
        COUNTS,
      ).map((one) => one.mayBeSync);
    expect(after(98, 27)).toEqual([true]);
    expect(after(98, 26.6)).toEqual([false]);
    expect(after(98, 27, 30)).toEqual([false]);
    expect(after(85, 27, 30)).toEqual([false]);
  });

  test('a rise that stops short of full may be a sync that has come down since, where others stood on their rows', () => {
    // Rows fifty minutes apart; 5 A take four points of 100 Ah in one of them.
    const rises = (last: number, ...before: number[]) => {
      const reading = [81, 80.9, ...before.flatMap((to) => [81, to, 90]), 80, last];
      const minutes = reading.map((_, i) => 50 * i);
      return jumpsIn({ ...log(reading, 0, minutes), amps: Float32Array.from(reading, () => -5) }, COUNTS)
        .filter((one) => one.to === last)
        .map((one) => one.mayBeSync);
    };
    expect(rises(98, 100, 100)).toEqual([true]);
    expect(rises(98, 100)).toEqual([false]);
    expect(rises(93, 100, 100)).toEqual([false]);
  });

  test('a silence in which the reading falls as far as on another evening is none', () => {
    // 70 to 40 % within an hour of the first evening, and over a silence of two hours later; the log is written every ten minutes.
    const falls = (to: number) => {
      const time = [0, 10, 20, 30, 40, 50, 60, 70, 80, 200, 210];
      return jumpsIn(log([70, 65, 60, 55, 50, 45, 40, 70, 70, to, to], -4, time), COUNTS).filter(
        (one) => one.silentMs > 0,
      );
    };
    expect(falls(41)).toEqual([]);
    expect(falls(20)).toHaveLength(1);
    // Two restarts do not excuse each other.
    const twice = log([90, 90, 50, 50, 90, 90, 50, 50], -1, [0, 10, 70, 80, 90, 100, 170, 180]);
    expect(jumpsIn(twice, COUNTS).filter((one) => one.silentMs > 0)).toHaveLength(2);
  });

  test('a charge that flows makes no reading fall, however much of it flows', () => {
    // 30 A for an hour and a half count 45 points up, and none down.
    expect(jumpsIn(log([93, 93, 50, 50.5], 30, [0, 1, 91, 92]), COUNTS)).toHaveLength(1);
    expect(jumpsIn(log([50, 50.5, 93, 93.5], 30, [0, 1, 91, 92]), COUNTS)).toEqual([]);
  });

  test('a silence of the counter in which no charger gave anything has charged nothing', () => {
    // Up by ten points in three hours: an unseen charge may do that, one that its charger logged as nothing does not.
    const silence = log([89, 89, 100, 100], -1, [0, 10, 210, 220]);
    expect(jumpsIn(silence, COUNTS)).toEqual([]);
    expect(jumpsIn(silence, COUNTS, () => 0)).toMatchObject([{ from: 89, to: 100 }]);
    expect(jumpsIn(silence, COUNTS, () => 12)).toEqual([]);
    // Loads empty it unseen all the same.
    expect(jumpsIn(log([89, 89, 78, 78], -1, [0, 10, 210, 220]), COUNTS, () => 0)).toEqual([]);
  });

  test('small ones that come to one value again and again are resets', () => {
    // Ten samples down to 88.3 %, then at once to a value.
    const days = (to: number[]) =>
      log(to.flatMap((one) => [...Array.from({ length: 10 }, (_, k) => 89.2 - k / 10), one]));
    const jumps = (to: number[]) =>
      jumpsIn(days(to), COUNTS)
        .filter((one) => one.to < 88.2)
        .map((one) => one.to);
    expect(jumps([85, 85.1, 85])).toHaveLength(3);
    expect(jumps([85, 85])).toEqual([]);
    expect(jumps([85, 86.3, 84.4])).toEqual([]);
    expect(jumps([88, 88, 88])).toEqual([]);
    // What comes to many values jumps along with something.
    expect(jumps([85, 85, 85, 86.2, 84.4, 86.3, 84.5, 86])).toEqual([]);
  });

  test('missing values are passed over', () => {
    expect(jumpsIn(log([70, NaN, NaN, 69.9]), COUNTS)).toEqual([]);
    expect(found(log([84, NaN, 100]))).toEqual([[2, 84, 100]]);
  });
});
