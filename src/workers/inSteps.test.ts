import { inSteps } from './inSteps';

test('a hundred reports of however many parts, the first and the last among them', () => {
  const seen: number[] = [];
  const report = inSteps((part) => seen.push(part));
  for (let k = 0; k <= 5000; k++) report(k / 5000);
  expect(seen).toHaveLength(101);
  expect(seen[0]).toBe(0);
  expect(seen.at(-1)).toBe(1);
});
