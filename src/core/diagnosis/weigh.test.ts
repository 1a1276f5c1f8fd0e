import type { Cause, Evidence, Observations } from '../causes/cause';
import { demoSite } from '../simulate/demo';
import { probabilityOf, rankTests } from './nextTest';
import { standingOf, weighCauses } from './weigh';

const { job, system } = demoSite('tide-gauge');
const seen: Observations = {
  job,
  system,
  bank: system.bank,
  span: null,
  charging: [],
  counting: null,
  days: [],
  refusals: null,
  cutoffs: null,
  cells: null,
  rounds: [],
  visits: [],
  batteries: [],
  capacityTests: [],
};

const item = (decibans: number, group = 'a', withSpan = true): Evidence => ({
  text: `${decibans}`,
  decibans,
  group,
  spans: withSpan ? [{ from: 0, to: 1 }] : [],
});

function cause(evidence: Evidence[], more: Partial<Cause> = {}, missing: string[] = []): Cause {
  return {
    code: 'fake-full',
    title: 'Some cause',
    complaint: 'undercharging',
    chemistries: 'all',
    needs: '',
    signature: '',
    prior: { complained: -5, otherwise: -10 },
    tests: {},
    families: [],
    weights: {},
    weigh: () => evidence,
    missing: () => missing,
    ...more,
  };
}
const weighOne = (one: Cause) => weighCauses([one], seen)[0]!;

test('standings begin at 20, 10, 0 and −10 dB', () => {
  expect([20, 19, 10, 9, 0, -1, -10, -11].map(standingOf)).toEqual([
    'strong',
    'likely',
    'likely',
    'possible',
    'possible',
    'unlikely',
    'unlikely',
    'excluded',
  ]);
});

test('items of one group are capped together, groups add up', () => {
  expect(weighOne(cause([item(10), item(10)])).decibans).toBe(-5 + 15);
  expect(weighOne(cause([item(10), item(10, 'b')])).decibans).toBe(-5 + 20);
  expect(weighOne(cause([item(-40)])).decibans).toBe(-5 - 15);
  expect(weighOne(cause([item(9), item(9)], { caps: { a: 10 } })).decibans).toBe(-5 + 10);
});

test('a cause is never above possible on its prior alone', () => {
  expect(weighOne(cause([], { prior: { complained: 25, otherwise: 25 } })).standing).toBe('possible');
});

test('what was not seen cannot be told, but a description that speaks still does', () => {
  expect(weighOne(cause([], {}, ['a log'])).standing).toBe('cannot-tell');
  expect(weighOne(cause([item(7, 'told', false)], {}, ['a log'])).standing).toBe('possible');
});

test('a cause of another chemistry is not weighed; another complaint has the lower prior', () => {
  expect(weighCauses([cause([], { chemistries: ['lfp'] })], seen)).toEqual([]);
  expect(weighOne(cause([item(12)], { complaint: 'drifting-soc' })).decibans).toBe(2);
});

test('the order is standing, then dB, then code', () => {
  const order = weighCauses(
    [
      cause([item(5)], { code: 'charge-voltage-low' }),
      cause([item(5)], { code: 'capacity-lost' }),
      cause([item(14)], { code: 'weak-cell' }),
      cause([], { code: 'absorption-too-short' }, ['x']),
    ],
    seen,
  );
  expect(order.map((one) => one.cause.code)).toEqual([
    'weak-cell',
    'capacity-lost',
    'charge-voltage-low',
    'absorption-too-short',
  ]);
});

describe('next test', () => {
  const sharp = [
    { name: 'yes', ifHolds: 0.95, ifNot: 0.05 },
    { name: 'no', ifHolds: 0.05, ifNot: 0.95 },
  ];
  const blunt = [
    { name: 'yes', ifHolds: 0.5, ifNot: 0.5 },
    { name: 'no', ifHolds: 0.5, ifNot: 0.5 },
  ];

  test('0 dB is even odds, 10 dB ten to one', () => {
    expect(probabilityOf(0)).toBe(0.5);
    expect(probabilityOf(10)).toBeCloseTo(10 / 11, 12);
  });

  test('a telling test goes before a blunt one; its gain is that of the formula', () => {
    const open = cause([item(5)], { tests: { 'mains-top-up': sharp, 'read-charger-settings': blunt } });
    const next = rankTests(weighCauses([open], seen))[0]!;
    expect(next.test).toBe('mains-top-up');
    // At even odds a 95 % test gains 1 − H(0.95) bits.
    const h = -0.95 * Math.log2(0.95) - 0.05 * Math.log2(0.05);
    expect(next.bits).toBeCloseTo(1 - h, 2);
  });

  test('of two equally telling tests the quicker is chosen', () => {
    const open = cause([item(5)], { tests: { 'mains-top-up': sharp, 'meter-at-terminals': sharp } });
    expect(rankTests(weighCauses([open], seen))[0]!.test).toBe('meter-at-terminals');
  });

  test('nothing is to be tested when all is settled', () => {
    const settled = cause([item(15), item(15, 'b')], { tests: { 'mains-top-up': sharp } });
    expect(rankTests(weighCauses([settled], seen))).toEqual([]);
  });
});

describe('ruled out by hand', () => {
  const why = 'The path was measured with a millivolt meter: 2 mΩ.';
  const ruled = (code: string): Observations => ({
    ...seen,
    job: { ...job, ruledOut: [{ cause: code, on: '2026-11-02', why }] },
  });
  test('it stands at excluded with the reason, its evidence kept; other causes are untouched', () => {
    const strong = cause([item(15), item(15, 'b')]);
    const [one] = weighCauses([strong], ruled('fake-full'));
    expect(one).toMatchObject({ standing: 'excluded', decibans: 25, ruledOut: { on: '2026-11-02', why } });
    expect(one!.evidence).toHaveLength(2);
    expect(weighCauses([strong], ruled('weak-cell'))[0]).toMatchObject({
      standing: 'strong',
      ruledOut: null,
    });
  });
  test('no test is asked for its sake', () => {
    const open = cause([item(8)], {
      tests: {
        'capacity-test': [
          { name: 'low', ifHolds: 0.9, ifNot: 0.1 },
          { name: 'well', ifHolds: 0.1, ifNot: 0.9 },
        ],
      },
    });
    expect(rankTests(weighCauses([open], seen))).toHaveLength(1);
    expect(rankTests(weighCauses([open], ruled('fake-full')))).toEqual([]);
  });
});
