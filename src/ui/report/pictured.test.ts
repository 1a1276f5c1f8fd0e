/** Which strips a report shows. */

import { diagnose } from '@/core/diagnosis/diagnose';
import type { Diagnosis } from '@/core/diagnosis/result';
import { sliceExtent } from '@/core/log/pyramid';
import type { RecordingInfo } from '@/core/log/recording';
import { takeInLog } from '@/core/log/takeIn';
import { DAY, HOUR } from '@/core/quantity/span';
import { keptDemo } from '../../../tests/support/demos';
import { findingSpan, picturesOf, spanAbout } from './pictured';

const iso = (ms: number) => new Date(ms).toISOString();
const span = (from: number, to: number): [string, string] => [iso(from), iso(to)];
const START = Date.UTC(2026, 8, 1);

describe('the span that stands for a finding', () => {
  const finding = (
    standing: Diagnosis['findings'][number]['standing'],
    evidence: { decibans: number; spans: [string, string][] }[],
  ) => ({ standing, evidence: evidence.map((one) => ({ text: '', ...one })) });
  test('of its weightiest evidence, the one of middle length', () => {
    const found = findingSpan(
      finding('likely', [
        { decibans: 3, spans: [span(START, START + HOUR)] },
        {
          decibans: 9,
          spans: [3, 1, 2].map((day) => span(START + day * DAY, START + day * DAY + day * HOUR)),
        },
        { decibans: 20, spans: [] },
        { decibans: -12, spans: [span(START, START + DAY)] },
      ]),
    );
    expect(found).toEqual({ from: START + 2 * DAY, to: START + 2 * DAY + 2 * HOUR });
  });
  test('none where nothing is shown for it, or where it is not told', () => {
    expect(findingSpan(finding('likely', [{ decibans: 5, spans: [] }]))).toBeNull();
    expect(
      findingSpan(finding('unlikely', [{ decibans: 5, spans: [span(START, START + HOUR)] }])),
    ).toBeNull();
  });
});

test('something before and after it is shown, within the log, and never more than a fortnight', () => {
  const full = { from: START, to: START + 60 * DAY };
  expect(spanAbout({ from: START + DAY, to: START + DAY }, full)).toEqual({
    from: START + DAY - 2 * HOUR,
    to: START + DAY + 2 * HOUR,
  });
  expect(spanAbout({ from: START, to: START + HOUR }, full).from).toBe(START);
  const long = spanAbout({ from: START + DAY, to: START + 40 * DAY }, full);
  expect(long.to - long.from).toBe(14 * DAY);
});

test('findings with spans and pins get their strips; without logs there are none', async () => {
  const { job, system, logs } = keptDemo('tide-gauge');
  const { text } = logs.find((one) => one.device === 'monitor')!;
  const { series } = takeInLog(new TextEncoder().encode(text), 'monitor', { device: 'monitor' }, 'UTC');
  const diagnosis = diagnose({ job, system, series: [series] });
  const from = series.time[0]!;
  const recording = {
    id: 'm',
    device: 'monitor',
    channels: Object.keys(series.channels),
    from,
    to: series.time.at(-1)!,
    sampleCount: series.time.length,
  } as RecordingInfo;
  const pin = { id: 'p', from: iso(from + 5 * HOUR), to: iso(from + 6 * HOUR), note: 'Here' };
  const of = { job: { ...job, pins: [pin] }, system, diagnosis, recordings: [recording] };
  const asked: string[] = [];
  const pictures = await picturesOf(of, async (_, channels, { from, to }, parts) => {
    asked.push(...channels);
    return channels.map((channel) => {
      const values = series.channels[channel]!;
      return sliceExtent(series.time, { min: values, max: values }, from, to, parts);
    });
  });
  expect([...pictures.findings.keys()]).toEqual([diagnosis.findings[0]!.cause]);
  expect(pictures.pins.get('p')!.says).toMatch(/^voltage, current, charge/);
  expect(asked).toContain('battery_voltage');

  const none = await picturesOf({ ...of, recordings: [] }, () => Promise.reject(new Error('not asked')));
  expect([none.findings.size, none.pins.size]).toEqual([0, 0]);
});
