/** Nights drawn by hand: a rest voltage that goes by what the battery holds, and loads that come and go. */

import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import { seededRandom } from '../simulate/random';
import { restVolts } from '../system/restVoltage';
import type { SourceCharging } from '../charge/types';
import { capacityLost } from '../causes/capacity-lost';
import { fakeFull } from '../causes/fake-full';
import type { Judged } from '../causes/cause';
import { HOUR, MINUTE } from '../quantity/span';
import { sinkingOf } from './sinking';

const STEP = 5 * MINUTE;
const DAYS = 8;
/** A day: on float for ten hours, then a night of fourteen. */
const DAY = (24 * HOUR) / STEP;
const FLOAT = (10 * HOUR) / STEP;

interface Night {
  /** What the battery of 100 Ah holds, Ah. */
  holds: number;
  /** Drawn at night, A, and by how much more every third hour. */
  draws?: number;
  more?: number;
  /** Part of the current that the meter counts. */
  counts?: number;
  celsius?: number;
  bank?: typeof agm | typeof lithium;
  /** Ah that each charge puts back, as counted. */
  back?: number;
  /** V that a table is off by all the way. */
  off?: number;
  /** Hours of the night after which half an hour of 20 A strains it. */
  strainAfter?: number;
  /** The charges get it full. */
  full?: boolean;
  /** V, last digit of the meter. */
  digit?: number;
}

function sinking({
  holds,
  draws = 1,
  more = 2,
  counts = 1,
  celsius = 20,
  bank = agm,
  back = NaN,
  off = 0,
  strainAfter = Infinity,
  full = true,
  digit = 0,
}: Night) {
  const random = seededRandom(7);
  const count = DAYS * DAY;
  const amps = new Float32Array(count);
  const volts = new Float32Array(count);
  let drawn = 0;
  for (let k = 0; k < count; k++) {
    if (k % DAY < FLOAT) {
      drawn = 0;
      amps[k] = 0.1;
      volts[k] = 13.7;
      continue;
    }
    const night = (((k % DAY) - FLOAT) * STEP) / HOUR;
    const strains = night >= strainAfter && night < strainAfter + 0.5 ? 20 : 0;
    const load = draws + strains + ((k * STEP) % (3 * HOUR) < HOUR ? more : 0);
    drawn += (load * STEP) / HOUR;
    amps[k] = -counts * load;
    volts[k] =
      off + restVolts('agm', 100 * (1 - drawn / holds)) - 0.01 * load + 0.002 * random.uniform(-0.5, 0.5);
  }
  if (digit > 0) volts.forEach((one, k) => (volts[k] = digit * Math.round(one / digit)));
  const charges = Array.from({ length: DAYS }, (_, day) => ({
    ...charge([stage({ stage: 'bulk', ampHours: back })]),
    from: day * 24 * HOUR,
    to: day * 24 * HOUR + 10 * HOUR,
    full,
  }));
  const grid = { from: 0, step: STEP, count, cuts: [] };
  const heat = new Float32Array(count).fill(celsius);
  const charging = [{ charges, knowsBatteryAmps: true }] as unknown as SourceCharging[];
  return sinkingOf(bank, grid, amps, volts, heat, charging, digit);
}

