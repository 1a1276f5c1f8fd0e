/** The settings bench over a log that is drawn: a battery that is emptied by night and filled by day, with clouds that look like a tail. */

import { LEAD_SETTINGS } from '../../../tests/support/counterSettings';
import { HOUR, MINUTE } from '../quantity/span';
import type { KnownBank } from '../system/known';
import { type BenchLog, fitSettings, schoolPresets, tryOut } from './bench';
import { interpolateAt } from '../log/interpolateAt';
import { packLog, unpackLog } from './packed';
import { type CounterSettings, configuredSettings } from './settings';

const bank = {
  chemistry: 'agm',
  cellsInSeries: 6,
  capacityAh: 100,
  chargeVolts: { min: 14.2, max: 14.6 },
} as KnownBank;

const DAYS = 8;
const PER_DAY = 24 * 60;

/** By night 3 A go out; by day 10 A go in at 90 %, the last hour at 14.4 V with little current. At ten a cloud: 13.3 V and 2 A. */
function drawnLog(): BenchLog {
  const count = DAYS * PER_DAY;
  const time = Float64Array.from({ length: count }, (_, i) => i * MINUTE);
  const amps = new Float32Array(count);
  const volts = new Float32Array(count);
  const held = new Float64Array(count);
  const fulls: { from: number; to: number }[] = [];
  let ampHours = 100;
  for (let i = 0; i < count; i++) {
    const minute = i % PER_DAY;
    const hour = minute / 60;
    const cloud = hour >= 10 && hour < 10.5;
    const day = hour >= 8 && hour < 17;
    const full = ampHours >= 99.9;
    amps[i] = !day ? -3 : cloud ? 2 : full ? 1 : 10;
    volts[i] = !day ? 12.4 : cloud ? 13.3 : full ? 14.4 : 13.9;
    ampHours = Math.min(100, ampHours + ((amps[i]! > 0 ? 0.9 : 1) * amps[i]!) / 60);
    held[i] = ampHours;
    if (day && full && !cloud) {
      const last = fulls.at(-1);
      if (last && time[i]! - last.to < HOUR) last.to = time[i]!;
      else fulls.push({ from: time[i]!, to: time[i]! });
    }
  }
  const hours = Array.from({ length: DAYS * 24 }, (_, k) => held[k * 60]!);
  return {
    time,
    amps,
    volts,
    truth: { from: 0, stepMs: HOUR, percent: hours, band: hours.map(() => 4) },
    fulls,
    start: 100,
    kind: { by: 'count' },
  };
}

const log = drawnLog();
const good: CounterSettings = { ...LEAD_SETTINGS, efficiencyPercent: 90, peukert: 1 };

test('settings that are right keep the reading true, with a sync on each full charge and none beside', () => {
  const { trial, reading } = tryOut(log, good);
  expect(trial.off).toBeLessThan(1);
  expect([trial.wrong, trial.missed]).toEqual([0, 0]);
  expect(reading).toHaveLength(log.time.length);
});

test('criteria that a cloud meets make a false sync each morning; a voltage that is never reached misses every full charge', () => {
  const easy = tryOut(log, { ...good, chargedV: 13.2, detectionMinutes: 1 }).trial;
  expect(easy.wrong).toBe(DAYS - 1);
  expect(easy.off).toBeGreaterThan(4 * tryOut(log, good).trial.off);
  const never = tryOut(log, { ...good, chargedV: 15, efficiencyPercent: 70 }).trial;
  expect(never.syncs).toBe(0);
  expect(never.missed).toBeGreaterThan(3);
});

test('a battery that may have been full by the doubt about it makes no sync false', () => {
  const settings = { ...good, chargedV: 13.2, detectionMinutes: 1 };
  const unsure = (points: number) => ({
    ...log,
    truth: { ...log.truth, band: Array.from(log.truth.percent, () => points) },
  });
  const wrong = (points: number) => tryOut(unsure(points), settings).trial.wrong;
  expect(wrong(4)).toBe(DAYS - 1);
  // Morning clouds meet it half full: no doubt of a few points makes that full, one of half the battery does.
  expect(wrong(10)).toBe(DAYS - 1);
  expect(wrong(100)).toBe(0);
});

test('the fit finds its way back from them, and does not touch a setting that is right', () => {
  const steps: number[] = [];
  const { settings, trial } = fitSettings(
    log,
    bank,
    [{ ...good, chargedV: 13.2, detectionMinutes: 1, efficiencyPercent: 70 }],
    (done) => steps.push(done),
  );
  expect([trial.wrong, trial.missed]).toEqual([0, 0]);
  expect(trial.off).toBeLessThan(1.5);
  expect(settings.capacityAh).toBe(100);
  expect(Math.abs(settings.efficiencyPercent - 90)).toBeLessThanOrEqual(2);
  expect(steps.at(-1)).toBe(1);
  expect(steps).toEqual([...steps].sort((a, b) => a - b));
});

test('the schools: a little under float, a little under absorption (common practice, no source)', () => {
  const presets = schoolPresets(bank, { absorption: 14.4, float: 13.6 }, good);
  const volts = Object.fromEntries(presets.map((one) => [one.name, one.settings.chargedV]));
  expect(volts['Steady source']).toBeCloseTo(13.4, 9);
  expect(volts['Varying source']).toBeCloseTo(14.2, 9);
  const lithium = schoolPresets(
    { ...bank, chemistry: 'lfp', cellsInSeries: 8 },
    { absorption: 28.4, float: null },
    good,
  );
  expect(lithium.map((one) => one.settings.chargedV)).toEqual([expect.closeTo(28, 9), 27.6, 27]);
});

test('on the way to the browser nothing of the log is lost', () => {
  const packed = { time: log.time, amps: log.amps, volts: log.volts, reading: null };
  const pieces = packLog(packed);
  const bytes = new Uint8Array(pieces.reduce((sum, one) => sum + one.length, 0));
  pieces.reduce((at, one) => (bytes.set(one, at), at + one.length), 0);
  expect(unpackLog(bytes.buffer)).toEqual(packed);
  expect(() => unpackLog(bytes.buffer.slice(0, 100))).toThrow(/not a counter’s log/);
});

test('one log read off at the times of another: the line between, nothing in gaps and beyond the ends', () => {
  const time = Float64Array.of(0, 60_000, 120_000, 180_000, 3_600_000);
  const values = Float32Array.of(0, 10, 20, 30, 40);
  const read = interpolateAt(
    time,
    values,
    Float64Array.of(-1, 0, 30_000, 180_000, 1_000_000, 3_600_000, 3_600_001),
  );
  expect(Array.from(read)).toEqual([NaN, 0, 5, 30, NaN, 40, NaN]);
});

test('what nobody told is taken as usual, and said to be', () => {
  const { settings, assumed } = configuredSettings({
    name: 'Drawn',
    timeZone: 'UTC',
    bank,
    sources: [],
    loads: [],
    monitor: { capacityAh: 120, tailPercent: 2 },
  });
  expect(settings).toMatchObject({
    capacityAh: 120,
    tailPercent: 2,
    efficiencyPercent: 85,
    detectionMinutes: 3,
  });
  expect(assumed).toEqual(expect.arrayContaining(['chargedV', 'efficiencyPercent', 'peukert']));
  expect(assumed).not.toContain('capacityAh');
});
