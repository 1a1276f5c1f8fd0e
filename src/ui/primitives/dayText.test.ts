/** Days in the order of a locale. */

import { dayOfText, patternOf, textOfDay } from './dayText';

test.each([
  ['en-GB', 'dd/mm/yyyy', '21/09/2026'],
  ['en-US', 'mm/dd/yyyy', '09/21/2026'],
  ['de-DE', 'dd.mm.yyyy', '21.09.2026'],
  ['it-IT', 'dd/mm/yyyy', '21/09/2026'],
  ['sv-SE', 'yyyy-mm-dd', '2026-09-21'],
])('in %s it is %s', (locale, hint, text) => {
  expect(patternOf(locale).hint).toBe(hint);
  expect(textOfDay('2026-09-21', locale)).toBe(text);
  expect(dayOfText(text, locale)).toBe('2026-09-21');
});

test('with the year first it is read everywhere; short years and single figures too', () => {
  expect(dayOfText('2026-9-1', 'en-US')).toBe('2026-09-01');
  expect(dayOfText('1.9.26', 'de-DE')).toBe('2026-09-01');
  expect(dayOfText(' 3/4/2026 ', 'en-GB')).toBe('2026-04-03');
  expect(dayOfText('3/4/2026', 'en-US')).toBe('2026-03-04');
});

test('what is no day is none', () => {
  for (const text of ['', '31/02/2026', '21/09', 'soon', '21/09/026', '1/2/3/4', 'b21/09/2026'])
    expect(dayOfText(text, 'en-GB')).toBeNull();
  expect(textOfDay('soon', 'en-GB')).toBe('');
  expect(textOfDay('', 'en-GB')).toBe('');
});
