/** What the server answers, checked; what went wrong, as a sentence. */

import { z } from 'zod';
import { ask } from './ask';

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
  expect(await ask('/api/x', schema)).toEqual({ ok: false, problem: 'The job is gone.' });
});

test.each([
  ['a page instead of JSON', '<html>', 502, 'could not be reached'],
  ['an error that is no sentence', '{"error":{"code":5}}', 500, 'could not be reached'],
  ['an answer of another shape', '{"id":5}', 200, 'not understood'],
  ['no JSON where all went well', 'fine', 200, 'not understood'],
])('%s', async (_, body, status, problem) => {
  answers(body, { status });
  expect(await ask('/api/x', schema)).toEqual({ ok: false, problem: expect.stringContaining(problem) });
});

test('a server that is not there', async () => {
  jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('fetch failed'));
  expect(await ask('/api/x', schema)).toEqual({
    ok: false,
    problem: 'The server could not be reached. Try again.',
  });
});
