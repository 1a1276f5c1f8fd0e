/** Drawn logs: what is a cut-off, by whom and why, and what is none. */

import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, type Drawn, find, MINUTE } from '../../../tests/support/drawnLoads';
import { findCutOffs } from './findCutOffs';
import { loadCurrents } from './loadCurrents';

/** Off for two hours from the sixth hour of each day on. */
const off = (minute: number) => minute % DAY >= 360 && minute % DAY < 480;

test('a load that goes off at its voltage, and what the battery came back to', () => {
  const found = find(
    {
      amps: (m) => (off(m) ? 0 : 5),
      volts: (m) => (off(m) ? 12.1 : m % DAY < 360 ? 12.4 - 0.0025 * (m % DAY) : 12.6),
    },
    { cutoffV: 11.5 },
  );
  expect(found.map((one) => [one.by, one.why, one.trips])).toEqual([
    ['pump', 'volts', 1],
    ['pump', 'volts', 1],
  ]);
  expect(found[0]!.at).toBe(360 * MINUTE);
  expect(found[0]!.volts).toBeCloseTo(11.5, 1);
  expect(found[0]!.restVolts).toBeCloseTo(12.1, 3);
  expect((found[0]!.back - found[0]!.at) / MINUTE).toBe(120);
});

test('what was drawn, though the monitor writes its current without the load before the load’s own log is without it', () => {
  const drawn = {
    amps: (m: number) => (off(m) ? 0 : 20),
    volts: (m: number) => (off(m) || off(m + 1) ? 12.1 : m % DAY < 360 ? 12.4 - 0.0025 * (m % DAY) : 12.6),
  };
  const [one] = find({ ...drawn, batteryAmps: (m) => (off(m) || off(m + 1) ? 0 : 20) }, { cutoffV: 11.5 });
  expect([one!.at / MINUTE, one!.amps]).toEqual([360, 20]);
});

test('what a charger holds up when the load has gone is no rest', () => {
  const rest = (away: number) =>
    find(
      {
        amps: (m) => (off(m) ? 0 : 20),
        volts: (m) => (off(m) ? away : m % DAY < 360 ? 12.4 - 0.0025 * (m % DAY) : 12.6),
      },
      { cutoffV: 11.5 },
    )[0]!.restVolts;
  expect(rest(12.4)).toBeCloseTo(12.4, 3);
  expect(rest(13.7)).toBeNaN();
});

test('a load that is switched off is none', () => {
  expect(find({ amps: (m) => (off(m) ? 0 : 5), volts: () => 12.6 }, { cutoffV: 11.5 })).toEqual([]);
  // Nor is a cycling one, at whatever voltage it ends.
  expect(
    find({ amps: (m) => (m % 40 < 15 ? 5 : 0), volts: (m) => 12.8 - (0.4 * ((m * 7) % 13)) / 13 }),
  ).toEqual([]);
});

test('the voltage at the load decides, where it was logged', () => {
  const drawn = { amps: (m: number) => (off(m) ? 0 : 20), volts: (m: number) => (off(m) ? 12.8 : 12.6) };
  expect(
    find({ ...drawn, loadVolts: (m) => (off(m) ? 12.8 : 11.45) }, { cutoffV: 11.5 }).map((one) => one.why),
  ).toEqual(['volts', 'volts']);
  expect(find({ ...drawn, loadVolts: (m) => (off(m) ? 12.8 : 12.5) }, { cutoffV: 11.5 })).toEqual([]);
});

test('a spike between a charger and a battery that it charges is two meters read apart; one that the battery gave is a spike', () => {
  // The charger begins at 30 A; for a minute the battery's meter shows a part of it.
  const spikes = (m: number) => m % DAY === 360;
  const charging: Drawn = {
    amps: (m) => (spikes(m) ? 25 : m % DAY > 300 && m % DAY < 340 ? 3 : 0),
    given: (m) => (m % DAY >= 360 ? 60 : 0),
    volts: (m) => (m % DAY >= 360 ? 13.8 : 12.6),
  };
  expect(find(charging, {}, { days: 6 })).toEqual([]);
  // One that it gives itself pulls its voltage down.
  const drawn: Drawn = {
    ...charging,
    amps: (m) => (spikes(m) ? 85 : charging.amps(m)),
    volts: (m) => (spikes(m) ? 12.2 : charging.volts(m)),
  };
  expect(find(drawn, {}, { days: 6 }).map((one) => one.why)).toContain('surge');
});

