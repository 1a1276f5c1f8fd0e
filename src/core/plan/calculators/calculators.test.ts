import { DEMO_SLUGS, demoSystem } from '../../simulate/demo';
import { CALCULATORS, compute, isNumber } from './index';

const calculator = (id: string) => CALCULATORS.find((one) => one.id === id)!;
const result = (id: string, typed: Record<string, string>, label: string) => {
  const computed = compute(calculator(id), typed);
  if (!computed.ok) throw new Error(JSON.stringify(computed.problems));
  return computed.outputs.find((one) => one.label === label)!.value;
};

test('every calculator computes from what it starts with, and says formula and source', () => {
  for (const one of CALCULATORS) {
    const computed = compute(one, {});
    expect([one.id, computed.ok]).toEqual([one.id, true]);
    if (!computed.ok) continue;
    for (const { value } of computed.outputs)
      expect(typeof value === 'string' ? value.length > 0 : Number.isFinite(value)).toBe(true);
    expect(one.formula.length).toBeGreaterThan(5);
    expect(one.source.length).toBeGreaterThan(5);
    for (const input of one.inputs)
      if (isNumber(input)) expect(input.start >= input.min && input.start <= input.max).toBe(true);
  }
});

test('figures worked by hand', () => {
  // 100 Ah, 20 h, k 1.2 at 10 A lasts 8.7055 h (Peukert); from 100 to 50 % half of it.
  expect(result('time-to-floor', { exponent: '1.2' }, 'Time')).toBeCloseTo(8.7055 / 2, 3);
  expect(result('time-to-floor', { now: '40' }, 'Time')).toBe(0);
  // IEC 62485-2: 24 vented cells of 400 Ah on boost want 9.6 m³/h.
  expect(result('airflow', { capacity: '400' }, 'Fresh air')).toBeCloseTo(9.6, 9);
  expect(result('airflow', { capacity: '400' }, 'or a free opening, in and out each')).toBeCloseTo(268.8, 9);
  // 3 m of 16 mm² there and back at 20 °C are 6.9 mΩ: 0.276 V at 40 A.
  expect(result('conductor', { celsius: '20' }, 'Drop')).toBeCloseTo(0.276, 9);
  expect(result('tail', { capacity: '160', percent: '4' }, 'Tail')).toBeCloseTo(6.4, 9);
  expect(result('scaling', {}, 'At 48 V')).toBeCloseTo(57.6, 9);
  expect(result('scaling', { chemistry: 'lfp', cells: '4' }, 'Per cell')).toBeCloseTo(3.6, 9);
  // IEEE Std 450: 10 °C under the reference take 0.006 off.
  expect(result('gravity', { reading: '1.250', celsius: '15' }, 'Corrected')).toBeCloseTo(1.244, 4);
  // IEEE Std 450 (from memory): at 25 °C half of the rated time is half of the capacity; 5 A are the 20-hour rate of 100 Ah.
  expect(result('capacity-test', { amps: '5', celsius: '25', ran: '10' }, 'Capacity')).toBeCloseTo(50, 9);
  // IEEE Std 485 (from memory): at 20 °C it lasts 1/1.056 of the time, which is no loss of capacity.
  expect(
    result('capacity-test', { amps: '5', celsius: '20', ran: String(20 / 1.056) }, 'Capacity'),
  ).toBeCloseTo(100, 6);
  expect(result('capacity-test', { amps: '5', celsius: '25', ran: '15.9' }, 'Verdict')).toMatch(
    /^under 80 %/,
  );
  expect(result('capacity-test', { amps: '5', celsius: '25', ran: '16' }, 'Verdict')).toMatch(
    /^80 % or more/,
  );
  // Peukert: C 100 Ah at 20 h, k 1.2, 10 A lasts 8.7055 h.
  expect(
    result('capacity-test', { exponent: '1.2', amps: '10', celsius: '25' }, 'Expected time'),
  ).toBeCloseTo(8.7055, 3);
  expect(result('capacity-test', { cells: '12' }, 'Stop at')).toBeCloseTo(21, 9);
  expect(result('capacity-test', { chemistry: 'lfp', cells: '4', celsius: '5' }, 'Stop at')).toBeCloseTo(
    10.4,
    9,
  );
  expect(result('units', { celsius: '-40' }, 'Temperature')).toBeCloseTo(-40, 9);
  // Lithium: 50 Ah missing at 25 A and 98 %.
  expect(result('time-to-full', { chemistry: 'lfp', amps: '25' }, 'Together')).toBeCloseTo(
    50 / (25 * 0.98),
    9,
  );
});

