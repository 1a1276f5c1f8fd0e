import { explainedText, oddsText, signedPoints } from './odds';

test('odds are said in round words', () => {
  // 10^(p/10), worked by hand.
  expect([16, 10, 3, 0, -1, -10, -13, 40, -40].map(oddsText)).toEqual([
    'about 40 to 1',
    'about 10 to 1',
    'about 2 to 1',
    'about even',
    'about 2 to 3',
    'about 1 to 10',
    'about 1 to 20',
    'over 1000 to 1',
    'under 1 to 1000',
  ]);
});

test('points carry their sign', () => {
  expect([7, 0, -12].map(signedPoints)).toEqual(['+7', '0', '−12']);
});

test('what is explained names the fault upstream; what nobody listed is not named', () => {
  const findings = [{ cause: 'charge-path-drop', title: 'Resistance between charger and battery' }];
  expect(explainedText(['charge-path-drop'], findings)).toBe(
    'It comes with another fault: resistance between charger and battery. Put that right first.',
  );
  expect(explainedText([], findings)).toBeNull();
  expect(explainedText(['fake-full'], findings)).toBeNull();
});