test('a spike before it, at a healthy voltage; a low voltage goes before a spike that nobody set a limit for', () => {
  const amps = (m: number) => (off(m) ? 0 : m % DAY === 359 ? 80 : 5);
  expect(find({ amps, volts: () => 12.7 }, { surgeA: 75 }).map((one) => one.why)).toEqual(['surge', 'surge']);
  expect(
    find({ amps, volts: (m) => (m % DAY === 359 ? 11.3 : 12.7) }, { cutoffV: 11.5 }).map((one) => one.why),
  ).toEqual(['volts', 'volts']);
});

test('a bus that loses its voltage was cut; what comes and goes on a dead bus was not', () => {
  // The BMS opens in the sixth hour; a meter on the dead bus shows amperes now and then.
  const cuts = (atOnce: number) => {
    const drawn: Drawn = {
      amps: (m) => (m < 360 ? 20 : m % 100 < 20 ? 8 : 0),
      volts: (m) => (m < 360 ? 12.6 : m === 360 ? atOnce : 0),
    };
    return find(drawn, {}, { days: 1 }).map((one) => [one.at / MINUTE, one.by]);
  };
  expect(cuts(0)).toEqual([[360, 'bms']]);
  // What is stored on the bus lets it down slowly.
  expect(cuts(3)).toEqual([[360, 'bms']]);
});

test('trips within half an hour are one', () => {
  const amps = (m: number) => (m % DAY >= 360 && m % DAY < 420 && m % 10 >= 2 ? 0 : 5);
  const [one, ...others] = find(
    { amps, volts: (m) => (m % DAY >= 350 && m % DAY < 420 ? 11.4 : 12.6) },
    { cutoffV: 11.5 },
    { days: 1 },
  );
  expect(others).toEqual([]);
  expect(one!.trips).toBe(6);
});

test('the BMS, by its word and the lowest cell; loads that come and go while it stops are no more cut-offs', () => {
  const time = Float64Array.from({ length: DAY }, (_, i) => i * MINUTE);
  const low = (m: number) => (m >= 355 && m < 360 ? 2.6 : 3.2);
  const bms: Series = {
    device: 'bms',
    time,
    channels: {
      bms_discharge_allowed: column((m) => (off(m) ? 0 : 1), 1),
      cell_01_voltage: column(() => 3.2, 1),
      cell_02_voltage: column(low, 1),
    },
  };
  const amps = (m: number) => (off(m) && m % 50 > 5 ? 0 : 5);
  const found = find({ amps, volts: () => 12.9 }, {}, { days: 1, more: [bms], chemistry: 'lfp' });
  expect(found.map((one) => [one.by, one.why, one.lowestCell])).toEqual([['bms', 'cell-low', '2']]);
  expect(found[0]!.lowestV).toBeCloseTo(2.6, 3);
});

describe('what only looks like a cut-off', () => {
  test('a current that trembles about nothing, though the voltage is low', () => {
    const noise = (minute: number) => [0, 0.1, 0, -0.1, 0.3, 0.1, 0, 0.2, -0.1, 0.1][(minute * 7) % 10]!;
    const found = find(
      {
        // An hour of load a day, by day; by night only the meter's noise.
        amps: (m) => (m % DAY >= 720 && m % DAY < 780 ? 6 : noise(m)),
        volts: (m) => (m % DAY >= 700 && m % DAY < 800 ? 12.5 : 11.4),
      },
      { cutoffV: 11.3 },
      { days: 6 },
    );
    expect(found).toEqual([]);
  });
  test('a run that ends leaves what was drawn before it', () => {
    const run = (m: number) => m % 240 >= 100 && m % 240 < 112;
    const amps = (m: number) => (run(m) ? 40 : 1);
    const found = find({ amps, volts: (m) => (run(m) ? 11.5 : 12.6) }, {}, { days: 3 });
    expect(found).toEqual([]);
  });
  test('a run that went its whole length, where those that were cut are shorter and ended lower', () => {
    const nth = (m: number) => Math.floor(m / 240);
    const lasts = (m: number) => (nth(m) % 3 === 0 ? 7 : 12);
    const run = (m: number) => m % 240 >= 100 && m % 240 < 100 + lasts(m);
    const found = find(
      { amps: (m) => (run(m) ? 40 : 0), volts: (m) => (run(m) ? (nth(m) % 3 === 0 ? 11.2 : 11.5) : 12.6) },
      {},
      { days: 4 },
    );
    expect(found).toHaveLength(8);
    for (const one of found) expect(one.volts).toBeCloseTo(11.2, 3);
  });
  test('a BMS log that begins with a refusal does not say when that began', () => {
    const bms = (from: number): Series => {
      const count = 2 * DAY - from;
      return {
        device: 'bms',
        time: Float64Array.from({ length: count }, (_, i) => (from + i) * MINUTE),
        channels: {
          bms_discharge_allowed: Float32Array.from({ length: count }, (_, i) =>
            from + i >= 500 && from + i < 900 ? 0 : 1,
          ),
        },
      };
    };
    const drawn = { amps: () => 0, volts: () => 12.9 };
    expect(find(drawn, {}, { more: [bms(0)], chemistry: 'lfp' })).toHaveLength(1);
    expect(find(drawn, {}, { more: [bms(600)], chemistry: 'lfp' })).toEqual([]);
  });
});

