/** An empty battery, a high resistance and a cold one, told apart by what was seen at the cut-offs: figures set down by hand. */

import { agm, charge, lithium, sumOf } from '../../../tests/support/drawnCharges';
import type { CutOff, CutOffs } from '../cutoff/types';
import { bankOhms } from '../system/sag';
import { batteryResistance } from './battery-resistance';
import { capacityLost } from './capacity-lost';
import type { Judged } from './cause';
import { coldBattery } from './cold-battery';
import { rateExpected } from './rate-expected';
import { cuttingOf } from './cutting';
import { reallyEmpty } from './really-empty';
import { surgeTrip } from './surge-trip';

const cut = (part: Partial<CutOff>): CutOff =>
  ({
    at: 0,
    last: 0,
    trips: 1,
    by: 'pump',
    why: 'volts',
    held: 60,
    deviation: 3,
    volts: 11.4,
    loadVolts: NaN,
    loadAmps: 10,
    amps: 10,
    ranMs: 60_000,
    restVolts: 12.3,
    lowestV: NaN,
    meanV: NaN,
    celsius: NaN,
    ...part,
  }) as CutOff;

/** Eight cut-offs alike. */
const seen = (part: Partial<CutOff>, bank: typeof agm | typeof lithium = agm, all: Partial<CutOffs> = {}) =>
  ({
    bank,
    system: { bank, sources: [], loads: [] },
    charging: [],
    cutoffs: {
      hasLoads: true,
      list: Array.from({ length: 8 }, () => cut(part)),
      nearMisses: [],
      resistance: null,
      paths: [],
      celsius: { cold: NaN, middle: NaN, warm: NaN },
      ...all,
    },
  }) as unknown as Judged;

describe('an empty battery', () => {
  test('held next to nothing, and stood under its knee at a small current', () => {
    const lead = reallyEmpty.weigh!(seen({ held: 3, volts: 11, amps: 3, restVolts: 11.7 }));
    expect(sumOf(lead)).toBeGreaterThan(15);
    expect(sumOf(lead, 'knee')).toBeGreaterThan(2);
    const empty = seen({ held: 1, volts: 10.6, amps: 20, restVolts: NaN }, lithium);
    expect(sumOf(reallyEmpty.weigh!(empty))).toBeGreaterThan(14);
  });

  test('a low voltage says nothing of it at a current that brings a charged one there too', () => {
    expect(sumOf(reallyEmpty.weigh!(seen({ volts: 11, amps: 40 })), 'knee')).toBe(0);
    expect(sumOf(reallyEmpty.weigh!(seen({ volts: 10.6, amps: 60, restVolts: NaN }, lithium)), 'knee')).toBe(
      0,
    );
    expect(sumOf(reallyEmpty.weigh!(seen({ volts: 11.9, amps: 3 })), 'knee')).toBe(0);
  });

  test('one that held more than half was not', () => {
    expect(sumOf(reallyEmpty.weigh!(seen({})))).toBeLessThan(-10);
  });

  test('nothing is said without a cut-off, and next to nothing where the state is not known', () => {
    expect(reallyEmpty.weigh!({ ...seen({}), cutoffs: null })).toEqual([]);
    expect(reallyEmpty.weigh!(seen({ deviation: 20, restVolts: NaN }))).toEqual([]);
  });
});

describe('a high inner resistance', () => {
  const good = bankOhms(agm);
  /** Comes back by so many times what a good battery's would. */
  const sagging = (times: number, part: Partial<CutOff> = {}) =>
    seen({ amps: 20, volts: 12.4 - times * 20 * good, restVolts: 12.4, ...part });

  test('sinks far more than a good battery, and comes back', () => {
    expect(sumOf(batteryResistance.weigh!(sagging(6)), 'ohms')).toBeGreaterThan(8);
    expect(sumOf(batteryResistance.weigh!(sagging(1.1)), 'ohms')).toBeLessThan(-5);
  });

  test('is not told by a voltage that nobody saw at rest: a charger held it', () => {
    expect(batteryResistance.weigh!(sagging(6, { restVolts: NaN }))).toEqual([]);
  });

  test('unless a charged battery is far under what the table has for it, soon after the load came', () => {
    const charged = (times: number, part: Partial<CutOff> = {}) =>
      sumOf(
        batteryResistance.weigh!(
          // 12.65 V at rest when full: Battery Council International, from memory.
          seen({ amps: 20, held: 100, volts: 12.65 - times * 20 * good, restVolts: NaN, ...part }),
        ),
        'ohms',
      );
    expect(charged(8)).toBeGreaterThan(8);
    expect(charged(1.1)).toBeLessThan(-5);
    // After an hour the load has drawn it down: as it came is what tells.
    expect(charged(8, { ranMs: 3_600_000 })).toBe(0);
    expect(charged(8, { ranMs: 3_600_000, beganVolts: 12.65 - 8 * 20 * good })).toBeGreaterThan(8);
    expect(charged(8, { ranMs: 3_600_000, beganVolts: 12.65 - 1.1 * 20 * good })).toBeLessThan(-5);
    expect(charged(8, { deviation: 20 })).toBe(0);
    // How far that is in volts counts as well: 0.15 V under the table no load minds.
    const sank = (under: number, amps: number) =>
      sumOf(
        batteryResistance.weigh!(seen({ amps, held: 100, volts: 12.65 - under, restVolts: NaN })),
        'sank',
      );
    expect(sank(1.4, 20)).toBeGreaterThan(2);
    expect(sank(0.15, 6)).toBeLessThan(-5);
  });

  test('nor of an empty battery, which sinks whatever it has', () => {
    expect(sumOf(batteryResistance.weigh!(sagging(6, { held: 5 })), 'ohms')).toBe(0);
  });
});

