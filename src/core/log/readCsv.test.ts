import fc from 'fast-check';
import { csvReader } from './readCsv';
import { planReading, takeInLog } from './takeIn';
import { recognise } from './recognise';
import { NotALog } from './sniff';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string, zone = 'UTC') => takeInLog(bytes(text), 'source', { device: 'c' }, zone);

const PLAIN = 'time,charger voltage (V),charger current (A)\n';

describe('what a log looks like', () => {
  test('decimal comma, semicolons, preamble and a Latin-1 degree sign', () => {
    const text =
      'Logger 7\nSite;Porto Lente\nTime;Output voltage [V];Battery temperature [\xb0C]\n21.09.2026 06:30;12,40;18,5\n21.09.2026 06:31;12,41;18,5\n';
    const { series } = takeInLog(
      Uint8Array.from(text, (c) => c.charCodeAt(0)),
      'source',
      { device: 'c' },
      'UTC',
    );
    expect(series.time[0]).toBe(Date.UTC(2026, 8, 21, 6, 30));
    expect(series.channels.source_voltage![1]).toBeCloseTo(12.41, 5);
    expect(series.channels.battery_temperature![0]).toBe(18.5);
  });

  test('UTF-16 with a byte-order mark, tabs, quotes and a unit row', () => {
    const text =
      '"time"\t"voltage"\t"current"\n\tmV\tmA\n"2026-09-21T06:30:00Z"\t"12400"\t"-1500"\n2026-09-21T06:31:00Z\t12410\t-1490\n';
    const utf16 = new Uint8Array(2 + text.length * 2);
    utf16.set([0xff, 0xfe]);
    for (let i = 0; i < text.length; i++) utf16[2 + 2 * i] = text.charCodeAt(i);
    const { series } = takeInLog(utf16, 'monitor', { device: 'monitor' }, 'UTC');
    expect(series.channels.battery_voltage![0]).toBeCloseTo(12.4, 5);
    expect(series.channels.battery_current![0]).toBeCloseTo(-1.5, 6);
  });

  test('day and month that cannot be told apart are asked about, and can be told', () => {
    const text = 'time,voltage (V)\n3/4/2026 06:30,12.4\n3/4/2026 06:31,12.5\n';
    expect(() => read(text)).toThrow(/day and month cannot be told apart/);
    const told = takeInLog(bytes(text), 'source', { device: 'c', dateOrder: 'dmy' }, 'UTC');
    expect(told.series.time[0]).toBe(Date.UTC(2026, 3, 3, 6, 30));
  });

  test('a twelve-hour clock and epoch seconds', () => {
    expect(
      read('time,voltage (V)\n9/21/2026 6:30:00 PM,12.4\n9/21/2026 6:31:00 PM,12.4\n').series.time[0],
    ).toBe(Date.UTC(2026, 8, 21, 18, 30));
    expect(read('time,voltage (V)\n1790000000,12.4\n1790000060,12.4\n').series.time[1]).toBe(1790000060000);
  });

  test('when clocks go back the hour that comes twice is told apart by order', () => {
    const rows = ['01:30', '02:00', '02:30', '02:00', '02:30', '03:00'];
    const text = PLAIN + rows.map((one) => `2026-10-25 ${one}:00,12.4,1`).join('\n') + '\n';
    const { time } = read(text, 'Europe/Rome').series;
    const halfHours = Array.from(time, (one) => (one - time[0]!) / 1_800_000);
    expect(halfHours).toEqual([0, 1, 2, 3, 4, 5]);
  });
});

