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

describe('setting', () => {
  /** A server that keeps clocks; it refuses the recording that is called so. */
  function serve(refused?: string) {
    const kept: Record<string, unknown> = { a: clock(1), b: clock(2) };
    const asked: string[] = [];
    globalThis.fetch = (async (url: string, { body }: RequestInit) => {
      const id = /recordings\/(\w+)\/clock/.exec(url)![1]!;
      asked.push(id);
      if (id === refused) return new Response('{}', { status: 400 });
      const before = kept[id];
      kept[id] = JSON.parse(String(body));
      return Response.json({ before });
    }) as typeof fetch;
    return { kept, asked };
  }

  test('all are set, and undoing sets back what was there', async () => {
    const { kept } = serve();
    const undo = await setClocks([
      { id: 'a', clock: clock(10) },
      { id: 'b', clock: clock(20) },
    ]);
    expect(kept).toEqual({ a: clock(10), b: clock(20) });
    await undo!();
    expect(kept).toEqual({ a: clock(1), b: clock(2) });
  });

  test('when one cannot be set, none is', async () => {
    const { kept, asked } = serve('b');
    expect(
      await setClocks([
        { id: 'a', clock: clock(10) },
        { id: 'b', clock: clock(20) },
      ]),
    ).toBeNull();
    expect(kept).toEqual({ a: clock(1), b: clock(2) });
    expect(asked).toEqual(['a', 'b', 'a']);
  });

  test('a server that is not there is no crash', async () => {
    globalThis.fetch = (async () => {
      throw new TypeError('fetch failed');
    }) as typeof fetch;
    expect(await setClocks([{ id: 'a', clock: clock(10) }])).toBeNull();
  });
});
