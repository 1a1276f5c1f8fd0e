/** Files are given out in turns, and whoever never fetches one does not keep the others waiting. */

import { fileAnswer } from './exportAnswer';

const file =
  (pieces: number, size = 200_000) =>
  async () => ({
    fileName: 'a.csv',
    type: 'text/csv',
    body: (function* () {
      for (let i = 0; i < pieces; i++) yield new Uint8Array(size).fill(i);
    })(),
  });

test('a file comes whole, piece by piece', async () => {
  const answer = await fileAnswer(file(5));
  expect(answer.headers.get('content-disposition')).toBe('attachment; filename="a.csv"');
  expect((await answer.arrayBuffer()).byteLength).toBe(1_000_000);
});

test('what goes wrong before the first piece is thrown', async () => {
  await expect(
    fileAnswer(async () => {
      throw new Error('There is none.');
    }),
  ).rejects.toThrow('There is none.');
});

test('a third waits for one of two; a file that nobody fetches is taken back', async () => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'performance'] });
  try {
    const [stalled] = [await fileAnswer(file(50)), await fileAnswer(file(50))];
    let third: Response | undefined;
    const waiting = fileAnswer(file(1)).then((answer) => (third = answer));
    await new Promise((done) => setImmediate(done));
    expect(third).toBeUndefined();
    await jest.advanceTimersByTimeAsync(61_000);
    await waiting;
    expect((await third!.arrayBuffer()).byteLength).toBe(200_000);
    await expect(stalled!.arrayBuffer()).rejects.toThrow(/Nobody fetched/);
  } finally {
    jest.useRealTimers();
  }
});

test('one that is broken off makes room at once', async () => {
  const answers = [await fileAnswer(file(50)), await fileAnswer(file(50))];
  for (const one of answers) await one.body!.cancel();
  expect((await (await fileAnswer(file(2))).arrayBuffer()).byteLength).toBe(400_000);
});
