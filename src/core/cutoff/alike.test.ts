import { agm, lithium } from '../../../tests/support/drawnCharges';
import { DAY, HOUR, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { alike } from './alike';
import type { Drop } from './drops';
import type { LoadCurrent } from './loadCurrents';

const system = {
  bank: lithium,
  sources: [],
  loads: [{ id: 'load', name: 'Winch', kind: 'dc', counted: true }],
} as unknown as KnownSystem;
const load = { id: 'load', time: new Float64Array([0, MINUTE, 2 * MINUTE]), amps: new Float32Array(3) };
/** An hour of 30 A that ends at seven minutes past six, at 12.77 V, the lowest of the log. */
const run = (day: number, part: Partial<Drop> = {}) =>
  ({
    load: load as unknown as LoadCurrent,
    at: day * DAY + 6 * HOUR + 7 * MINUTE,
    back: (day + 1) * DAY,
    amps: 30,
    ranMs: HOUR,
    beginSeen: true,
    loadVolts: NaN,
    moment: { volts: 12.77, lowShare: 0.001, shown: NaN, shownBefore: NaN },
    ...part,
  }) as Drop;
const found = (open: Drop[], ended: Drop[]) =>
  alike(open, ended, system, [load as unknown as LoadCurrent], null).map((one) => one.why);

test('runs that end as most others of their length do, at one time of the day, have ended by themselves as well', () => {
  const open = [1, 4, 7, 9].map((day) => run(day));
  const others = [2, 3, 5, 6, 8].map((day) => run(day));
  expect(found(open, [])).toEqual(Array(4).fill('volts'));
  expect(found(open, others)).toEqual([]);
  // Fewer that go on, runs of another length, or at another time of the day, say nothing of these.
  expect(found(open, others.slice(0, 3))).toHaveLength(4);
  expect(
    found(
      open,
      others.map((one) => ({ ...one, ranMs: 2 * HOUR })),
    ),
  ).toHaveLength(4);
  expect(
    found(
      open,
      others.map((one) => ({ ...one, at: one.at + HOUR })),
    ),
  ).toHaveLength(4);
});

test('of lead that is never drawn far, loads end high without being cut: more is asked of a limit up there', () => {
  const ends = (volts: readonly number[], lowShare: number) => {
    const open = volts.map((one, k) =>
      run(2 * k, {
        at: (2 * k * 24 + 5 * k) * HOUR,
        ranMs: (1 + k) * HOUR,
        moment: { volts: one, lowShare, shown: NaN, shownBefore: NaN } as Drop['moment'],
      }),
    );
    return alike(
      open,
      [],
      { ...system, bank: agm as KnownSystem['bank'] },
      [load as unknown as LoadCurrent],
      null,
    ).length;
  };
  expect(ends([12.5, 12.51, 12.49], 0.001)).toBe(3);
  // A tenth of the log lies lower, or they do not agree: at any other voltage that would be enough.
  expect(ends([12.5, 12.51, 12.49], 0.08)).toBe(0);
  expect(ends([12.5, 12.54, 12.46], 0.001)).toBe(0);
  expect(ends([11.6, 11.61, 11.59], 0.08)).toBe(3);
  expect(ends([11.6, 11.64, 11.56], 0.001)).toBe(3);
});
