/** The parts that a simulated site is made of. */

import { LEAD_MONITOR } from '../../../tests/support/counterSettings';
import { DAY, HOUR } from '../quantity/span';
import { drive, restingCharger, runCharger, type ChargerSpec } from './charger';
import { keptDemo, keptTruth } from '../../../tests/support/demos';
import { demoJob, DEMO_SLUGS } from './demo';
import { writeLog, type LoggerSpec } from './logger';
import { countStep } from './monitor';
import { seededRandom } from './random';
import { sunElevation, weather } from './weather';

describe('random numbers', () => {
  test('the same seed gives the same numbers, another seed others', () => {
    const take = (seed: number) => Array.from({ length: 5 }, seededRandom(seed).next);
    expect(take(4)).toEqual(take(4));
    expect(take(4)).not.toEqual(take(5));
  });
  test('mean and spread are those of the distributions', () => {
    const random = seededRandom(8);
    const uniform = Array.from({ length: 20_000 }, () => random.uniform(2, 4));
    const normal = Array.from({ length: 20_000 }, () => random.normal(5, 2));
    const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;
    expect(mean(uniform)).toBeCloseTo(3, 1);
    expect(mean(normal)).toBeCloseTo(5, 1);
    expect(Math.sqrt(mean(normal.map((one) => (one - 5) ** 2)))).toBeCloseTo(2, 1);
    expect(Math.min(...uniform)).toBeGreaterThanOrEqual(2);
  });
});

describe('sun', () => {
  const noon = (month: number, day: number, latitude: number) =>
    (sunElevation({ latitude, longitude: 0 }, Date.UTC(2026, month, day, 12)) * 180) / Math.PI;
  test('noon elevation is 90° − latitude at the equinox, ± 23.4° at the solstices (spherical astronomy, within a degree)', () => {
    expect(Math.abs(noon(2, 21, 40) - 50)).toBeLessThan(1);
    expect(Math.abs(noon(5, 21, 40) - 73.4)).toBeLessThan(1);
    expect(Math.abs(noon(11, 21, 40) - 26.6)).toBeLessThan(1);
  });
  test('it is night at midnight, and clouds only take away', () => {
    const climate = { latitude: 40, longitude: 13, meanC: 18, dailyC: 4, clear: 0.3, mixed: 0.4 };
    const sky = weather(climate, seededRandom(2));
    for (let ms = Date.UTC(2026, 5, 1); ms < Date.UTC(2026, 5, 8); ms += HOUR / 6) {
      const clear = Math.max(0, Math.sin(sunElevation(climate, ms))) ** 1.15;
      const sun = sky.sun(ms);
      expect(sun).toBeGreaterThanOrEqual(0);
      expect(sun).toBeLessThanOrEqual(clear * 1.2 + 1e-9);
      if (clear === 0) expect(sun).toBe(0);
    }
  });
});

describe('charger', () => {
  const spec: ChargerSpec = {
    id: 'c',
    ratedA: 20,
    absorptionV: 14.4,
    floatV: 13.6,
    compensationVPerC: -0.024,
    absorptionMinutes: 60,
    rebulkV: 12.8,
    pathOhms: 0.01,
  };
  /** A battery like a voltage source with a resistance of 0.1 Ω. */
  const bus = (rest: number, loadAmps = 0) => ({
    loadAmps,
    ampsAt: (volts: number) => (volts - rest) / 0.1,
    voltsAt: (amps: number) => rest + 0.1 * amps,
  });

  test('limited by its rating the voltage is the battery’s; the path adds its drop', () => {
    const { amps, batteryVolts, terminalVolts, regulating } = drive(spec, 14.4, 20, bus(12));
    expect([amps, regulating]).toEqual([20, false]);
    expect(batteryVolts).toBeCloseTo(14, 9);
    expect(terminalVolts).toBeCloseTo(14.2, 9);
  });
  test('regulating it holds its own terminals and carries the load', () => {
    const { amps, batteryVolts, terminalVolts, regulating } = drive(spec, 14.4, 20, bus(13.5, 3));
    expect(regulating).toBe(true);
    expect(terminalVolts).toBeCloseTo(14.4, 5);
    expect(amps).toBeCloseTo((batteryVolts - 13.5) / 0.1 + 3, 4);
  });
  test('no source, no current', () => {
    expect(drive(spec, 14.4, 0, bus(12, 5))).toMatchObject({ amps: 0, batteryVolts: 11.5 });
  });
  test('bulk, absorption for its time, float; cold lifts the target', () => {
    const state = restingCharger();
    const stages: string[] = [];
    let output = runCharger(spec, state, 60, 20, 15, bus(12));
    for (let minute = 0; minute < 90; minute++) {
      output = runCharger(spec, state, 60, 20, 15, bus(13.8));
      stages.push(state.stage);
    }
    expect(stages.indexOf('float') - stages.indexOf('absorption')).toBe(60);
    expect(output.terminalVolts).toBeCloseTo(13.6 + 0.24, 1);
  });
  test('a tail ends absorption early; a long absence starts a new charge, a cloud does not', () => {
    const tailed = { ...spec, absorptionMinutes: 300, tailA: 5 };
    const state = restingCharger();
    for (let minute = 0; minute < 10; minute++) runCharger(tailed, state, 60, 20, 25, bus(14.1));
    expect(state.stage).toBe('float');
    runCharger(tailed, state, 60, 0, 25, bus(13));
    runCharger(tailed, state, 60, 20, 25, bus(13));
    expect(state.stage).toBe('float');
    for (let minute = 0; minute < 120; minute++) runCharger(tailed, state, 60, 0, 25, bus(12.5));
    runCharger(tailed, state, 60, 20, 25, bus(12));
    expect(state.stage).toBe('bulk');
  });
  test('float that sags below rebulk for ten minutes begins again', () => {
    const state = { ...restingCharger(), stage: 'float' as const, awaySeconds: 0 };
    for (let minute = 0; minute < 12; minute++) runCharger(spec, state, 60, 2, 25, bus(12, 3));
    expect(state.stage).toBe('bulk');
  });
});

