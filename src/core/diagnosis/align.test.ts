/** Logs whose clocks are apart are weighed as if they were not: the findings stay what they were. */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import { alignClocks } from '../log/align';
import { setClock } from '../log/clock';
import { cutSeries } from '../log/export/columns';
import type { Series } from '../log/channels';
import { takeInLog } from '../log/takeIn';
import { timelineOf } from '../log/timeline';
import { keptDemo } from '../../../tests/support/demos';
import { devicesOf } from '../system/schema';
import { diagnose } from './diagnose';
import { isFound } from './summary';

const { job, system, logs } = keptDemo('tide-gauge');
const series = logs.map(({ device, text }) => {
  const { kind } = devicesOf(system).find((one) => one.id === device)!;
  return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
});
const off = (offsetSeconds: number, secondsPerDay = 0): Series[] =>
  series.map((one) =>
    one.device === 'monitor'
      ? one
      : { ...one, time: setClock(one.time, null, { timeZone: 'UTC', offsetSeconds, secondsPerDay }) },
  );
/** Of causes of drift only whether they are found: a log that is shifted loses its ends, and with them a step or a sync. */
const standings = (given: Series[]) =>
  diagnose({ job, system, series: given }).findings.flatMap(({ cause, complaint, standing }) =>
    complaint !== 'drifting-soc' ? [`${cause} ${standing}`] : isFound({ standing }) ? [`${cause} found`] : [],
  );

test('an hour ahead, half an hour behind: the same standings, with the clock told', () => {
  const straight = standings(series);
  expect(straight).toContain('absorption-too-short strong');
  for (const seconds of [3600, -1800]) {
    const given = off(seconds);
    expect(standings(given)).toEqual(straight);
    const { trust, findings } = diagnose({ job, system, series: given });
    expect(trust.map((note) => note.code)).toContain('clock-offset');
    expect(findings[0]!.caveats.join(' ')).toMatch(
      /The clock of Solar controller is .*corrected times were used/,
    );
  }
});

test('a clock that runs away is measured: at its start, and a day', () => {
  for (const perDay of [20, -35]) {
    const aligned = alignClocks(timelineOf(off(-10 * 60, perDay)));
    const { ms, secondsPerDay, sure } = aligned.clocks[0]!.offset;
    expect(sure).toBe(true);
    expect(Math.abs(secondsPerDay + perDay)).toBeLessThan(4);
    // The monitor has a sample every two minutes: no clock is found finer than that.
    expect(Math.abs(ms - 10 * MINUTE)).toBeLessThan(2 * MINUTE);
    const solar = aligned.series.find((one) => one.device === 'solar')!;
    const truth = series.find((one) => one.device === 'solar')!;
    const worst = solar.time.reduce((most, at, i) => Math.max(most, Math.abs(at - truth.time[i]!)), 0);
    expect(worst).toBeLessThan(2 * MINUTE);
  }
});

test('clocks that agree are left alone', () => {
  const timeline = timelineOf(series);
  const aligned = alignClocks(timeline);
  expect(aligned.clocks).toEqual([]);
  expect(aligned.series).toBe(timeline.series);
});

test('without a voltage in common the currents are held together', () => {
  const amps = off(HOUR / 1000).map((one) => {
    const { source_current, battery_current } = one.channels;
    return {
      ...one,
      channels: { ...(source_current && { source_current }), ...(battery_current && { battery_current }) },
    };
  });
  const { offset } = alignClocks(timelineOf(amps)).clocks[0]!;
  expect(offset.seen).toBe('current');
  expect(Math.abs(offset.ms + HOUR)).toBeLessThan(4 * MINUTE);
  expect(offset.overlap.to - offset.overlap.from).toBeGreaterThan(20 * DAY);
});

test('a charger log of three days beside a monitor log of four weeks: days without the charger say nothing of it', () => {
  const until = series[0]!.time[0]! + 3 * DAY;
  const given = series.map((one) =>
    one.device === 'monitor' ? one : cutSeries(one, { from: 0, to: until }),
  );
  expect(standings(given)).not.toContain('source-too-small likely');
  expect(standings(given)).not.toContain('source-too-small possible');
});

test('logs of two halves of a bank are not held together: each half has its own voltage', () => {
  const given = timelineOf(off(3600));
  const halves = (across: 'lower' | 'upper') => ({
    ...system,
    sources: [{ ...system.sources[0]!, across }],
    monitor: { ...system.monitor!, sees: 'lower' as const },
  });
  expect(alignClocks(given, halves('upper')).clocks).toEqual([]);
  expect(alignClocks(given, halves('lower')).clocks.map((one) => one.device)).toEqual(['solar']);
});
