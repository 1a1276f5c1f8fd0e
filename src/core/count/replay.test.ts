/** The replay: against Peukert's law, against the simulated monitor step by step, and rule by rule. */

import { LEAD_SETTINGS } from '../../../tests/support/counterSettings';
import { dischargeHours } from '../system/peukert';
import { HOUR, MINUTE } from '../quantity/span';
import { countStep } from '../simulate/monitor';
import { seededRandom } from '../simulate/random';
import { replay } from './replay';
import type { CounterSettings } from './settings';

/** A log of equal steps. */
function drawn(
  minutes: number,
  amps: (minute: number) => number,
  volts: (minute: number) => number = () => 12.5,
) {
  const count = minutes + 1;
  return {
    time: Float64Array.from({ length: count }, (_, i) => i * MINUTE),
    amps: Float32Array.from({ length: count }, (_, i) => amps(i)),
    volts: Float32Array.from({ length: count }, (_, i) => volts(i)),
  };
}

const last = (values: ArrayLike<number>): number => values[values.length - 1]!;

describe("Peukert's law (W. Peukert, Elektrotechnische Zeitschrift 20, 1897)", () => {
  test.each([
    // 100 Ah at 20 h, k = 1.2, 10 A lasts 8.7055 h; 120 Ah at 20 h, k = 1.25, 30 A lasts 2.6750 h.
    [100, 1.2, 10, 8.7055],
    [120, 1.25, 30, 2.675],
  ])('%d Ah, k = %d, %d A: the count is empty after %d h', (capacityAh, peukert, amps, hours) => {
    const log = drawn(Math.ceil(hours * 60) + 30, () => -amps);
    const { reading } = replay(log, { ...LEAD_SETTINGS, capacityAh, peukert }, 100);
    const empty = reading.findIndex((one) => one <= 1e-4) / 60;
    expect(dischargeHours({ capacityAh, hours: 20 }, amps, peukert)).toBeCloseTo(hours, 3);
    expect(empty).toBeGreaterThan(hours - 1.5 / 60);
    expect(empty).toBeLessThan(hours + 1.5 / 60);
  });

  test('at the rated current exactly the rated capacity comes out; below it too, unless the device goes on', () => {
    for (const [amps, below, percent] of [
      [5, false, 50],
      [5, true, 50],
      [1, false, 90],
    ] as const)
      expect(
        last(
          replay(
            drawn(600, () => -amps),
            { ...LEAD_SETTINGS, peukertBelowRate: below },
            100,
          ).reading,
        ),
      ).toBeCloseTo(percent, 2);
    // (1/5)^0.25 of what flowed counts.
    const slow = replay(
      drawn(600, () => -1),
      { ...LEAD_SETTINGS, peukertBelowRate: true },
      100,
    ).reading;
    expect(100 - last(slow)).toBeCloseTo(10 * 0.2 ** 0.25, 1);
  });
});

test('step for step what the simulated monitor counts', () => {
  const random = seededRandom(31);
  const amps: number[] = [];
  const volts: number[] = [];
  let now = 0;
  for (let i = 0; i <= 5000; i++) {
    if (i % 40 === 0) now = random.uniform(-25, 25);
    amps.push(now);
    volts.push(now > 0 ? random.uniform(13.5, 14.6) : random.uniform(11.8, 12.9));
  }
  const settings: CounterSettings = { ...LEAD_SETTINGS, thresholdA: 0.5 };
  const log = {
    time: Float64Array.from(amps, (_, i) => i * 1000),
    amps: Float32Array.from(amps),
    volts: Float32Array.from(volts),
  };
  const { reading } = replay(log, settings, 60);
  const state = { percent: 60, heldSeconds: 0 };
  let most = 0;
  for (let i = 1; i <= 5000; i++) {
    // The mean of both samples is what flowed between them.
    countStep({ method: 'shunt', ...settings }, state, 1, volts[i]!, (log.amps[i]! + log.amps[i - 1]!) / 2);
    most = Math.max(most, Math.abs(state.percent - reading[i]!));
  }
  expect(most).toBeLessThan(0.02);
});

test('of what goes in the efficiency counts, and never above full', () => {
  const { reading } = replay(
    drawn(120, () => 10),
    LEAD_SETTINGS,
    50,
  );
  expect(reading[60]).toBeCloseTo(50 + 8.5, 3);
  expect(
    last(
      replay(
        drawn(1200, () => 10),
        LEAD_SETTINGS,
        50,
      ).reading,
    ),
  ).toBe(100);
});

test('currents under the threshold are not counted, either way', () => {
  const quiet = { ...LEAD_SETTINGS, thresholdA: 0.5 };
  expect(
    last(
      replay(
        drawn(600, () => -0.4),
        quiet,
        80,
      ).reading,
    ),
  ).toBe(80);
  expect(
    last(
      replay(
        drawn(600, () => 0.4),
        quiet,
        80,
      ).reading,
    ),
  ).toBe(80);
  expect(
    last(
      replay(
        drawn(600, () => -0.6),
        quiet,
        80,
      ).reading,
    ),
  ).toBeCloseTo(74, 3);
});

describe('the sync', () => {
  const full = (minutes: number, amps: number, volts: number) =>
    replay(
      drawn(
        minutes,
        () => amps,
        () => volts,
      ),
      LEAD_SETTINGS,
      70,
    );

  test('comes when voltage, current and time hold together, and tells what stood before', () => {
    const { reading, syncs } = full(10, 2, 14.3);
    expect(syncs).toHaveLength(1);
    // Three minutes must have passed: the fourth sample after the first.
    expect(syncs[0]!.index).toBe(4);
    expect(syncs[0]!.from).toBeGreaterThan(70);
    expect(syncs[0]!.from).toBeLessThan(70.2);
    expect(last(reading)).toBe(100);
  });

  test.each([
    ['voltage', 10, 2, 14.1],
    ['current', 10, 5, 14.3],
    ['time', 3, 2, 14.3],
  ])('does not come without the %s', (_, minutes, amps, volts) => {
    expect(full(minutes, amps, volts).syncs).toEqual([]);
  });

  test('compares the current without its sign: a small load at charge voltage makes one too', () => {
    expect(full(10, -2, 14.3).syncs).toHaveLength(1);
  });

  test('a break of the voltage starts the clock anew', () => {
    const log = drawn(
      10,
      () => 2,
      (minute) => (minute === 3 ? 13.9 : 14.3),
    );
    expect(replay(log, LEAD_SETTINGS, 70).syncs[0]!.index).toBe(7);
  });
});

test('a gap is not counted: the count stands, and the clock of the sync begins anew', () => {
  const log = drawn(60, () => -10);
  const time = log.time.map((one, i) => (i > 30 ? one + 5 * HOUR : one));
  const { reading } = replay({ ...log, time }, { ...LEAD_SETTINGS, peukert: 1 }, 80);
  expect(reading[30]).toBeCloseTo(75, 3);
  expect(reading[31]).toBe(reading[30]);
  expect(last(reading)).toBeCloseTo(75 - (10 * 29) / 60, 3);
});

test('an array that is kept is filled, and no samples are no reading', () => {
  const log = drawn(10, () => -1);
  const kept = new Float32Array(11);
  expect(replay(log, LEAD_SETTINGS, 50, kept).reading).toBe(kept);
  expect(
    replay({ time: new Float64Array(), amps: new Float32Array(), volts: null }, LEAD_SETTINGS, 50).syncs,
  ).toEqual([]);
});
