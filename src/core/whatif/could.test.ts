import { DAY, HOUR, MINUTE } from '../quantity/span';
import { couldGive } from './could';

const STEP = 10 * MINUTE;
const PER_DAY = DAY / STEP;
const FROM = Date.UTC(2026, 4, 4);

/** A at an hour of a bright day: a half wave from six to eighteen. */
const bright = (hour: number): number =>
  hour > 6 && hour < 18 ? 20 * Math.sin((Math.PI * (hour - 6)) / 12) : 0;

/** So many days of sun, each as bright as it is told; held back from an hour on, on the days that are named. */
function days(shares: readonly number[], held: (day: number) => number | null) {
  const count = shares.length * PER_DAY;
  const offered = new Float32Array(count);
  const gave = new Float32Array(count);
  const heldBack = new Uint8Array(count);
  shares.forEach((share, day) => {
    for (let cell = 0; cell < PER_DAY; cell++) {
      const at = day * PER_DAY + cell;
      const hour = (cell * STEP) / HOUR;
      offered[at] = share * bright(hour);
      const from = held(day);
      const isHeld = from !== null && hour >= from;
      heldBack[at] = Number(isHeld);
      gave[at] = isHeld ? Math.min(offered[at]!, 2) : offered[at]!;
    }
  });
  return { offered, gave, heldBack, cells: { from: FROM, stepMs: STEP, count } };
}

const within = (could: Float32Array, offered: Float32Array, most: number) => {
  let worst = 0;
  could.forEach((one, i) => (worst = Math.max(worst, Math.abs(one - offered[i]!))));
  expect(worst).toBeLessThan(most);
};

describe('what a source could have given while it was held back', () => {
  test('the afternoon of a bright day is its morning, mirrored at noon', () => {
    const { offered, gave, heldBack, cells } = days([1, 1, 1, 1], () => 13);
    within(couldGive({ gave, heldBack, mostA: 40, sun: true }, cells), offered, 1);
  });

  test('of hours that were free on other days those are taken, as bright as the day was', () => {
    const { offered, gave, heldBack, cells } = days([1, 0.5, 1, 0.5, 1], (day) =>
      day % 2 === 1 ? 12.5 : null,
    );
    const could = couldGive({ gave, heldBack, mostA: 40, sun: true }, cells);
    within(could, offered, 2);
  });

  test('never less than it gave, never more than its limit, nothing by night', () => {
    const { gave, heldBack, cells } = days([1, 1, 1], () => 11);
    const could = couldGive({ gave, heldBack, mostA: 15, sun: true }, cells);
    could.forEach((one, i) => {
      expect(one).toBeGreaterThanOrEqual(gave[i]!);
      expect(one).toBeLessThanOrEqual(Math.max(15, gave[i]!));
      const hour = ((i % PER_DAY) * STEP) / HOUR;
      if (hour > 18.5 || hour < 5.5) expect(one).toBe(0);
    });
  });

  test('mains could have gone up to their limit while they held a voltage, and no further when they were away', () => {
    const gave = Float32Array.of(10, 10, 4, 2, 0, NaN);
    const heldBack = Uint8Array.of(0, 0, 1, 1, 0, 0);
    const could = couldGive(
      { gave, heldBack, mostA: 10, sun: false },
      { from: FROM, stepMs: STEP, count: gave.length },
    );
    expect([...could]).toEqual([10, 10, 10, 10, 0, 0]);
  });
});
