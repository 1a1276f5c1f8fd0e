/** What the confirmation shows: rows, traces, the sign of the current, and the moments of the first rows. */

import fc from 'fast-check';
import { PART, partsOf, settleDateOrder } from './dateOrder';
import { previewOf, timesOfHead } from './preview';
import { headTable, recognise, recogniseTable } from './recognise';
import { signOf } from './sign';
import { readLog } from './takeIn';
import { timeColumnOf } from './timeFormat';

const bytes = (text: string) => new TextEncoder().encode(text);
const two = (n: number) => String(n).padStart(2, '0');

/** A battery of 20 mΩ under a load that steps, its current written with either sign. */
function monitorLog(sign: 1 | -1, minutes = 400): string {
  const rows = Array.from({ length: minutes }, (_, i) => {
    const amps = (i % 10 < 5 ? -12 : -2) + (i % 37 < 18 ? 9 : 0);
    return `2026-09-21 ${two(Math.floor(i / 60))}:${two(i % 60)},${(25 + 0.02 * amps).toFixed(3)},${(sign * amps).toFixed(1)},ok`;
  });
  return `time,battery voltage (V),battery current (A),note\n${rows.join('\n')}\n`;
}
const lookAt = (text: string) => {
  const table = headTable(bytes(text));
  const reading = recogniseTable(table, 'monitor');
  return { reading, preview: previewOf(table, reading) };
};

test('rows as they stand, a trace of each column of numbers, none of words', () => {
  const { preview } = lookAt(monitorLog(1));
  expect(preview.headings).toEqual(['time', 'battery voltage (V)', 'battery current (A)', 'note']);
  expect(preview.rows).toHaveLength(8);
  expect(preview.rows[0]).toEqual(['2026-09-21 00:00', '24.940', '-3.0', 'ok']);
  expect(preview.traces.map((one) => one !== null)).toEqual([false, true, true, false]);
  expect(preview.traces[1]!.length).toBeGreaterThan(100);
});

test('a trace of cells that change their unit runs through as one', () => {
  const plain = monitorLog(1);
  const inUnits = plain.replace(
    /^(2026[^,]*,[^,]*),(-?)(\d+\.\d),/gm,
    (_, before: string, sign: string, amps: string) =>
      Number(amps) < 10
        ? `${before},${sign}${Math.round(1000 * Number(amps))} mA,`
        : `${before},${sign}${amps} A,`,
  );
  expect(inUnits).toContain(' mA,');
  expect(inUnits).toContain(' A,');
  const [written, whole] = [lookAt(inUnits).preview, lookAt(plain).preview];
  expect(written.traces[2]).toEqual(whole.traces[2]);
  expect(written.signs).toEqual(whole.signs);
});

test('the sign of the current follows from what the voltage does', () => {
  expect(lookAt(monitorLog(1)).preview.signs).toEqual({ 2: 'charging' });
  expect(lookAt(monitorLog(-1)).preview.signs).toEqual({ 2: 'discharging' });
  // Too few steps, no voltage beside it, or a voltage that is held: nothing is claimed.
  expect(lookAt(monitorLog(1, 9)).preview.signs).toEqual({ 2: 'unclear' });
  expect(lookAt(monitorLog(-1).replace(/,2\d\.\d{3},/g, ',27.400,')).preview.signs).toEqual({ 2: 'unclear' });
  expect(
    lookAt('time,battery current (A),note\n2026-09-21 00:00,1,a\n2026-09-21 00:01,2,b\n').preview.signs,
  ).toEqual({ 1: 'unclear' });
});

test('reversing a current reverses the verdict, and noise gives none', () => {
  const values = (seed: number, count: number, of: (i: number, roll: number) => number) => {
    let state = seed;
    return Array.from({ length: count }, (_, i) => {
      state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
      return of(i, state / 2 ** 31 - 0.5);
    });
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1e6 }),
      fc.double({ min: 0.005, max: 0.1, noNaN: true }),
      (seed, ohms) => {
        const amps = values(seed, 300, (_, roll) => 40 * roll);
        const noise = values(seed + 7, 300, (_, roll) => 0.02 * roll);
        const volts = amps.map((a, i) => 12.5 + ohms * a + noise[i]!);
        expect(signOf(amps, volts)).toBe('charging');
        expect(
          signOf(
            amps.map((a) => -a),
            volts,
          ),
        ).toBe('discharging');
      },
    ),
  );
});

