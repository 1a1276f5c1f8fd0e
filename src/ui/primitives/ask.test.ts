/** What the server answers, checked; what went wrong, as a sentence. */

import { z } from 'zod';
import { ANYTHING, ask } from './ask';

const schema = z.object({ id: z.string() });
const answers = (...[body, init]: ConstructorParameters<typeof Response>) =>
  jest.spyOn(globalThis, 'fetch').mockResolvedValue(new Response(body, init));
afterEach(() => jest.restoreAllMocks());

test('an answer of the right shape is its value; a body goes out as JSON', async () => {
  const fetched = answers('{"id":"a"}');
  expect(await ask('/api/x', schema, { method: 'PUT', body: { n: 1 } })).toEqual({
    ok: true,
    value: { id: 'a' },
  });
  expect(fetched).toHaveBeenCalledWith('/api/x', {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: '{"n":1}',
  });
});

test('without a body none is sent, and it is read', async () => {
  const fetched = answers('{"id":"a"}');
  await ask('/api/x', schema);
  expect(fetched).toHaveBeenCalledWith('/api/x', { method: 'GET' });
});

test('what the server refuses is said in its own words', async () => {
  answers('{"error":"The job is gone."}', { status: 404 });
  expect(await ask('/api/x', schema)).toEqual({ ok: false, problem: 'The job is gone.', problems: {} });
});

test.each([
  ['a page instead of JSON', '<html>', 502, 'could not be reached'],
  ['an error that is no sentence', '{"error":{"code":5}}', 500, 'could not be reached'],
  ['an answer of another shape', '{"id":5}', 200, 'not understood'],
  ['no JSON where all went well', 'fine', 200, 'not understood'],
])('%s', async (_, body, status, problem) => {
  answers(body, { status });
  expect(await ask('/api/x', schema)).toEqual({
    ok: false,
    problem: expect.stringContaining(problem),
    problems: {},
  });
});

test('a server that is not there', async () => {
  jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('fetch failed'));
  expect(await ask('/api/x', schema)).toEqual({
    ok: false,
    problem: 'The server could not be reached. Try again.',
    problems: {},
  });
});

describe('trying again', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());
  const away = () => new Response('', { status: 503 });
  const done = async <T>(answer: Promise<T>): Promise<T> => {
    await jest.runAllTimersAsync();
    return answer;
  };

  test('reading is tried again where the server was not reached, and then it is an answer like any other', async () => {
    const fetched = jest
      .spyOn(globalThis, 'fetch')
      .mockRejectedValueOnce(new TypeError('fetch failed'))
      .mockResolvedValueOnce(away())
      .mockResolvedValueOnce(new Response('{"id":"a"}'));
    expect(await done(ask('/api/x', schema))).toEqual({ ok: true, value: { id: 'a' } });
    expect(fetched).toHaveBeenCalledTimes(3);
  });

  test('what changes something is asked once: it may have been done', async () => {
    const fetched = jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('fetch failed'));
    expect((await done(ask('/api/x', schema, { method: 'POST', body: {} }))).ok).toBe(false);
    expect(fetched).toHaveBeenCalledTimes(1);
  });

  test('what was taken back is not tried again; a refusal is no reason to', async () => {
    const stop = new AbortController();
    stop.abort();
    const fetched = jest.spyOn(globalThis, 'fetch').mockRejectedValue(new DOMException('', 'AbortError'));
    expect((await done(ask('/api/x', schema, { signal: stop.signal }))).ok).toBe(false);
    expect(fetched).toHaveBeenCalledTimes(1);
    answers('{"error":"Gone."}', { status: 404 });
    expect(await done(ask('/api/x', schema))).toMatchObject({ problem: 'Gone.' });
  });
});

test('problems of fields come by their names; what is no sentence is left out', async () => {
  answers('{"error":"No.","problems":{"title":"Give it a title.","n":5}}', { status: 400 });
  expect(await ask('/api/x', schema, { method: 'POST', body: {} })).toEqual({
    ok: false,
    problem: 'No.',
    problems: { title: 'Give it a title.' },
  });
});

test('where only that it was done is of interest, no body is needed', async () => {
  answers(null, { status: 204 });
  expect(await ask('/api/x', ANYTHING, { method: 'DELETE' })).toEqual({ ok: true, value: null });
});