describe('monitor', () => {
  const monitor = LEAD_MONITOR;
  const hour = (amps: number, volts = 12.5, percent = 80, of = monitor) => {
    const state = { percent, heldSeconds: 0 };
    for (let i = 0; i < 60; i++) countStep(of, state, 60, volts, amps);
    return state.percent;
  };
  test('it counts out at the rated current as it is, faster by Peukert, in by the efficiency', () => {
    expect(hour(-5)).toBeCloseTo(75, 6);
    expect(hour(-20)).toBeCloseTo(80 - 20 * 4 ** 0.25, 6);
    expect(hour(10)).toBeCloseTo(88.5, 6);
  });
  test('currents under the threshold are not counted; the reading stays within 0 and 100 %', () => {
    expect(hour(-0.4, 12.5, 80, { ...monitor, thresholdA: 0.5 })).toBe(80);
    expect(hour(-95, 12, 20)).toBe(0);
  });
  test('it synchronises when voltage and tail have held for the detection time', () => {
    const state = { percent: 90, heldSeconds: 0 };
    for (let minute = 0; minute < 3; minute++) countStep(monitor, state, 60, 14.3, 2);
    expect(state.percent).toBeLessThan(91);
    countStep(monitor, state, 60, 14.3, 2);
    expect(state.percent).toBe(100);
    expect(hour(6, 14.3, 60)).toBeLessThan(70);
  });
});

describe('logger', () => {
  const truth = {
    device: 'truth',
    time: Float64Array.from({ length: 3 }, (_, i) => Date.UTC(2026, 9, 24, 23, 30) + i * 30 * 60_000),
    channels: {
      battery_voltage: Float32Array.from([12.437, 12.43, NaN]),
      battery_current: Float32Array.from([-1.26, 1.24, 0]),
      source_stage: Float32Array.from([0, 1, 2]),
    },
  };
  const spec: LoggerSpec = {
    everySeconds: 1800,
    timeHeading: 't',
    timeStyle: 'local',
    timeZone: 'Europe/Rome',
    delimiter: ';',
    decimalChar: ',',
    columns: [
      { heading: 'V', channel: 'battery_voltage', quantum: 0.02 },
      { heading: 'mA', channel: 'battery_current', quantum: 0.1, scale: 0.001 },
      { heading: 'state', channel: 'source_stage', quantum: 1 },
    ],
  };
  test('quantum, unit, decimal comma, missing values, stage words and the clock of the site', () => {
    expect(writeLog(truth, spec, seededRandom(1)).split('\n')).toEqual([
      't;V;mA;state',
      '2026-10-25 01:30:00;12,44;-1300;off',
      '2026-10-25 02:00:00;12,44;1200;bulk',
      '2026-10-25 02:30:00;;0;absorption',
      '',
    ]);
  });
  test('other clocks', () => {
    const first = (timeStyle: LoggerSpec['timeStyle']) =>
      writeLog(truth, { ...spec, timeStyle }, seededRandom(1))
        .split('\n')[1]!
        .split(';')[0];
    expect(first('utc')).toBe('2026-10-24T23:30:00Z');
    expect(first('local-dmy')).toBe('25/10/2026 01:30');
  });
});

describe('the demo', () => {
  test.each(DEMO_SLUGS)('%s has logs that are long enough', (slug) => {
    for (const log of keptDemo(slug).logs) expect(log.text.split('\n').length).toBeGreaterThan(10_000);
  });
  test.each(['tide-gauge', 'weather-mast'])('%s comes out the same in another process', (slug) => {
    const textsOf = (logs: { text: string }[]) => logs.map((log) => log.text);
    // Compared whole, but not shown: a difference would be megabytes.
    expect(textsOf(demoJob(slug).logs).join() === textsOf(keptDemo(slug).logs).join()).toBe(true);
  });
  test('the stories hold in the truth: the tide gauge never gets full, the harbour office every day', () => {
    const bestOf = (slug: string) => {
      const { series, trueCharge } = keptTruth(slug);
      const perDay = DAY / (series.time[1]! - series.time[0]!);
      return Array.from({ length: 26 }, (_, day) =>
        Math.max(...trueCharge.subarray((day + 1) * perDay, (day + 2) * perDay)),
      );
    };
    expect(Math.max(...bestOf('tide-gauge'))).toBeLessThan(97);
    expect(Math.min(...bestOf('harbour-office'))).toBeGreaterThan(99);
  });
});
