import { ampHours, amps, duration, percent, points, share, slopeMv, volts, withSign } from './text';

test('What is below zero has a true minus, whatever its unit', () => {
  expect([
    volts(-0.123),
    amps(-14.26),
    ampHours(-3.21),
    ampHours(-40.4),
    percent(-0.13),
    slopeMv(-4),
  ]).toEqual(['−0.12 V', '−14.3 A', '−3.2 Ah', '−40 Ah', '−0.1 %', '−4.0']);
});

test('What rounds to nothing has no sign', () => {
  expect([amps(-0.04), percent(-0.01), volts(-0.001)]).toEqual(['0.0 A', '0.0 %', '0.00 V']);
});

test('A difference shows its sign once', () => {
  expect([withSign(volts(-0.2)), withSign(volts(0.2)), withSign('-4.1')]).toEqual([
    '−0.20 V',
    '+0.20 V',
    '−4.1',
  ]);
});

test('Lengths of time and shares in words', () => {
  expect([
    duration(45_000),
    duration(99 * 60_000),
    duration(200 * 60_000),
    duration(300 * 3_600_000),
  ]).toEqual(['45 s', '99 min', '3 h 20 min', '13 days']);
  expect([share(0, 4, 'day'), share(4, 4, 'day'), share(1, 1, 'day'), share(3, 4, 'day')]).toEqual([
    'none of 4 days',
    'all 4 days',
    'the one day',
    '3 of 4 days',
  ]);
  expect([points(-1), points(4.25), points(12.4)]).toEqual(['1.0 point', '4.3 points', '12 points']);
});