describe('a voltage that sinks', () => {
  test('twice as fast is a battery of half, whatever level it sinks from', () => {
    const good = sinking({ holds: 100 })!;
    const half = sinking({ holds: 50 })!;
    const high = sinking({ holds: 50, off: 0.15 })!;
    // By the table (Battery Council International, from memory) 0.8 V to 0.84 V a block from full to empty down to half; a volt is reckoned.
    expect(good.capacityAh).toBeGreaterThan(100);
    expect(good.capacityAh).toBeLessThan(130);
    expect(half.capacityAh / good.capacityAh).toBeCloseTo(0.5, 1);
    expect(high.capacityAh).toBeCloseTo(half.capacityAh, 0);
    expect(half.spans).toHaveLength(DAYS);
    expect(half.amps).toBeCloseTo(1.6, 0);
  });

  test('is not read off a single step of a coarse meter, which falls anywhere', () => {
    const fine = sinking({ holds: 50 })!;
    expect(fine.volts).toBeGreaterThan(0.2);
    expect(fine.volts).toBeLessThan(0.4);
    expect(sinking({ holds: 50, digit: 0.05 })!.capacityAh / fine.capacityAh).toBeCloseTo(1, 1);
    expect(sinking({ holds: 50, digit: 0.2 })).toBeNull();
  });

  test('is read before a load that strains the battery, where that takes much of what is drawn', () => {
    const calm = sinking({ holds: 50 })!;
    const strained = sinking({ holds: 50, strainAfter: 6 })!;
    expect(strained.capacityAh / calm.capacityAh).toBeCloseTo(1, 1);
    // Until then: two hours after the charge, four hours are left of six.
    expect((strained.spans[0]!.to - strained.spans[0]!.from) / HOUR).toBeCloseTo(4, 0);
    // What no charge filled may be nearly empty, and then sinks fast.
    expect(sinking({ holds: 50, strainAfter: 6, full: false })).toBeNull();
    expect(sinking({ holds: 50, full: false })).not.toBeNull();
    // Too soon after the charge nothing calm is left.
    expect(sinking({ holds: 50, strainAfter: 3 })).toBeNull();
    // What each charge puts back is held against all that was drawn.
    expect(sinking({ holds: 50, strainAfter: 6, back: 45 })).not.toBeNull();
    expect(sinking({ holds: 50, strainAfter: 6, back: 65 })).toBeNull();
  });

  test('tells nothing of lithium, in the cold, or at a rate that costs capacity of its own', () => {
    expect(sinking({ holds: 50, bank: lithium })).toBeNull();
    expect(sinking({ holds: 50, celsius: 0 })).toBeNull();
    expect(sinking({ holds: 300, draws: 7, more: 0 })).toBeNull();
    expect(sinking({ holds: 300, draws: 4, more: 0 })).not.toBeNull();
  });

  test('tells nothing where it hardly sinks', () => {
    expect(sinking({ holds: 100, draws: 0.2, more: 0.1 })).toBeNull();
  });

  test('tells nothing where charges put back far more than was counted out: a load is not counted', () => {
    const uncounted = { holds: 100, counts: 0.5 };
    expect(sinking({ ...uncounted, back: 17 })!.capacityAh).toBeLessThan(65);
    expect(sinking({ ...uncounted, back: 26 })).toBeNull();
    expect(sinking({ holds: 50, back: 26 })).not.toBeNull();
  });
});

describe('what it says of the battery', () => {
  const seen = (of: ReturnType<typeof sinking>, offset = 0, gain = 1) =>
    ({
      bank: agm,
      charging: [],
      cutoffs: null,
      counting: {
        sinking: of,
        wrong: { gain, unseen: [] },
        offsetA: { value: offset, deviation: 0.05 },
        discharges: [],
      },
    }) as unknown as Judged;
  const weights = (...of: Parameters<typeof seen>) =>
    [fakeFull, capacityLost].map((cause) => cause.weigh!(seen(of[0], of[1], of[2])));

  test('half of the label speaks for both causes; a good battery does not', () => {
    for (const evidence of weights(sinking({ holds: 40 }))) {
      expect(evidence).toHaveLength(1);
      expect(evidence[0]!.decibans).toBeGreaterThan(13);
      expect(evidence[0]!.text).toMatch(
        /^Over 8 stretches without a charge the voltage sank by .* rated 100 Ah\.$/,
      );
    }
    for (const evidence of weights(sinking({ holds: 100 })))
      for (const one of evidence) expect(one.decibans).toBeLessThan(0);
  });

  test('a meter that shows too little of what is drawn may be all that there is', () => {
    const half = sinking({ holds: 40 });
    expect(weights(half, 0.9)).toEqual([[], []]);
    expect(weights(half, -0.9).flat()).toHaveLength(2);
    expect(weights(half, 0, 0.7)).toEqual([[], []]);
  });
});
