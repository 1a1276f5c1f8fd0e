/** Clocks as words, and set with a way back. */

import { clockText, setClocks } from './clocks';

const clock = (offsetSeconds: number, secondsPerDay = 0) => ({
  timeZone: 'UTC',
  offsetSeconds,
  secondsPerDay,
});

test.each([
  [clock(3600), '+60 min'],
  [clock(-90), '−2 min'],
  [clock(-5), '−5 s'],
  [clock(0, 4.5), '+4.5 s a day'],
  [clock(7200, -3), '+2 h, −3 s a day'],
])('%j is said as %s', (given, text) => {
  expect(clockText(given)).toBe(text);
});

describe('setting clocks', () => {
  const clock = (offsetSeconds: number) => ({ timeZone: 'UTC', offsetSeconds, secondsPerDay: 0 });
  const usual = globalThis.fetch;
  afterEach(() => {
    globalThis.fetch = usual;
  });
  /** A server that keeps clocks; refuses what `refuse` names. */
  function serve(refuse?: string) {
    const kept = new Map([
      ['a', clock(1)],
      ['b', clock(2)],
    ]);
    globalThis.fetch = (async (_: string, { body }: RequestInit) => {
      const { clocks } = JSON.parse(String(body)) as {
        clocks: { id: string; clock: ReturnType<typeof clock> }[];
      };
      if (clocks.some((one) => one.id === refuse))
        return Response.json({ error: 'With these clocks two logs would overlap.' }, { status: 409 });
      const before = clocks.map(({ id }) => ({ id, clock: kept.get(id)! }));
      for (const one of clocks) kept.set(one.id, one.clock);
      return Response.json({ before });
    }) as typeof fetch;
    return kept;
  }
  const both = [
    { id: 'a', clock: clock(10) },
    { id: 'b', clock: clock(20) },
  ];

  test('all are set at once, and undoing sets back what was there', async () => {
    const kept = serve();
    const undo = await setClocks(both);
    expect(Object.fromEntries(kept)).toEqual({ a: clock(10), b: clock(20) });
    await (undo as () => Promise<unknown>)();
    expect(Object.fromEntries(kept)).toEqual({ a: clock(1), b: clock(2) });
  });

  test('when one cannot be set, none is, and the reason comes back', async () => {
    const kept = serve('b');
    expect(await setClocks(both)).toBe('With these clocks two logs would overlap.');
    expect(Object.fromEntries(kept)).toEqual({ a: clock(1), b: clock(2) });
  });

  test('a server that is not there is no crash', async () => {
    globalThis.fetch = (async () => {
      throw new TypeError('fetch failed');
    }) as typeof fetch;
    expect(await setClocks(both)).toMatch(/could not be reached/);
  });
});
