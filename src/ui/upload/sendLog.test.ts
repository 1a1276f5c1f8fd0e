/** Sending in parts, without a browser: where each begins, what a server that knows better says, and what is given up. */

import { PART_BYTES } from '@/core/log/intake';
import { sendLog, type Sending } from './sendLog';

interface Part {
  at: number;
  bytes: number;
}

/** A server that takes parts in order; `puts` answers each PUT before the server sees it, or leaves it to the server. */
function serve(size: number, puts: (part: Part, nth: number) => number | null = () => null, begunAt = 0) {
  const taken: Part[] = [];
  let received = begunAt;
  let nth = 0;
  const removed: string[] = [];
  globalThis.fetch = (async (url: string, { method = 'GET' }: RequestInit = {}) => {
    if (method === 'POST') return Response.json({ id: 'i', received, state: 'receiving' }, { status: 201 });
    if (method === 'DELETE') removed.push(url);
    return Response.json({ id: 'i', received, state: received === size ? 'done' : 'receiving' });
  }) as typeof fetch;
  class Request {
    upload = {} as { onprogress?: (event: { loaded: number }) => void };
    status = 0;
    response: unknown = null;
    onloadend = () => undefined;
    #at = 0;
    setRequestHeader() {}
    open(_: string, url: string) {
      this.#at = Number(new URL(url, 'http://here').searchParams.get('at'));
    }
    abort() {
      this.onloadend();
    }
    send(part: ArrayBuffer) {
      const one = { at: this.#at, bytes: part.byteLength };
      const answer = puts(one, nth++);
      if (answer !== null) {
        this.status = answer;
        this.response = answer >= 400 ? { error: 'No.' } : null;
      } else if (one.at !== received) {
        this.status = 409;
        this.response = { received };
      } else {
        taken.push(one);
        received += one.bytes;
        this.status = 200;
        this.response = { received };
        this.upload.onprogress?.({ loaded: one.bytes });
      }
      setTimeout(() => this.onloadend());
    }
  }
  globalThis.XMLHttpRequest = Request as unknown as typeof XMLHttpRequest;
  return { taken, removed };
}

const fileOf = (size: number) => new File([new Uint8Array(size)], 'log.csv', { lastModified: 1 });
const SIZE = 2 * PART_BYTES + 1000;

function send(size: number) {
  const told: Sending[] = [];
  const begun: string[] = [];
  const sent = sendLog(
    { jobId: 'j', file: fileOf(size), description: { device: 'monitor' } },
    (one) => told.push(one),
    (id) => begun.push(id),
  );
  return { ...sent, told, begun };
}

test('parts follow each other without gap or overlap, and progress only grows', async () => {
  const { taken } = serve(SIZE);
  const { finished, told, begun } = send(SIZE);
  expect((await finished).state).toBe('done');
  expect(begun).toEqual(['i']);
  expect(taken.map((one) => one.at)).toEqual([0, PART_BYTES, 2 * PART_BYTES]);
  expect(taken.reduce((sum, one) => sum + one.bytes, 0)).toBe(SIZE);
  const parts = told.map((one) => one.part);
  expect(parts).toEqual([...parts].sort((a, b) => a - b));
});

test('what is there already is not sent again', async () => {
  const { taken } = serve(SIZE, () => null, PART_BYTES);
  await send(SIZE).finished;
  expect(taken.map((one) => one.at)).toEqual([PART_BYTES, 2 * PART_BYTES]);
});

test('a part whose answer was lost is taken on the server’s word, not sent into the file twice', async () => {
  // The second part arrives, but the connection breaks before the answer comes.
  let cut = true;
  const server = serve(SIZE, (one) => {
    if (one.at !== PART_BYTES || !cut) return null;
    cut = false;
    return 0;
  });
  const { finished, told } = send(SIZE);
  await finished;
  expect(told.some((one) => one.what.startsWith('The connection broke: trying again in 1 s'))).toBe(true);
  expect(server.taken.map((one) => one.at)).toEqual([0, PART_BYTES, 2 * PART_BYTES]);
});

test('a refusal is not tried again', async () => {
  let asked = 0;
  serve(SIZE, () => (asked++, 400));
  await expect(send(SIZE).finished).rejects.toThrow('No.');
  expect(asked).toBe(1);
});

test('cancelled, it stops and takes back what was begun', async () => {
  const { removed } = serve(SIZE, () => 503);
  const { finished, cancel } = send(SIZE);
  await new Promise((done) => setTimeout(done, 50));
  cancel();
  await expect(finished).rejects.toMatchObject({ name: 'AbortError' });
  expect(removed).toEqual(['/api/intakes/i']);
});

test('cancelled before the server has answered at all, it is taken back too', async () => {
  const { removed, taken } = serve(SIZE, () => null);
  const { finished, cancel } = send(SIZE);
  cancel();
  await expect(finished).rejects.toMatchObject({ name: 'AbortError' });
  expect([removed, taken]).toEqual([['/api/intakes/i'], []]);
});