describe('one load of several lets go, and the others draw on', () => {
  // 2 A always; 30 A more for an hour from the sixth hour on, cut after twenty minutes or not.
  const heavy = (m: number, minutes: number) => m % DAY >= 360 && m % DAY < 360 + minutes;
  const drawn = (minutes: number, under: number): Drawn => ({
    amps: (m) => (heavy(m, minutes) ? 32 : 2),
    volts: (m) => (heavy(m, minutes) ? under - 0.005 * ((m % DAY) - 360) : 12.7),
  });
  test('at its limit that is known', () => {
    expect(find(drawn(20, 11.6), { cutoffV: 11.5 }).map((one) => [one.by, one.why])).toEqual([
      ['pump', 'volts'],
      ['pump', 'volts'],
    ]);
    expect(
      find(
        { ...drawn(20, 12.4), shown: (m) => 40 + Math.max(0, 379 - (m % DAY)) / 18 },
        { cutoffPercent: 40 },
      )[0],
    ).toMatchObject({ by: 'pump', why: 'percent' });
    const spike: Drawn = { amps: (m) => (m % DAY === 360 ? 60 : 2), volts: () => 12.5 };
    expect(find(spike, { surgeA: 50 }).map((one) => one.why)).toEqual(['surge', 'surge']);
  });
  test('none without a limit, nor well above it', () => {
    expect(find(drawn(20, 11.6))).toEqual([]);
    expect(find(drawn(20, 12.4), { cutoffV: 11.5 })).toEqual([]);
  });
});

describe('a BMS that lets go in the cold and has no log', () => {
  const heat = (celsius: (minute: number) => number): Series => ({
    device: 'bms',
    time: Float64Array.from({ length: 4 * DAY }, (_, i) => i * MINUTE),
    channels: { battery_temperature: column(celsius, 4) },
  });
  const cold = (m: number) => m % DAY >= 300 && m % DAY < 500;
  const run = (amps: (m: number) => number) => {
    const time = Float64Array.from({ length: 4 * DAY }, (_, i) => i * MINUTE);
    const monitor: Series = {
      device: 'monitor',
      time,
      channels: { battery_voltage: column(() => 13.1, 4), battery_current: column((m) => -amps(m), 4) },
    };
    const system = {
      bank: { chemistry: 'lfp', cellsInSeries: 4, capacityAh: 100 },
      sources: [],
      loads: [{ id: 'pump', name: 'Pump', counted: true }],
      bms: { dischargeAboveC: -5 },
      timeZone: 'UTC',
    } as unknown as KnownSystem;
    const celsius = (m: number) => (cold(m) ? -7 : m % DAY === 299 ? -5 : 4);
    const timeline = timelineOf([monitor, heat(celsius)]);
    return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null);
  };
  test('below its limit nothing is ever drawn: it let go there', () => {
    expect(run((m) => (cold(m) ? 0 : 5)).map((one) => [one.by, one.why])).toEqual(
      Array.from({ length: 4 }, () => ['bms', 'cold']),
    );
  });
  test('where loads run below it, a load that stops was switched off', () => {
    expect(run((m) => (m % DAY >= 360 && m % DAY < 420 ? 0 : 5))).toEqual([]);
  });
});