test('the battery’s voltage before a load came, from a log that missed the load, is not its voltage under the load', () => {
  const good = bankOhms(agm);
  const seenOne = cut({ held: 95, amps: 20, loadAmps: 20, volts: 12.6 - 6 * 20 * good, restVolts: NaN });
  const missed = cut({ held: 95, amps: 0.1, loadAmps: 20, volts: 12.6, loadVolts: 11, restVolts: 12.6 });
  const mixed = { list: [seenOne, seenOne, missed, missed, missed, missed] };
  const judged = seen({}, agm, mixed);
  expect(cuttingOf(judged)!.volts).toBeCloseTo(seenOne.volts, 6);
  // Nor does the load stand so far under a battery that was not seen.
  expect(cuttingOf(judged)!.apart).toBeNaN();
  expect(sumOf(batteryResistance.weigh!(judged), 'sank')).toBeGreaterThanOrEqual(0);
  // A run of an hour was in the log, whatever else gave the current.
  const long = cut({ amps: 0.1, loadAmps: 20, volts: 12.6, loadVolts: 12, ranMs: 3_600_000 });
  expect(cuttingOf(seen({}, agm, { list: [long] }))!.apart).toBeCloseTo(0.6, 6);
});

describe('a starting current', () => {
  const spikes = (part: Partial<CutOff>, surgeA?: number) => {
    const judged = seen({ why: 'surge', loadAmps: 50, amps: 50, ...part });
    return sumOf(
      surgeTrip.weigh!({
        ...judged,
        system: { ...judged.system, loads: [{ id: 'pump', name: 'Pump', counted: true, surgeA }] },
      } as Judged),
    );
  };
  test('over what the protection is set to, on a battery that stands well, trips it; each adds to the spikes', () => {
    const bare = spikes({ volts: 11.2 });
    expect(spikes({ volts: 12.1 })).toBeGreaterThan(bare);
    expect(spikes({ volts: 11.2 }, 42)).toBeGreaterThan(bare);
    expect(spikes({ volts: 11.2 }, 80)).toBe(bare);
    expect(spikes({ why: 'volts', volts: 12.1 }, 42)).toBeLessThan(0);
  });
});

describe('a cold battery', () => {
  const at = (celsius: number, held = 60) =>
    sumOf(
      coldBattery.weigh!(
        seen({ celsius, held }, agm, { celsius: { cold: celsius, middle: celsius + 5, warm: 16 } }),
      ),
    );
  test('the colder at its cut-offs, the more; not in the mild, and less where it was empty anyway', () => {
    expect(at(-4)).toBeGreaterThan(at(4));
    expect(at(4)).toBeGreaterThan(at(9));
    expect(at(15)).toBeLessThan(-5);
    expect(at(-4, 5)).toBeLessThan(at(-4));
    // A fifth left is what the cold leaves: that speaks neither for it nor against.
    expect(sumOf(coldBattery.weigh!(seen({ celsius: -12, held: 22 }, lithium)), 'held')).toBe(0);
    expect(sumOf(coldBattery.weigh!(seen({ celsius: -12, held: 14 }, lithium)), 'held')).toBeLessThan(0);
  });
});

/** The true charge over a hundred minutes, the same all along, or nowhere known. */
const course = (held = NaN, deviation = NaN) => ({
  grid: { from: 0, step: 60_000, count: 100, cuts: [] },
  percent: new Float64Array(100).fill(held),
  deviation: new Float64Array(100).fill(deviation),
});

