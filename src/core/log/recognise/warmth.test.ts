import { recognise } from './index';

/** Two days of a charger by quarter hours that works from eight to twelve; its temperature as given. */
const readingOf = (celsius: (hour: number, works: boolean) => number, hours = 48) => {
  const rows = Array.from({ length: 4 * hours }, (_, k) => {
    const hour = k / 4;
    const works = hour % 24 >= 8 && hour % 24 < 16;
    const at = new Date(Date.UTC(2026, 8, 21) + k * 900_000).toISOString();
    return `${at},13.${k % 9},${works ? 18 + (k % 3) / 10 : 0},${celsius(hour, works).toFixed(1)}`;
  });
  const text = ['time,Voltage,Current,Temperature', ...rows].join('\n') + '\n';
  return recognise(new TextEncoder().encode(text), 'source').columns[3]!;
};

test('a temperature that hardly moves while the charger works is the battery’s', () => {
  const column = readingOf((hour) => 15 + 2 * Math.sin((2 * Math.PI * (hour - 9)) / 24));
  expect(column).toMatchObject({ role: 'battery_temperature', sure: 'likely' });
  expect(column.question).toBeUndefined();
});

test('one that rises with what the charger gives is its own', () => {
  expect(readingOf((_, works) => (works ? 41 : 19))).toMatchObject({ role: null, sure: 'likely' });
});

test('between the two, or where the charger was not seen at rest, it is asked', () => {
  expect(readingOf((_, works) => (works ? 23 : 17)).sure).toBe('ask');
  // A battery in the open that follows a day of 14 degrees.
  expect(readingOf((hour) => 12 + 7 * Math.sin((2 * Math.PI * (hour - 7)) / 24)).sure).toBe('ask');
  expect(readingOf(() => 15, 7).sure).toBe('ask');
});