test('a decimal comma is read; what cannot be used is told', () => {
  expect(result('tail', { capacity: '160', percent: '2,5' }, 'Tail')).toBeCloseTo(4, 9);
  const bad = compute(calculator('tail'), { capacity: 'many', percent: '90' });
  expect(bad).toEqual({
    ok: false,
    problems: {
      capacity: '“many” is not a number: write it like 14.4.',
      percent: 'This lies between 0.1 and 50 %.',
    },
  });
  expect(compute(calculator('airflow'), { kind: 'lfp' })).toMatchObject({
    problems: { kind: 'Choose one of the list.' },
  });
});

test('a system’s own figures can be put in', () => {
  for (const slug of DEMO_SLUGS)
    for (const one of CALCULATORS) {
      const given = one.from?.(demoSystem(slug).system) ?? {};
      const typed = Object.fromEntries(
        Object.entries(given).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
      );
      expect(Object.keys(given).every((key) => one.inputs.some((input) => input.key === key))).toBe(true);
      expect([slug, one.id, compute(one, typed).ok]).toEqual([slug, one.id, true]);
    }
});

test('inverter, exponent, generator, shunt and ratings chain, worked by hand', () => {
  // 800 W at 90 % and 15 W idle are 903.9 W: 37.7 A at 24 V.
  expect(result('inverter', {}, 'From the battery')).toBeCloseTo((800 / 0.9 + 15) / 24, 9);
  expect(result('inverter', { efficiency: '100', idle: '0' }, 'Lost in the inverter')).toBeCloseTo(0, 9);

  // 25 A are five times the 20-hour rate of 100 Ah: 5^0.25 = 1.4953; 50 Ah drawn show as 74.8 %.
  expect(result('drawn', {}, 'Ampere-hours drawn')).toBe(50);
  expect(result('drawn', {}, 'By ampere-hours alone')).toBe(50);
  expect(result('drawn', {}, 'They part by')).toBeCloseTo(50 * (5 ** 0.25 - 1), 9);
  expect(result('drawn', { amps: '2', ran: '10' }, 'They part by')).toBe(0);
  expect(result('drawn', { amps: '90' }, 'As a monitor with this exponent shows')).toBe(0);

  // 50 A · 28.8 V / 0.88 / 0.7 = 2338 VA.
  expect(result('generator', {}, 'Apparent power')).toBeCloseTo(2337.66, 1);
  const most = Number(result('generator', {}, 'Charge current that it carries'));
  expect(result('generator', { amps: String(most) }, 'Share of the generator')).toBeCloseTo(100, 6);

  // 500 A / 50 mV: 4 mV are 40 A; a monitor set for 100 A / 50 mV shows 8 A, a fifth.
  expect(result('shunt', {}, 'True current')).toBeCloseTo(40, 9);
  expect(result('shunt', { setRated: '100' }, 'The monitor shows')).toBeCloseTo(8, 9);
  expect(result('shunt', { setRated: '100' }, 'Shown over true')).toBeCloseTo(0.2, 9);
  expect(result('shunt', {}, 'Resistance of the shunt')).toBeCloseTo(0.1, 9);

  expect(result('ratings', {}, 'Weakest link')).toBe('the main cable');
  expect(result('ratings', {}, 'Its margin while all runs')).toBeCloseTo(100 * (1 - 60 / 180), 9);
  expect(result('ratings', { start: '180' }, 'Margin of the BMS at the start')).toBeCloseTo(-20, 9);
  expect(result('ratings', {}, 'Fuse against cable')).toBe('too large for it');
  expect(result('ratings', { fuse: '160' }, 'Fuse against cable')).toBe('protects it');
});
