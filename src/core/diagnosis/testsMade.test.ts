import { CAUSES } from '../causes';
import type { FIELD_TESTS } from '../causes/tests';
import { demoSystem } from '../simulate/demo';
import type { Job } from '../system/schema';
import { diagnose } from './diagnose';
import { decibansOf, testLine } from './testsMade';

const { system, job } = demoSystem('harbour-office');
const after = (some: Partial<Job>) => diagnose({ job: { ...job, ...some }, system, series: [] });
const of = (diagnosis: ReturnType<typeof after>, cause: string) =>
  diagnosis.findings.find((one) => one.cause === cause);

test('a result moves the cause by the likelihood ratio of its outcome', () => {
  const outcomes = CAUSES.find((one) => one.code === 'current-offset')!.tests['read-the-zero']!;
  const before = of(after({}), 'current-offset')!;
  outcomes.forEach((outcome, k) => {
    const tested = of(
      after({ tests: [{ test: 'read-the-zero', on: '2026-11-20', outcomes: { 'current-offset': k } }] }),
      'current-offset',
    )!;
    expect(tested.decibans - before.decibans).toBe(decibansOf(outcome));
    expect(tested.evidence[0]!.text).toContain(outcome.name);
    // Somebody looked: it is judged, although no log shows it.
    expect(tested.standing).not.toBe('cannot-tell');
  });
});

test('ten times as likely with the cause as without is 10 dB; nothing weighs more than 15', () => {
  expect(decibansOf({ name: '', ifHolds: 0.5, ifNot: 0.05 })).toBe(10);
  expect(decibansOf({ name: '', ifHolds: 0.97, ifNot: 0.01 })).toBe(15);
  expect(decibansOf({ name: '', ifHolds: 0.01, ifNot: 0.97 })).toBe(-15);
});

test('outcomes of every test of every cause sum to one, and one test’s outcomes never weigh the same way', () => {
  for (const cause of CAUSES)
    for (const [test, outcomes] of Object.entries(cause.tests)) {
      const total = (of: 'ifHolds' | 'ifNot') => outcomes.reduce((sum, one) => sum + one[of], 0);
      expect([cause.code, test, total('ifHolds'), total('ifNot')]).toEqual([
        cause.code,
        test,
        expect.closeTo(1, 9),
        expect.closeTo(1, 9),
      ]);
      const weights = outcomes.map(decibansOf);
      expect([cause.code, test, Math.max(...weights) > 0, Math.min(...weights) < 0]).toEqual([
        cause.code,
        test,
        true,
        true,
      ]);
    }
});

test('what was tested, and what cannot be tested here, is not asked for again', () => {
  const first = after({}).nextTest!;
  const struck = after({ testsLeftOut: [first.test] });
  expect(struck.nextTest!.test).not.toBe(first.test);
  expect(struck.furtherTests.map((one) => one.test)).not.toContain(first.test);
  const made = after({ tests: [{ test: first.test, on: '2026-11-20', outcomes: {} }] });
  expect(made.nextTest!.test).toBe(struck.nextTest!.test);
});

test('tests are offered by what they settle a minute', () => {
  const { nextTest, furtherTests } = after({});
  const rates = [nextTest!, ...furtherTests].map(({ bits, minutes }) => bits / minutes);
  expect(rates).toEqual([...rates].sort((a, b) => b - a));
  expect(furtherTests.length).toBeGreaterThan(1);
});

test('each question names its outcomes once, and an answer reaches all causes that ask it', () => {
  const { nextTest, furtherTests } = after({});
  for (const { test, asks } of [nextTest!, ...furtherTests])
    for (const { causes, outcomes } of asks)
      for (const code of causes)
        expect(
          CAUSES.find((one) => one.code === code)!.tests[test as keyof typeof FIELD_TESTS]!.map(
            ({ name }) => name,
          ),
        ).toEqual(outcomes);
});

test('results in words, for the report', () => {
  const { testsMade } = after({
    tests: [
      {
        test: 'read-the-zero',
        on: '2026-11-20',
        outcomes: { 'current-offset': 0 },
        note: '0.4 A with everything off.',
      },
    ],
  });
  expect(testsMade.map(testLine)).toEqual([
    '2026-11-20, read the zero: a current with everything isolated. 0.4 A with everything off.',
  ]);
});

test('a result of a test that is not known any more is kept and weighs nothing', () => {
  const strange = after({
    tests: [{ test: 'shake-it', on: '2026-11-20', outcomes: { 'current-offset': 0 } }],
  });
  expect(strange.testsMade[0]).toMatchObject({ title: 'shake-it', found: [] });
  expect(of(strange, 'current-offset')).toEqual(of(after({}), 'current-offset'));
});
