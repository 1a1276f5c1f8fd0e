/** The season narrows what the year leaves open. */

import { celsiusAt } from './climate';

const site = { coldestC: 0, warmestC: 30 };
const at = (timeZone: string, month: number) => celsiusAt({ site, timeZone }, Date.UTC(2026, month, 15));

test('in the north July is not as cold as the coldest of the year, January not as warm as the warmest', () => {
  expect(at('Europe/Rome', 6)).toEqual({ min: expect.closeTo(9, 1), max: expect.closeTo(30, 1) });
  expect(at('Europe/Rome', 0)).toEqual({ min: expect.closeTo(0, 1), max: expect.closeTo(21, 1) });
});

test('in the south it is the other way round, and between the seasons half of it', () => {
  expect(at('Australia/Hobart', 0).min).toBeCloseTo(9, 1);
  expect(at('America/Argentina/Ushuaia', 6).max).toBeCloseTo(21, 1);
  expect(at('Europe/Rome', 3).min).toBeGreaterThan(3.5);
  expect(at('Europe/Rome', 3).min!).toBeLessThan(5.5);
});

test('what is not told stays unknown', () => {
  expect(celsiusAt({ site: { coldestC: 4 }, timeZone: 'Europe/Rome' }, 0)).toEqual({ min: 4 });
  expect(celsiusAt({ site: undefined, timeZone: 'Europe/Rome' }, 0)).toEqual({});
});