describe('what is wrong in a log', () => {
  test('bad cells are missing, bad rows left out, both listed with their line', () => {
    const { series, problemCount, problems, rows } = read(
      PLAIN +
        '2026-09-21T06:30:00Z,12.4,1\nTotal,,\n2026-09-21T06:31:00Z,oops,2\n2026-09-21T06:32:00Z,n/a,3\n' +
        [33, 34, 35, 36].map((minute) => `2026-09-21T06:${minute}:00Z,12.5,1\n`).join(''),
    );
    expect(series.time.length).toBe(7);
    expect(rows).toBe(8);
    expect(problemCount).toBe(2);
    expect(problems.map((one) => one.line)).toEqual([3, 4]);
    expect(problems[1]!.reason).toMatch(/"oops" in "charger voltage \(V\)" is not a number/);
    expect(series.channels.source_voltage![1]).toBeNaN();
  });

  test('times out of order are put in order, repeated ones told', () => {
    const { series, problems } = read(
      PLAIN +
        '2026-09-21T06:32:00Z,3,1\n2026-09-21T06:30:00Z,1,1\n2026-09-21T06:30:00Z,9,1\n2026-09-21T06:31:00Z,2,1\n',
    );
    expect(Array.from(series.channels.source_voltage!)).toEqual([1, 2, 3]);
    expect(problems.map((one) => one.reason).join(' ')).toMatch(/go back once.* 1 row repeats a time/);
  });

  test.each([
    ['an empty file', '', /empty/],
    ['a web page', '<!DOCTYPE html><html></html>', /web page/],
    ['prose', 'Dear customer,\nthank you for your order.\nRegards\n', /No rows of readings/],
    ['binary data', 'PK\0\0\x03\x04\0\0', /binary/],
    [
      'only times',
      'time,remark\n2026-09-21T06:30:00Z,ok\n2026-09-21T06:31:00Z,ok\n',
      /No rows of readings|no column/,
    ],
  ])('%s is refused with a sentence', (_, text, sentence) => {
    expect(() => read(text)).toThrow(NotALog);
    expect(() => read(text)).toThrow(sentence);
  });
});