describe('a load that is large for its battery', () => {
  // 50 A from 100 Ah: half of the twenty-hour capacity by Peukert's law with 1.24 (W. Peukert, Elektrotechnische Zeitschrift 20, 1897).
  const emptied = (ampHours: number, percent: number) => ({
    ...seen({ amps: 50, held: 2, restVolts: 11.6, ranMs: 3_600_000 }),
    counting: {
      discharges: Array.from({ length: 6 }, (_, k) => ({
        from: k,
        to: k + 1,
        ampHours,
        holds: { percent, band: 8 },
      })),
    },
  });
  const weighed = (ampHours: number, percent: number) =>
    rateExpected.weigh!(emptied(ampHours, percent) as unknown as Judged);
  test('gave what its rate leaves, though nothing was left', () => {
    expect(sumOf(weighed(57, 96), 'left')).toBeGreaterThan(5);
    expect(weighed(57, 96).find((one) => one.group === 'left')!.text).toBe(
      '6 discharges from full until it was empty gave 57 Ah; put right for the rate that is 96 % of its 100 Ah.',
    );
  });
  test('gave as much each time, which is no accident', () => {
    expect(sumOf(weighed(57, 96), 'again')).toBeGreaterThan(0);
    const few = emptied(57, 96);
    few.counting.discharges.splice(4);
    expect(sumOf(rateExpected.weigh!(few as unknown as Judged), 'again')).toBe(0);
    const apart = emptied(57, 96);
    apart.counting.discharges.forEach((one, k) => (one.holds.percent += k % 2 ? 8 : -8));
    expect(sumOf(rateExpected.weigh!(apart as unknown as Judged), 'again')).toBe(0);
  });
  test('gave less even so: the battery is poor', () => {
    expect(sumOf(weighed(35, 62), 'left')).toBeLessThan(-5);
    expect(sumOf(weighed(35, 62), 'again')).toBe(0);
  });
  test('was never seen empty, but its cut-offs ended discharges that gave what the rate leaves', () => {
    const ended = (percent: number, to = 0) =>
      sumOf(
        rateExpected.weigh!({
          ...seen({ amps: 50, deviation: 25, restVolts: NaN, ranMs: 3_600_000 }),
          counting: {
            course: course(),
            discharges: Array.from({ length: 6 }, () => ({
              from: -1,
              to,
              ampHours: 57,
              percent,
              holds: null,
            })),
          },
        } as unknown as Judged),
        'left',
      );
    expect(ended(96)).toBeGreaterThan(5);
    // What gave less may have been let go early; what ended hours before the cut-off was not ended by it.
    expect(ended(60)).toBe(0);
    expect(ended(96, -7_200_000)).toBe(0);
    // Small loads draw on for a while after it; for half a day they empty it by themselves.
    expect(ended(96, 1_800_000)).toBeGreaterThan(5);
    expect(ended(96, 43_200_000)).toBe(0);
  });
  test('held much as it came on, and emptied it by what the rate takes: a run tells that where no full charge was seen', () => {
    // By the law 58 of 100 Ah come out at 50 A: of 90 % that is 52 Ah, in an hour and two minutes.
    const ran = (minutes: number, held = 90, deviation = 4) => {
      const cuts = seen({ at: 90 * 60_000, amps: 50, held: 2, restVolts: 11.6, ranMs: minutes * 60_000 });
      const counting = { discharges: [], course: course(held, deviation) };
      return rateExpected.weigh!({ ...cuts, counting } as unknown as Judged);
    };
    expect(sumOf(ran(60), 'left')).toBeGreaterThan(5);
    expect(ran(60).find((one) => one.group === 'left')!.text).toContain(
      'It held 90 % as the load came on, and gave 50 Ah',
    );
    // It gave less even so; it was not full, or nobody knows.
    expect(sumOf(ran(30), 'left')).toBeLessThan(-5);
    expect(ran(60, 60).some(({ text }) => text.startsWith('It held'))).toBe(false);
    expect(ran(60, 90, 15).some(({ text }) => text.startsWith('It held'))).toBe(false);
  });
  test('without such discharges it goes by what was left', () => {
    const without = { ...emptied(57, 96), counting: { discharges: [], course: course() } };
    expect(sumOf(rateExpected.weigh!(without as unknown as Judged), 'left')).toBeLessThan(0);
    // A rate that leaves 20 %, by an exponent of 1.15: 12 % was left, or nothing.
    const left = (held: number) => {
      const cuts = seen({ amps: 22, held, restVolts: NaN, ranMs: 3_600_000 });
      const system = { ...cuts.system, monitor: { peukert: 1.15 } };
      const judged = { ...cuts, system, counting: { discharges: [], course: course() } } as unknown as Judged;
      return sumOf(rateExpected.weigh!(judged), 'left');
    };
    expect(left(12)).toBeGreaterThan(3);
    expect(left(3)).toBeLessThan(-2);
  });
});

