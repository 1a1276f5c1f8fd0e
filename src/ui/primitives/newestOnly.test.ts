import { newestOnly } from './newestOnly';

const rest = () => new Promise((resolve) => setTimeout(resolve, 0));

test('one at a time; what was overtaken is left out', async () => {
  const done: number[] = [];
  const open: (() => void)[] = [];
  const ask = newestOnly((value: number) => {
    done.push(value);
    return new Promise<void>((resolve) => open.push(resolve));
  });
  [1, 2, 3].forEach(ask);
  expect(done).toEqual([1]);
  open.shift()!();
  await rest();
  expect(done).toEqual([1, 3]);
  ask(4);
  expect(done).toEqual([1, 3]);
  open.shift()!();
  await rest();
  expect(done).toEqual([1, 3, 4]);
  open.shift()!();
  await rest();
  expect(done).toEqual([1, 3, 4]);
});