describe('properties', () => {
  const row = fc.record({
    seconds: fc.integer({ min: 1, max: 600 }),
    volts: fc.float({ min: Math.fround(0), max: Math.fround(60), noNaN: true }),
    amps: fc.float({ min: Math.fround(-200), max: Math.fround(200), noNaN: true }),
  });

  test('what was written is read, however the file is cut into chunks', () => {
    fc.assert(
      fc.property(
        fc.array(row, { minLength: 3, maxLength: 60 }),
        fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 20 }),
        fc.constantFrom('\n', '\r\n'),
        fc.constantFrom(',', '.'),
        (rows, cuts, end, decimalChar) => {
          const number = (value: number) => value.toFixed(3).replace('.', decimalChar);
          let ms = Date.UTC(2026, 0, 1);
          const times = rows.map((one) => (ms += one.seconds * 1000));
          const text = ['time;source_voltage;source_current']
            .concat(
              rows.map(
                (one, i) =>
                  `${new Date(times[i]!).toISOString().slice(0, 19)}Z;${number(one.volts)};${number(one.amps)}`,
              ),
            )
            .join(end);
          const all = bytes(text);
          const plan = planReading(
            recognise(all, 'source', { delimiter: ';', decimalChar }),
            { device: 'c' },
            'UTC',
          );
          const reader = csvReader(plan);
          let at = 0;
          for (let i = 0; at < all.length; i++) {
            const next = at + cuts[i % cuts.length]!;
            reader.push(all.slice(at, next));
            at = next;
          }
          const { series, problemCount } = reader.end();
          expect(problemCount).toBe(0);
          expect(Array.from(series.time)).toEqual(times);
          rows.forEach((one, i) => {
            expect(series.channels.source_voltage![i]).toBeCloseTo(Number(one.volts.toFixed(3)), 4);
            expect(series.channels.source_current![i]).toBeCloseTo(Number(one.amps.toFixed(3)), 4);
          });
        },
      ),
      { numRuns: 200 },
    );
  });

  test('whatever the bytes, the reader ends in a series or in a sentence', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.uint8Array({ maxLength: 400 }),
          fc.string({ maxLength: 400 }).map(bytes),
          fc
            .string({ maxLength: 200 })
            .map((mess) => bytes(PLAIN + '2026-09-21T06:30:00Z,12,1\n2026-09-21T06:31:00Z,12,1\n' + mess)),
        ),
        (mess) => {
          try {
            const { series, rows, problemCount } = takeInLog(mess, 'source', { device: 'c' }, 'UTC');
            // Nothing is dropped in silence.
            expect(series.time.length + problemCount).toBeGreaterThanOrEqual(
              Math.min(rows, series.time.length + 1),
            );
            for (let i = 1; i < series.time.length; i++)
              expect(series.time[i]!).toBeGreaterThan(series.time[i - 1]!);
          } catch (error) {
            expect(error).toBeInstanceOf(NotALog);
          }
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('times however they are written', () => {
  const first = (text: string, more: object = {}, zone = 'UTC') =>
    takeInLog(bytes(text), 'source', { device: 'c', ...more }, zone).series;

  test('date and time in two columns, the time first or last, twelve hours or twenty-four', () => {
    const time = Date.UTC(2026, 8, 21, 18, 30);
    expect(first('date,time,V\n21/09/2026,18:30,12.4\n21/09/2026,18:31,12.5\n').time[0]).toBe(time);
    expect(first('clock,date,V\n6:30:00 PM,9/21/2026,12.4\n6:31:00 PM,9/21/2026,12.5\n').time[0]).toBe(time);
    expect(
      first('date,time,V\n2026-09-21,18:30,12.4\n2026-09-21,18:31,12.5\n', {}, 'Europe/Rome').time[0],
    ).toBe(time - 7_200_000);
  });

  test('spreadsheet days, with a decimal comma', () => {
    // 46286 is 21 September 2026: 25 September 1999 was day 36428.
    const series = first('date;V\n46286,270833333;12,4\n46286,271527778;12,5\n46286,272222222;12,5\n');
    expect(series.time[0]).toBe(Date.UTC(2026, 8, 21, 6, 30));
    expect(series.time[1]! - series.time[0]!).toBe(60_000);
  });

  test('seconds since a start that is told', () => {
    const text = 'elapsed (s),V\n3600,12.4\n3660,12.5\n3720,12.5\n';
    expect(() => first(text)).toThrow(/"elapsed \(s\)" counts from a start .*startAt/);
    const { time } = first(text, { startAt: '2026-09-21T06:30:00Z' });
    expect(Array.from(time, (one) => one - Date.UTC(2026, 8, 21, 6, 30))).toEqual([0, 60_000, 120_000]);
  });

  test('hh:mm:ss that passes midnight, and one that counts past a day', () => {
    const start = { startAt: '2026-09-21T23:59:00Z' };
    const steps = (text: string) =>
      Array.from(first(text, start).time, (one) => (one - Date.UTC(2026, 8, 21, 23, 59)) / 1000);
    expect(steps('time,V\n23:59:00,12.4\n23:59:30,12.4\n00:00:00,12.5\n00:00:30,12.5\n')).toEqual([
      0, 30, 60, 90,
    ]);
    expect(steps('run time,V\n23:59:00,12.4\n24:00:00,12.4\n25:00:00,12.5\n')).toEqual([0, 60, 3660]);
    expect(steps('uptime,V\n0d 23:59:00,12.4\n1d 00:00:00,12.4\n1d 01:00:00,12.5\n')).toEqual([0, 60, 3660]);
  });

  test('a count that falls back goes on', () => {
    const counts = [...Array(15).keys(), ...Array(5).keys()];
    const { time } = first(`elapsed s,V\n${counts.map((one) => `${10 * one},12`).join('\n')}\n`, {
      startAt: '2026-09-21T00:00:00Z',
    });
    expect(Array.from(time, (one) => (one - Date.UTC(2026, 8, 21)) / 10_000)).toEqual([...Array(20).keys()]);
  });
});

test('a line without an end is let go, and what follows it is read', () => {
  const head = 'time,charger voltage (V)\n2026-09-21T06:30:00Z,27.1\n2026-09-21T06:31:00Z,27.2\n';
  const { plan } = takeInLog(new TextEncoder().encode(head), 'source', { device: 'mains' }, 'UTC');
  const reader = csvReader(plan);
  reader.push(new TextEncoder().encode(head + '2026-09-21T06:32:00Z,'));
  const started = process.memoryUsage().arrayBuffers;
  // 256 MB of one line: neither kept nor copied again and again.
  const filler = new Uint8Array(1 << 20).fill(49);
  for (let i = 0; i < 256; i++) reader.push(filler);
  expect(process.memoryUsage().arrayBuffers - started).toBeLessThan(64 * 2 ** 20);
  reader.push(new TextEncoder().encode('\n2026-09-21T06:33:00Z,27.4\n'));
  const { series, problems, problemCount, rows } = reader.end();
  expect([...series.channels.source_voltage!].map((one) => one.toFixed(1))).toEqual(['27.1', '27.2', '27.4']);
  expect({ problemCount, rows }).toEqual({ problemCount: 1, rows: 4 });
  expect(problems[0]).toMatchObject({ line: 4, reason: expect.stringContaining('longer than 1 MB') });
  expect(problems[0]!.row!.length).toBeLessThanOrEqual(300);
});
