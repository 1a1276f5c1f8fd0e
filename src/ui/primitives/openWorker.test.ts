import { expose } from 'comlink';
import { MessageChannel } from 'node:worker_threads';
import { openWorker, sentenceOf } from './openWorker';

/** A stand-in for a web worker: one end of a channel, with what a page may do to a worker. */
function workerOf(api: object): { worker: Worker; closed: { is: boolean } } {
  const { port1, port2 } = new MessageChannel();
  expose(api, port2 as never);
  const closed = { is: false };
  const worker = Object.assign(port1 as unknown as Worker, {
    onerror: null,
    terminate() {
      closed.is = true;
      port1.close();
      port2.close();
    },
  });
  return { worker, closed };
}

const api = {
  twice: (value: number) => 2 * value,
  refuse(): number {
    throw new Error('That cannot be read.');
  },
  never: () => new Promise<number>(() => {}),
};

describe('a worker that is called like a function', () => {
  test('answers each question, and its errors keep their sentence', async () => {
    const { worker } = workerOf(api);
    const opened = openWorker<typeof api>(worker);
    const answers = Promise.all([opened.call((one) => one.twice(2)), opened.call((one) => one.twice(5))]);
    expect(await answers).toEqual([4, 10]);
    await expect(opened.call((one) => one.refuse())).rejects.toThrow('That cannot be read.');
    opened.close();
  });

  test('when it stops, whoever waits is told', async () => {
    const { worker, closed } = workerOf(api);
    const opened = openWorker<typeof api>(worker);
    const waits = opened.call((one) => one.never());
    worker.onerror!.call(worker, new Event('error') as ErrorEvent);
    await expect(waits).rejects.toThrow('The computation stopped');
    await expect(opened.call((one) => one.never())).rejects.toThrow('load the page anew');
    opened.close();
    expect(closed.is).toBe(true);
  });

  test('whatever was thrown is a sentence', () => {
    expect(sentenceOf(new Error('No.'))).toBe('No.');
    expect(sentenceOf('gone')).toBe('gone');
  });
});
