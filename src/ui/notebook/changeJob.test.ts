import type { Job } from '@/core/system/schema';
import { changeJob } from './changeJob';

const job: Job = { title: 'Job', complaints: [], openedAt: '2026-10-19T08:30:00Z', notes: 'First.' };
const withNote =
  (note: string) =>
  (now: Job): Job => ({ ...now, notes: `${now.notes} ${note}` });

/** Answers one after the other; what was sent is kept. */
function server(...answers: (Response | Error)[]) {
  const sent: { base: number; value: Job }[] = [];
  global.fetch = (async (_url: string, { body }: { body: string }) => {
    sent.push(JSON.parse(body) as (typeof sent)[number]);
    const next = answers.shift()!;
    if (next instanceof Error) throw next;
    return next;
  }) as unknown as typeof fetch;
  return sent;
}
const conflict = (version: number, value: Job) => Response.json({ version, value }, { status: 409 });
const original = global.fetch;
afterEach(() => {
  global.fetch = original;
});

test('the change is made on the version that stands', async () => {
  const sent = server(Response.json({ version: 5 }));
  expect(await changeJob('id', { version: 4, job }, withNote('Second.'))).toBeNull();
  expect(sent).toEqual([{ base: 4, value: { ...job, notes: 'First. Second.' } }]);
});

test('what somebody else saved meanwhile is kept, and the change made again on it', async () => {
  const theirs = { ...job, title: 'Renamed', notes: 'Theirs.' };
  const sent = server(conflict(9, theirs), Response.json({ version: 10 }));
  expect(await changeJob('id', { version: 4, job }, withNote('Second.'))).toBeNull();
  expect(sent[1]).toEqual({ base: 9, value: { ...theirs, notes: 'Theirs. Second.' } });
});

test('it does not fight for ever', async () => {
  const sent = server(conflict(5, job), conflict(6, job), conflict(7, job));
  expect(await changeJob('id', { version: 4, job }, withNote('x'))).toMatch(
    /changing this job at the same time/,
  );
  expect(sent).toHaveLength(3);
});

test('a refusal is told in the server’s words; a server that is away is told as that', async () => {
  server(Response.json({ error: 'Keep this under 4000 letters.' }, { status: 400 }));
  expect(await changeJob('id', { version: 4, job }, withNote('x'))).toBe('Keep this under 4000 letters.');
  server(new Error('away'));
  expect(await changeJob('id', { version: 4, job }, withNote('x'))).toMatch(/could not be reached/);
});
