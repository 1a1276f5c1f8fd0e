/**
 * Files as they come off devices, one mess in each, all of them made up. `expected.json` says what must come out of each; it was written
 * beside the files, not by reading them with our own reader.
 */

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { DeviceKind } from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';
import { setClock } from '@/core/log/clock';
import { fileInMemory, readLogFile } from '@/core/log/readFile';
import { type LogDescription, takeInLog } from '@/core/log/takeIn';

interface Expected {
  file: string;
  why: string;
  device: DeviceKind;
  zone: string;
  description?: Partial<LogDescription>;
  /** What is said of it instead. */
  error?: string;
  /** Epoch ms of each sample. */
  times?: number[];
  channels?: Record<string, (number | null)[]>;
  problems?: number;
}

const here = join(process.cwd(), 'tests', 'messes');
const expected = JSON.parse(readFileSync(join(here, 'expected.json'), 'utf8')) as Expected[];
const bytesOf = (file: string) => new Uint8Array(readFileSync(join(here, 'files', file)));

async function read({ file, device, zone, description }: Expected, bytes = bytesOf(file)) {
  const read = await readLogFile(fileInMemory(bytes, file), device, { device, ...description }, zone);
  return { ...read, series: { ...read.series, time: setClock(read.series.time, null, read.clock) } };
}

test('there are more than fifty, and each file has its line', () => {
  expect(expected.length).toBeGreaterThanOrEqual(50);
  expect(expected.map((one) => one.file).sort()).toEqual(readdirSync(join(here, 'files')).sort());
});

test.each(expected.map((one) => [one.file, one.why, one] as const))('%s: %s', async (_, __, one) => {
  if (one.error !== undefined) {
    await expect(read(one)).rejects.toThrow(NotALog);
    await expect(read(one)).rejects.toThrow(one.error);
    return;
  }
  const { series, problemCount, problems } = await read(one);
  expect(Array.from(series.time)).toEqual(one.times);
  expect(Object.keys(series.channels).sort()).toEqual(Object.keys(one.channels!).sort());
  for (const [channel, values] of Object.entries(one.channels!)) {
    const got = Array.from(series.channels[channel as 'battery_voltage']!);
    expect([
      channel,
      ...got.map((value) => (Number.isNaN(value) ? null : Math.round(value * 1e4) / 1e4)),
    ]).toEqual([channel, ...values.map((value) => (value === null ? null : Math.round(value * 1e4) / 1e4))]);
  }
  expect(problemCount).toBeGreaterThanOrEqual(problems.length);
  expect(problemCount).toBe(one.problems);
  for (const problem of problems) expect(problem.reason).toMatch(/\.$/);
});

describe('whatever is done to a file', () => {
  test('it ends in readings or in a sentence, never in a crash', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...expected),
        fc.array(fc.record({ at: fc.nat(4000), byte: fc.nat(255) }), { maxLength: 12 }),
        fc.option(fc.nat(4000)),
        async (one, strokes, cut) => {
          const bytes = bytesOf(one.file);
          for (const { at, byte } of strokes) if (bytes.length > 0) bytes[at % bytes.length] = byte;
          const broken = cut === null ? bytes : bytes.subarray(0, cut % (bytes.length + 1));
          try {
            const { series, rows, problemCount } = await read(one, broken);
            for (let i = 1; i < series.time.length; i++)
              expect(series.time[i]! > series.time[i - 1]!).toBe(true);
            // Nothing is dropped without being counted.
            expect(series.time.length + problemCount).toBeGreaterThanOrEqual(rows);
          } catch (error) {
            if (!(error instanceof NotALog)) throw error;
            expect(error.message).toMatch(/[.?]\)?$|…/);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  test('the order of the columns, the delimiter and the decimal sign change nothing', async () => {
    const rows = Array.from({ length: 12 }, (_, i) => [
      new Date(Date.UTC(2026, 8, 21, 6, i)).toISOString(),
      (12.4 + i / 100).toFixed(2),
      (3 - i / 2).toFixed(1),
      (80 - i).toString(),
    ]);
    const headings = ['time', 'battery voltage (V)', 'battery current (A)', 'SOC (%)'];
    await fc.assert(
      fc.asyncProperty(
        fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }),
        fc.constantFrom([',', '.'], [';', ','], ['\t', '.'], ['\t', ','], ['|', '.'], [';', '.']),
        fc.constantFrom('\n', '\r\n'),
        fc.boolean(),
        async (order, [delimiter, decimal], newline, quotes) => {
          const cell = (text: string) => {
            const shown = /^-?\d+\.\d+$/.test(text) ? text.replace('.', decimal!) : text;
            return quotes ? `"${shown}"` : shown;
          };
          const text = [headings, ...rows]
            .map((row) => order.map((i) => cell(row[i]!)).join(delimiter))
            .join(newline);
          const { series, problemCount } = takeInLog(
            new TextEncoder().encode(text + newline),
            'monitor',
            { device: 'monitor' },
            'UTC',
          );
          expect(problemCount).toBe(0);
          expect(series.channels.battery_voltage![11]).toBeCloseTo(12.51, 5);
          expect(series.channels.battery_current![11]).toBeCloseTo(-2.5, 5);
          expect(series.channels.soc![0]).toBe(80);
        },
      ),
    );
  });

  test('a line of a million letters, and a hundred thousand columns, are told', () => {
    const long = `time,battery voltage (V)\n2026-09-21T06:30:00Z,${'9'.repeat(1_000_000)}\n2026-09-21T06:31:00Z,12.4\n2026-09-21T06:32:00Z,12.4\n`;
    expect(() => takeInLog(new TextEncoder().encode(long), 'monitor', { device: 'monitor' }, 'UTC')).toThrow(
      /lines are longer than 128 kB/,
    );
    const wide = ['time', ...Array.from({ length: 100_000 }, (_, i) => `x${i}`)].join(',');
    const row = (minute: number) => [`2026-09-21T06:${minute}:00Z`, ...Array(100_000).fill('1')].join(',');
    expect(() =>
      takeInLog(
        new TextEncoder().encode(`${wide}\n${row(30)}\n${row(31)}\n`),
        'monitor',
        { device: 'monitor' },
        'UTC',
      ),
    ).toThrow(NotALog);
  });
});