describe('a battery that was emptied from full', () => {
  const gave = (...percents: number[]) => {
    const discharges = percents.map((percent, k) => ({
      from: k,
      to: k + 1,
      ampHours: percent,
      holds: { percent, band: 6 },
    }));
    const counting = {
      wrong: { gain: 1, unseen: [] },
      capacityAh: { value: 100, deviation: 30 },
      discharges,
    };
    return capacityLost.weigh!({ ...seen({ held: 8, restVolts: 11.9 }), counting } as unknown as Judged);
  };

  // 80 % of the rating is a battery's end (IEEE Std 450, from memory); what repeats is no accident (common practice, no source).
  test('is poor the surer the more often it gave the same', () => {
    expect(sumOf(gave(61), 'holds')).toBeGreaterThan(11);
    expect(sumOf(gave(61), 'again')).toBe(0);
    expect(sumOf(gave(61, 60, 62, 61), 'again')).toBeGreaterThan(0);
  });
  test('is not surer where they differ, or where it may be good', () => {
    expect(sumOf(gave(61, 40, 75, 52), 'again')).toBe(0);
    expect(sumOf(gave(78, 78, 77, 78), 'again')).toBe(0);
    expect(sumOf(gave(98, 97, 98, 99))).toBeLessThan(-5);
  });
});

test('what is at its end by twice its doubt tells so at cut-offs that leave it half full; what may be good does not', () => {
  const holds = (value: number, held: number, deviation = 9) => {
    const counting = {
      wrong: { gain: 1, unseen: [] },
      discharges: [],
      course: course(),
      capacityAh: { value, deviation },
    };
    return sumOf(
      capacityLost.weigh!({ ...seen({ held, restVolts: 12.3 }), counting } as unknown as Judged),
      'holds',
    );
  };
  expect(holds(52, 45)).toBeGreaterThan(10);
  expect(holds(68, 45)).toBe(0);
  expect(holds(68, 10)).toBeGreaterThan(2);
  // Where nothing else is known that is likely by itself, a third below its label and well known.
  expect(holds(60, 9, 3) + capacityLost.prior.complained).toBeGreaterThanOrEqual(10);
  expect(holds(60, 9, 7) + capacityLost.prior.complained).toBeLessThan(10);
});

describe('the count by the label leaves far more than the voltage that a battery rests at', () => {
  const judged = (
    held: number,
    restVolts: number,
    awayHours = 8,
    bank: typeof agm | typeof lithium = agm,
  ) => {
    const away = { held, restVolts, amps: 24, ranMs: 3_600_000, back: awayHours * 3_600_000 };
    const counting = {
      wrong: { gain: 1, unseen: [] },
      discharges: [],
      course: course(),
      capacityAh: { value: 98, deviation: 12 },
    };
    return { ...seen(away, bank), counting } as unknown as Judged;
  };
  const lost = (...of: Parameters<typeof judged>) => sumOf(capacityLost.weigh!(judged(...of)), 'holds');
  const rate = (...of: Parameters<typeof judged>) => sumOf(rateExpected.weigh!(judged(...of)), 'left');

  test('it does not hold what its label says, and the rate excuses nothing', () => {
    expect(lost(60, 11.9)).toBeGreaterThan(12);
    expect(rate(60, 11.9)).toBeLessThan(-5);
  });

  test('charges that began at half and ended full after a sixth of its label say the same', () => {
    const refilled = (ampHours: number) => {
      // 12.24 V is about half of a rested lead battery (Battery Council International, from memory).
      const one = { ...charge([], { volts: 12.24, amps: -0.5 }), full: true, ampHours };
      const charging = [{ source: null, bank: agm, knowsBatteryAmps: true, charges: Array(5).fill(one) }];
      return capacityLost.weigh!({ ...judged(35, 12.2), charging } as unknown as Judged);
    };
    expect(sumOf(refilled(15), 'holds')).toBeGreaterThan(12);
    expect(sumOf(refilled(15), 'again')).toBeGreaterThan(0);
    expect(refilled(50)).toEqual([]);
  });

  test('where the two agree, or differ by what a short rest leaves, only the rate is asked', () => {
    expect(lost(35, 12.2)).toBe(0);
    expect(rate(35, 12.1)).toBeGreaterThan(0);
    expect(lost(30, 11.95)).toBe(0);
  });

  test('a load that is back within the hour, and lithium, whose voltage says little, tell nothing of it', () => {
    expect(lost(60, 11.9, 0.5)).toBe(0);
    expect(lost(60, 12.9, 8, lithium)).toBe(0);
  });
});
