/** One log, written in many ways: whatever its headings, dates and cells look like, it reads as the same figures. */

import { MINUTE } from '../quantity/span';
import { takeInLog } from './takeIn';

const FROM = Date.UTC(2026, 8, 21, 22, 30);
const ROWS = Array.from({ length: 90 }, (_, i) => {
  const amps = (i % 20 < 8 ? -6.5 : -0.4) + (i > 50 ? 4.2 : 0);
  return {
    at: new Date(FROM + 2 * i * MINUTE),
    volts: Math.round(100 * (25.4 + 0.03 * amps)) / 100,
    amps: Math.round(10 * amps) / 10,
    full: 80 - Math.floor(i / 30),
    heat: 18.5,
  };
});
const MONTHS = ['gen', 'feb', 'mar', 'apr', 'mag', 'giu', 'lug', 'ago', 'set', 'ott', 'nov', 'dic'];
const two = (n: number) => String(n).padStart(2, '0');

const HEADINGS = {
  English: [
    'Timestamp',
    'Battery voltage (V)',
    'Battery current (A)',
    'State of charge (%)',
    'Battery temp (°C)',
  ],
  short: ['time', 'Vbat', 'Ibat', 'SoC', 'Tbat'],
  Italian: [
    'Data e ora',
    'Tensione batteria [V]',
    'Corrente batteria [A]',
    'Stato di carica',
    'Temperatura batteria',
  ],
  German: ['Zeitstempel', 'Batteriespannung', 'Batteriestrom', 'Ladezustand', 'Batterietemperatur'],
  French: ['Horodatage', 'Tension', 'Courant', 'État de charge', 'Température'],
  terse: ['when', 'V', 'A', '%', '°C'],
} as const;

const DATES: Record<string, (at: Date) => string> = {
  'ISO 8601': (at) => at.toISOString(),
  'seconds since 1970': (at) => String(at.getTime() / 1000),
  'run together': (at) => at.toISOString().replace(/[-:]|\.000/g, ''),
  'the month by its name': (at) =>
    `${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]} ${at.getUTCFullYear()} ${at.toISOString().slice(11, 19)} UTC`,
  'day first, with an offset': (at) => {
    const there = new Date(at.getTime() + 120 * MINUTE);
    return `${two(there.getUTCDate())}.${two(there.getUTCMonth() + 1)}.2026 ${there.toISOString().slice(11, 19)} +02:00`;
  },
  'twelve hours': (at) =>
    `2026-09-${at.getUTCDate()} ${at.getUTCHours() % 12 || 12}:${two(at.getUTCMinutes())} ${at.getUTCHours() < 12 ? 'AM' : 'PM'}`,
};

type Cells = (typeof ROWS)[number];
const CELLS: Record<string, (row: Cells) => string[]> = {
  plain: ({ volts, amps, full, heat }) => [volts, amps, full, heat].map(String),
  'a decimal comma': ({ volts, amps, full, heat }) =>
    [volts, amps, full, heat].map((one) => String(one).replace('.', ',')),
  'with units and a true minus': ({ volts, amps, full, heat }) => [
    `${volts} V`,
    (Math.abs(amps) < 1 ? `${Math.round(1000 * amps)} mA` : `${amps} A`).replace('-', '\u2212'),
    `${full} %`,
    `${heat} °C`,
  ],
  'in quotes, with blanks': ({ volts, amps, full, heat }) => [
    `"${volts}"`,
    ` ${amps} `,
    `"${full}"`,
    `${heat}`,
  ],
};

const read = (headings: readonly string[], date: (at: Date) => string, cells: (row: Cells) => string[]) => {
  const lines = ROWS.map((row) => [date(row.at), ...cells(row)].join(';'));
  const text = `${headings.join(';')}\n${lines.join('\n')}\n`;
  return takeInLog(new TextEncoder().encode(text), 'monitor', { device: 'monitor' }, 'UTC');
};

describe.each(Object.keys(HEADINGS) as (keyof typeof HEADINGS)[])('headings: %s', (language) => {
  describe.each(Object.keys(DATES))('dates: %s', (date) => {
    test.each(Object.keys(CELLS))('cells: %s', (cells) => {
      const { series, problems } = read(HEADINGS[language], DATES[date]!, CELLS[cells]!);
      expect(problems).toEqual([]);
      expect([...series.time]).toEqual(ROWS.map(({ at }) => at.getTime()));
      expect(Object.keys(series.channels).sort()).toEqual([
        'battery_current',
        'battery_temperature',
        'battery_voltage',
        'soc',
      ]);
      for (const [channel, of] of [
        ['battery_voltage', (row: Cells) => row.volts],
        ['battery_current', (row: Cells) => row.amps],
        ['soc', (row: Cells) => row.full],
        ['battery_temperature', (row: Cells) => row.heat],
      ] as const)
        series.channels[channel]!.forEach((value, i) => expect(value).toBeCloseTo(of(ROWS[i]!), 5));
    });
  });
});