test('the first rows are read as the file would be', () => {
  const text = monitorLog(1);
  const { reading } = lookAt(text);
  const times = timesOfHead(bytes(text.slice(0, -7)), reading, { device: 'monitor' }, 'Europe/Rome');
  expect(times.from).toBe(Date.UTC(2026, 8, 20, 22));
  expect(times.stepMs).toBe(60_000);
  expect(() =>
    timesOfHead(
      bytes('time,volts\n'),
      reading,
      { device: 'monitor', columns: { nothing: { channel: 'soc' } } },
      'UTC',
    ),
  ).toThrow(/no column "nothing"/);
});

test('another column may be said to hold the time', () => {
  const text =
    'device clock,logged at,battery voltage (V)\n' +
    Array.from({ length: 5 }, (_, i) => `2026-09-21 06:0${i},2026-09-22 08:0${i},25.${i}`).join('\n') +
    '\n';
  const told = {
    device: 'monitor',
    columns: { 'logged at': { channel: 'time' }, 'battery voltage (V)': { channel: 'battery_voltage' } },
  };
  expect(readLog(bytes(text), 'monitor', { device: 'monitor' }, 'UTC').series.time[0]).toBe(
    Date.UTC(2026, 8, 21, 6),
  );
  expect(readLog(bytes(text), 'monitor', told, 'UTC').series.time[0]).toBe(Date.UTC(2026, 8, 22, 8));
});

describe('day or month first', () => {
  const log = (from: number, days: number, dmy: boolean, everyMinutes = 30) =>
    'time,battery voltage (V)\n' +
    Array.from({ length: (days * 1440) / everyMinutes }, (_, i) => {
      const at = new Date(from + i * everyMinutes * 60_000);
      const [d, m] = [two(at.getUTCDate()), two(at.getUTCMonth() + 1)];
      return `${dmy ? `${d}/${m}` : `${m}/${d}`}/2026 ${two(at.getUTCHours())}:${two(at.getUTCMinutes())},25.${i % 10}\n`;
    }).join('');
  const START = Date.UTC(2026, 8, 3, 6);

  test.each([true, false])('a midnight that the log runs through shows it (day first: %s)', (dmy) => {
    const reading = recognise(bytes(log(START, 2, dmy)), 'monitor');
    expect(reading.time).toMatchObject({ ask: null, format: { order: dmy ? 'dmy' : 'mdy' } });
  });

  test('a day without its midnight is asked about', () => {
    expect(recognise(bytes(log(START, 0.5, true)), 'monitor').time!.ask).toBe('order');
    // One sample a day: a month may lie between two rows as well as a day.
    expect(timeColumnOf(['03/04/2026 12:00', '04/04/2026 12:00', '05/04/2026 12:00'])).toEqual({
      kind: 'ask',
      dateOnly: false,
    });
  });

  test('what the head does not show, the rest of the file may', () => {
    // A head of rows of one day, then later days.
    const text = log(START, 0.5, true, 1) + log(Date.UTC(2026, 8, 25), 0.5, true, 1).slice(25);
    const file = bytes(text);
    const reading = recognise(bytes(text.slice(0, 10_000)), 'monitor');
    expect(reading.time!.ask).toBe('order');
    const parts = partsOf(file.length).map((at) => file.subarray(at, at + PART));
    const settled = settleDateOrder(reading, parts);
    expect(settled.time).toMatchObject({ ask: null, format: { order: 'dmy' } });
    expect(settled.columns[0]).toMatchObject({ role: 'time', sure: 'certain' });
    expect(settled.columns[0]).not.toHaveProperty('question');
    expect(settleDateOrder(reading, [bytes(text.slice(0, 10_000))])).toBe(reading);
    expect(readLog(file, 'monitor', { device: 'monitor' }, 'UTC').series.time.at(-1)).toBeGreaterThan(
      Date.UTC(2026, 8, 25),
    );
  });

  test('parts cover a small file whole and a large one from end to end', () => {
    expect(partsOf(100)).toEqual([0]);
    expect(partsOf(3 * PART)).toEqual([0, PART, 2 * PART]);
    const large = partsOf(500 * 2 ** 20);
    expect([large.length, large[0], large.at(-1)! + PART]).toEqual([32, 0, 500 * 2 ** 20]);
  });
});
