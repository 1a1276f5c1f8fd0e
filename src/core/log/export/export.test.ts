/** What is written must be read by others too: CSV by PapaParse, Parquet by DuckDB, both from the registry. */

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import fc from 'fast-check';
import Papa from 'papaparse';
import type { Series } from '../channels';
import { openTable } from '../tables/open';
import { takeInLog } from '../takeIn';
import { cutSeries, tableOf, timelineTable, valueText } from './columns';
import { csvOf } from './csv';
import { parquetOf } from './parquet';

const START = Date.UTC(2026, 8, 21, 6, 30, 0, 250);
const series: Series = {
  device: 'mains',
  time: Float64Array.from({ length: 9000 }, (_, i) => START + i * 1000),
  channels: {
    source_voltage: Float32Array.from({ length: 9000 }, (_, i) => 27 + Math.sin(i / 100)),
    source_current: Float32Array.from({ length: 9000 }, (_, i) =>
      i % 50 === 7 ? NaN : Math.fround(i / 3000) ** 5,
    ),
    source_stage: Float32Array.from({ length: 9000 }, (_, i) => Math.floor(i / 2000)),
  },
};
const csv = Buffer.concat([...csvOf(tableOf(series))]);

async function readBack(file: Uint8Array, name: string): Promise<Series> {
  return takeInLog(await openTable(file, name), 'source', { device: 'mains' }, 'Europe/Rome').series;
}

function expectTheSame(got: Series, wanted: Series): void {
  expect(got.time).toEqual(wanted.time);
  expect(Object.keys(got.channels).sort()).toEqual(Object.keys(wanted.channels).sort());
  for (const [name, values] of Object.entries(wanted.channels))
    expect([name, got.channels[name as 'source_voltage']]).toEqual([name, values]);
}

test('CSV reads back sample for sample', async () => {
  expectTheSame(await readBack(csv, 'mains.csv'), series);
});

test('CSV is RFC 4180 with times of RFC 3339, and PapaParse reads the same', () => {
  const text = csv.toString();
  expect(text.split('\r\n')).toHaveLength(9002);
  expect(text.slice(0, text.indexOf('\r\n'))).toBe('time,source_current,source_stage,source_voltage');
  const { data, errors } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
  expect(errors).toEqual([]);
  expect(data).toHaveLength(9000);
  expect(data[0]!.time).toBe('2026-09-21T06:30:00.250Z');
  expect(Math.fround(Number(data[1234]!.source_voltage))).toBe(series.channels.source_voltage![1234]);
  expect(data[4500]).toMatchObject({ source_stage: 'absorption' });
});

test('Parquet reads back sample for sample, and DuckDB reads the same', async () => {
  const file = parquetOf(tableOf(series));
  expectTheSame(await readBack(file, 'mains.parquet'), series);
  const folder = mkdtempSync(join(tmpdir(), 'pazienza-parquet-'));
  try {
    const path = join(folder, 'mains.parquet');
    writeFileSync(path, file);
    const connection = await (await DuckDBInstance.create(':memory:')).connect();
    const reader = await connection.runAndReadAll(
      `select count(*)::integer n, count(source_current)::integer known, sum(source_voltage)::double total, epoch_ms(min(time))::double since, max(source_stage) stage from '${path}'`,
    );
    const [row] = reader.getRowObjectsJson();
    expect(row).toMatchObject({ n: 9000, known: 8820, since: START, stage: 'off' });
    const total = series.channels.source_voltage!.reduce((sum, one) => sum + one, 0);
    expect(Number(row!.total)).toBeCloseTo(total, 3);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a span is cut at its ends', () => {
  const cut = cutSeries(series, { from: START + 1000, to: START + 4000 });
  expect(Array.from(cut.time, (t) => (t - START) / 1000)).toEqual([1, 2, 3]);
  expect(cut.channels.source_voltage).toEqual(series.channels.source_voltage!.slice(1, 4));
  expect(cutSeries(series, null)).toBe(series);
});

test('any 32-bit number comes back as it was, and without an exponent', () => {
  fc.assert(
    fc.property(fc.float({ noNaN: true, noDefaultInfinity: true }), (value) => {
      const text = valueText('battery_voltage', value);
      expect(text).not.toMatch(/e/i);
      expect(Math.fround(Number(text)) + 0).toBe(Math.fround(value) + 0);
    }),
  );
  expect(valueText('battery_voltage', Math.fround(12.41))).toBe('12.41');
  expect(valueText('battery_voltage', NaN)).toBe('');
});

test('the aligned timeline has a row for every moment of any device, and makes nothing up', () => {
  const at = (
    minutes: number[],
    device: string,
    channel: 'source_voltage' | 'soc',
    values: number[],
  ): Series => ({
    device,
    time: Float64Array.from(minutes, (m) => START + m * 60_000),
    channels: { [channel]: Float32Array.from(values) },
  });
  const table = timelineTable([
    at([0, 2, 4], 'mains', 'source_voltage', [27, 27.5, NaN]),
    at([1, 2, 3], 'monitor', 'soc', [90, 91, 92]),
    at([9], 'monitor', 'soc', [99]),
  ]);
  const rows = Buffer.concat([...csvOf(table)])
    .toString()
    .trimEnd()
    .split('\r\n');
  expect(rows[0]).toBe('time,mains.source_voltage,monitor.soc,monitor-2.soc');
  expect(rows.slice(1).map((row) => row.replace(/^[^,]*,/, ''))).toEqual([
    '27,,',
    ',90,',
    '27.5,91,',
    ',92,',
    ',,',
    ',,99',
  ]);
  const { data } = Papa.parse<string[]>(rows.join('\r\n'));
  expect(data.every((row) => row.length === 4)).toBe(true);
});

test('Parquet of more rows than a group, and of none', async () => {
  const count = 150_000;
  const long: Series = {
    device: 'monitor',
    time: Float64Array.from({ length: count }, (_, i) => START + i * 1000),
    channels: { battery_voltage: Float32Array.from({ length: count }, (_, i) => 24 + (i % 97) / 100) },
  };
  expectTheSame(await readBack(parquetOf(tableOf(long)), 'monitor.parquet'), long);
  const none = parquetOf(tableOf(cutSeries(long, { from: 0, to: 1 })));
  expect(Buffer.from(none.subarray(0, 4)).toString()).toBe('PAR1');
});