test('a load that always runs its whole time beside others has ended by itself, however near its limit', () => {
  // Twenty minutes each day, down to 11.55 V or a tenth less, with a limit of 11.5 V.
  const run = (end: number): Drawn => ({
    amps: (m) => (m % DAY >= 360 && m % DAY < 380 ? 32 : 2),
    volts: (m) => (m % DAY >= 360 && m % DAY < 380 ? end + 0.01 * (379 - (m % DAY)) : 12.7),
  });
  expect(find(run(11.55), { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
  expect(find(run(11.45), { cutoffV: 11.5 }, { days: 6 })).toHaveLength(6);
});

test('a load that always ends within a sample or two of its limit was cut, though all its runs are as long', () => {
  // Twenty minutes each day, with the voltage sinking by five hundredths a minute at the end, to 11.53 V: the limit is 11.5 V.
  const drawn: Drawn = {
    amps: (m) => (m % DAY >= 360 && m % DAY < 380 ? 32 : 2),
    volts: (m) => (m % DAY >= 360 && m % DAY < 380 ? 11.53 + 0.05 * (379 - (m % DAY)) : 12.7),
  };
  expect(find(drawn, { cutoffV: 11.5 }, { days: 6 })).toHaveLength(6);
  // A wire to the load loses a few hundredths that the battery does not show.
  expect(find(drawn, { cutoffV: 11.35 }, { days: 6 })).toHaveLength(6);
  expect(find(drawn, { cutoffV: 11.31 }, { days: 6 })).toEqual([]);
  // At its own terminals the limit is to be seen.
  const own = { ...drawn, loadVolts: (m: number) => drawn.volts(m) - 0.02 };
  expect(find(own, { cutoffV: 11.5 }, { days: 6 })).toHaveLength(6);
  expect(find(own, { cutoffV: 11.35 }, { days: 6 })).toEqual([]);
});

test('a log of five minutes leaves the limit a row away: what falls so fast at its end was cut, though each night at one time', () => {
  // From ten in the evening until sixteen past two; off its knee it falls, by a tenth a minute at the last, to 10.5 V.
  const running = (m: number) => m % DAY >= 1320 || m % DAY <= 136;
  const run = (fallsAtLast: number): Drawn => ({
    amps: (m) => (running(m) ? 20 : 0),
    volts: (m) => {
      const left = (136 + DAY - (m % DAY)) % DAY;
      const end = 10.5 + (0.1 - fallsAtLast) * 12;
      return running(m) ? end + fallsAtLast * Math.min(left, 12) + 0.005 * Math.max(0, left - 12) : 12.6;
    },
  });
  expect(find(run(0.1), { cutoffV: 10.5 }, { days: 9, every: 5 })).toHaveLength(9);
  // What stands as far above the limit and hardly sinks was switched off.
  expect(find(run(0.005), { cutoffV: 11.2 }, { days: 9, every: 5 })).toEqual([]);
});

test('a load beside that ends under the limit after as long as ever is not held to it', () => {
  // Forty minutes each six hours, far above the limit by day and under it before dawn; two amperes go on.
  const isRunning = (m: number) => m % 360 >= 200 && m % 360 < 240;
  const drawn = (low: number): Drawn => ({
    amps: (m) => (isRunning(m) ? 12 : 2),
    volts: (m) => (m % DAY < 360 ? low : 12.6) - (isRunning(m) ? 0.2 : 0),
  });
  expect(find(drawn(11.4), { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
});

test('a run that the log begins with, beside loads that go on, is judged as a part of them', () => {
  const drawn = (limit: number) =>
    find(
      { amps: (m) => (m < 40 ? 16 : 0.1), volts: (m) => (m < 40 ? 11.7 - 0.002 * m : 12.1) },
      { cutoffV: limit },
      { days: 1 },
    );
  // How long it ran is not known: it was cut only where it had come down to the limit.
  expect([drawn(11.45), drawn(11.56)]).toEqual([[], []]);
  expect([drawn(11.62), drawn(11.63)].map((one) => one.length)).toEqual([1, 1]);
});

test('lithium that always goes off at the lowest voltage of its log may be set that high; what is soon back is not', () => {
  // Runs of other lengths each night, down to 13.05 V; 13.2 V and more at all other times.
  const end = (m: number) => 300 + 7 * (Math.floor(m / DAY) % 4);
  const drawn = (away: number): Drawn => ({
    amps: (m) => (m % DAY < end(m) || m % DAY >= end(m) + away ? 8 : 0),
    volts: (m) => (m % DAY < end(m) && m % DAY >= end(m) - 3 ? 13.05 : 13.2),
  });
  const found = find(drawn(200), {}, { days: 6, chemistry: 'lfp' });
  expect(found.map((one) => one.why)).toEqual(Array.from({ length: 6 }, () => 'volts'));
  expect(find(drawn(20), {}, { days: 6, chemistry: 'lfp' })).toEqual([]);
});

test('a meter that rounds shows a limit that was reached from half a step above it', () => {
  // Two minutes each evening, all of one length; the load's meter shows tenths of a volt.
  const runs = (m: number) => m % 1440 >= 1200 && m % 1440 < 1202;
  const ended = (cutoffV: number) =>
    find(
      {
        amps: (m) => (runs(m) ? 30 : 0.8),
        volts: (m) => (runs(m) ? 12.4 : 12.7),
        loadVolts: (m) => (runs(m) ? 12.3 : 12.7 + ((m % 3) - 1) / 10),
      },
      { cutoffV },
      { days: 6 },
    ).length;
  expect(ended(12.29)).toBe(6);
  expect(ended(12.2)).toBe(0);
});

test('where the voltage falls steeply, what ends a sample or two above its limit was cut; where it stands, it was not', () => {
  // An hour each night, of one length; at its end the voltage falls, or does not.
  const ran = (m: number) => m % DAY;
  const ended = (fall: number, minutes = 59) =>
    find(
      {
        amps: (m) => (ran(m) < minutes ? 50 : 0.2),
        volts: (m) =>
          ran(m) < minutes
            ? 10.77 + 0.01 * (m % 2) + fall * Math.min(8, minutes - 1 - ran(m))
            : 12.3 - 0.1 * (m % 2),
      },
      { cutoffV: 10.5 },
      { days: 8 },
    ).length;
  expect(ended(0.12)).toBe(8);
  expect(ended(0)).toBe(0);
  // Of a run of four minutes the last two samples tell.
  expect(ended(0.3, 4)).toBe(8);
  expect(ended(0.12, 4)).toBe(0);
});

test('loads that are cut as they begin end anywhere under their limit: that makes no run of them that ended by itself', () => {
  // A start of one minute each morning, from days that are better and worse: the load stands 0.1 V to 0.9 V under its limit.
  const starts = (m: number) => m % DAY === 360;
  const under = (m: number) => 0.1 + 0.2 * (Math.floor(m / DAY) % 5);
  const found = find(
    {
      amps: (m) => (starts(m) ? 60 : m % DAY < 300 ? 2 : 0),
      volts: (m) => (starts(m) ? 12.6 : 12.7),
      loadVolts: (m) => (starts(m) ? 11.5 - under(m) : 12.7),
    },
    { cutoffV: 11.5 },
    { days: 10 },
  ).filter((one) => one.loadAmps > 50);
  expect(found.map((one) => one.why)).toEqual(Array.from({ length: 10 }, () => 'volts'));
});

test('lithium whose cells nobody logged, drained to 2.65 V a cell by a load too small for its going to show: its BMS let go', () => {
  // 0.6 A of a night until six, down to a voltage at which it stands for two hours.
  const drained = (to: number) =>
    find(
      {
        amps: (m) => (off(m) ? 0 : 0.6),
        volts: (m) => (off(m) ? to : m % DAY < 360 ? to + 0.002 * (360 - (m % DAY)) : 13.2),
      },
      {},
      { days: 3, chemistry: 'lfp', isHidden: true },
    ).map(({ by, why }) => [by, why]);
  expect(drained(10.6)).toEqual(Array(3).fill(['bms', 'cell-low']));
  expect(drained(12.4)).toEqual([]);
});

test('a pack that is down: a load that is small beside others was stopped as well, and what trembles about nothing was not', () => {
  // By day eight amperes for ten minutes now and then; in the night 1.2 A of 100 Ah down to 2.55 V a cell, and nothing until the morning.
  const isNight = (m: number) => m % DAY < 600;
  const stops = (amps: number) =>
    find(
      {
        amps: (m) => (isNight(m) ? (m % DAY < 300 ? amps : (m % 2) * 0.05) : m % 60 < 10 ? 8 : 0),
        volts: (m) => (isNight(m) ? Math.max(10.2, 12 - (1.8 * (m % DAY)) / 300) : 13.2),
      },
      {},
      { days: 3, chemistry: 'lfp' },
    ).map((one) => [one.by, one.why]);
  expect(stops(1.2)).toEqual(Array(3).fill(['bms', 'cell-low']));
  expect(stops(0.1)).toEqual([]);
});

test('a voltage that stands no higher afterwards: the sun took over what was drawn, and nothing let go', () => {
  // An hour of 8 A each day down to 10.6 V, of lithium whose loads have no limit that is known.
  const run = (m: number) => m % DAY < 60;
  const drawn = (after: number): Drawn => ({
    amps: (m) => (run(m) ? 8 : 0),
    volts: (m) => (run(m) ? 11.5 - (0.9 * (m % DAY)) / 59 : m % DAY < 400 ? after : 12.8),
  });
  const cut = (after: number) => find(drawn(after), {}, { days: 3, chemistry: 'lfp', isHidden: true }).length;
  expect(cut(11.4)).toBe(3);
  expect(cut(10.58)).toBe(0);
});
