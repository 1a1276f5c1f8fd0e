/** Requests made from the table of doors: paths, queries, bodies and where they say that they come from. */

import fc from 'fast-check';
import type { z } from 'zod';
import { zipBundle } from '@/core/bundle/write';
import type { Door } from '@/server/doors';
import { HOSTILE, hostile } from './arbitrary';
import { base } from './asking';
import type { There } from './things';

/** Addresses cannot carry lone halves of a pair. */
const wellFormed = (text: string): string => text.replace(/\p{Cs}/gu, '?');

export const NOBODY = '00000000-0000-4000-8000-000000000000';

const IDS: Record<string, keyof There> = {
  jobs: 'job',
  systems: 'system',
  recordings: 'recording',
  photos: 'photo',
  intakes: 'intake',
};

/** A path with an id that is there, mostly; or with what is none. */
export const pathOf = (pattern: string, there: There): fc.Arbitrary<string> => {
  const kind = IDS[pattern.split('/')[2]!] ?? 'job';
  const id = (own: string) =>
    fc.oneof(
      { weight: 8, arbitrary: fc.constant(own) },
      { weight: 1, arbitrary: fc.constantFrom(NOBODY, ...Object.values(there)) },
      {
        weight: 2,
        arbitrary: fc
          .constantFrom(...HOSTILE.filter((one) => typeof one === 'string' && one !== ''))
          .map((one) => encodeURIComponent(wellFormed(String(one)).slice(0, 100)).replace(/\./g, '%2e')),
      },
    );
  return fc
    .tuple(id(there[kind]), id(there.change))
    .map(([one, other]) => pattern.replace('[id]', one).replace('[change]', other));
};

export const queryOf = (query: z.ZodObject | undefined): fc.Arbitrary<string> =>
  query
    ? hostile(query, KNOWN).map((value) => {
        if (typeof value !== 'object' || value === null) return '?x=%00';
        const pairs = Object.entries(value).flatMap(([key, one]) =>
          one === undefined
            ? []
            : [
                [
                  wellFormed(key.slice(0, 40)),
                  wellFormed(typeof one === 'object' ? 'x' : String(one).slice(0, 600)),
                ],
              ],
        );
        return `?${new URLSearchParams(pairs as [string, string][]).toString()}`;
      })
    : fc.constantFrom('', '', '', '?x=1', '?%5B%5D=1');

/** What only code decides. */
const KNOWN = new Map<string, fc.Arbitrary<unknown>>([
  ['timeZone', fc.constantFrom('Europe/Rome', 'UTC')],
  [
    'path',
    fc.constantFrom('monitor.chargedV', 'sources.0.profile.floatV', 'bank.capacityAh', 'loads.0.cutoffV'),
  ],
  ['openedAt', fc.constantFrom('2026-10-19T08:30:00Z', '2026-10-19')],
  ['search', fc.constantFrom('pier', '%', '_', "o'clock", 'x')],
  ['channels', fc.constantFrom('battery_voltage', 'battery_voltage,battery_current', 'constructor')],
  ['channel', fc.constantFrom('time', 'battery_voltage', 'constructor', '__proto__', 'toString')],
  ['base', fc.constantFrom(1, 2, 3)],
  [
    'after',
    fc.constantFrom(
      NOBODY,
      `1.${NOBODY}`,
      `${'9'.repeat(18)}.${NOBODY}`,
      `1.${'-'.repeat(36)}`,
      '-'.repeat(36),
    ),
  ],
]);

export const bodyOf = (door: Door): fc.Arbitrary<{ body?: Buffer; type: string }> => {
  const noise = fc.uint8Array({ maxLength: 400 }).map((bytes) => Buffer.from(bytes));
  if (door.json) {
    const written = hostile(door.json, KNOWN).map((value) => Buffer.from(JSON.stringify(value) ?? ''));
    const odd = fc.oneof(
      noise,
      fc.constantFrom(
        Buffer.from('['.repeat(200_000)),
        Buffer.from(`{"complaints":[${'"undercharging",'.repeat(60_000)}"undercharging"]}`),
        Buffer.from('{"a":1'),
        Buffer.from('nul\0l'),
        Buffer.alloc(0),
        Buffer.alloc(3 << 20, 0x20),
      ),
    );
    return fc.record({
      body: fc.oneof({ weight: 12, arbitrary: written }, { weight: 1, arbitrary: odd }),
      type: fc.oneof(
        { weight: 15, arbitrary: fc.constant('application/json') },
        {
          weight: 1,
          arbitrary: fc.constantFrom('text/plain', 'multipart/form-data', 'application/octet-stream', ''),
        },
      ),
    });
  }
  if (door.bytes || door.file) {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg"><g id="a">${'<use href="#a"/>'.repeat(20)}</g></svg>`;
    return fc.record({
      body: fc.oneof(
        noise,
        fc.constantFrom(
          Buffer.from(svg),
          Buffer.from('PK\x03\x04nothing of the kind', 'latin1'),
          Buffer.from(zipBundle(new Map([['../x', Buffer.from('y')]]))),
          Buffer.from(zipBundle(new Map([['datapackage.json', Buffer.from('['.repeat(100_000))]]))),
          Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.alloc(5000, 7)]),
          Buffer.alloc(0),
          Buffer.alloc(5 << 20),
        ),
      ),
      type: fc.constantFrom(
        'application/octet-stream',
        'application/octet-stream',
        'image/png',
        'text/plain',
      ),
    });
  }
  return fc.record({
    body: fc.constantFrom(undefined, undefined, Buffer.from('{}')),
    type: fc.constant('application/json'),
  }) as fc.Arbitrary<{
    body?: Buffer;
    type: string;
  }>;
};

/** Where a request says that it comes from. */
export const origins: fc.Arbitrary<Record<string, string>> = fc.oneof(
  { weight: 20, arbitrary: fc.constant({}) },
  {
    weight: 1,
    arbitrary: fc.constantFrom<Record<string, string>[]>(
      { origin: 'https://elsewhere.example' },
      { origin: 'null' },
      { 'sec-fetch-site': 'cross-site' },
      { host: 'elsewhere.example' },
      { host: `elsewhere.example:${base.port}`, origin: `http://elsewhere.example:${base.port}` },
    ),
  },
);
