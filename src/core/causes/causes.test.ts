/** Healthy and faulty sites for each cause, and the sentences that a finding is made of. */

import { testSite } from '../../../tests/support/testSites';
import { diagnose } from '../diagnosis/diagnose';
import { CAUSES } from '.';
import { type Bands, shrunk, weightOf } from './cause';
import { FIELD_TESTS } from './tests';
import { CAUSE_CODES } from './codes';
import { FAULTS } from '../simulate/faults';

describe('healthy sites', () => {
  test.each([1, 2, 3, 4, 5, 6])('site %d: no cause is possible or better', (k) => {
    for (const finding of testSite(`charged-${k}`).findings)
      expect([finding.cause, finding.standing]).toEqual([
        finding.cause,
        expect.stringMatching(/^(unlikely|excluded|cannot-tell)$/),
      ]);
  });
});

describe('sites with a fault', () => {
  // Not every single log can show its fault; over several most must, and none may be taken for another fault.
  test.each(['charge-voltage-low', 'source-too-small', 'absorption-too-short'])(
    '%s is likely or strong on most of five sites, and none is taken for another fault',
    (code) => {
      const found = [11, 12, 13, 14, 15].map((k) => testSite(`${code}-${k}`).findings);
      const shown = (standing: string) => standing === 'likely' || standing === 'strong';
      const hits = found.filter((findings) =>
        findings.some((one) => one.cause === code && shown(one.standing)),
      );
      expect(hits.length).toBeGreaterThanOrEqual(3);
      for (const findings of found)
        for (const one of findings.filter((finding) => finding.cause !== code))
          expect([one.cause, shown(one.standing)]).toEqual([one.cause, false]);
    },
  );
});

describe('the catalogue', () => {
  test('every cause weighed and every simulated fault is in it', () => {
    for (const { code } of [...CAUSES, ...FAULTS]) expect(CAUSE_CODES).toContain(code);
  });

  test('codes are unique, and each cause says what it is, what it needs and how to confirm it', () => {
    expect(new Set(CAUSES.map((one) => one.code)).size).toBe(CAUSES.length);
    for (const cause of CAUSES) {
      expect(cause.title).not.toBe('');
      expect(cause.needs).not.toBe('');
      expect(cause.signature).not.toBe('');
      expect(Object.keys(cause.tests).length).toBeGreaterThan(0);
      // A prior alone may not even make a cause possible.
      expect(cause.prior.complained).toBeLessThan(0);
      expect(cause.prior.otherwise).toBeLessThanOrEqual(cause.prior.complained);
    }
  });

  test('every test of a cause is a field test, and its outcomes are probabilities', () => {
    for (const cause of CAUSES)
      for (const [test, outcomes] of Object.entries(cause.tests)) {
        expect(Object.keys(FIELD_TESTS)).toContain(test);
        expect(outcomes.reduce((sum, one) => sum + one.ifHolds, 0)).toBeCloseTo(1, 9);
        expect(outcomes.reduce((sum, one) => sum + one.ifNot, 0)).toBeCloseTo(1, 9);
      }
  });

  test('no weight is beyond 15 dB, and bands fall', () => {
    for (const { code, weights } of CAUSES)
      for (const [name, bands] of Object.entries<Bands | number>(weights)) {
        const rows: Bands = typeof bands === 'number' ? [[0, bands]] : bands;
        for (const [, decibans] of rows)
          expect([code, name, Math.abs(decibans) <= 15]).toEqual([code, name, true]);
        for (let i = 1; i < rows.length; i++) expect(rows[i]![0]).toBeLessThan(rows[i - 1]![0]);
      }
    expect(
      weightOf(
        [
          [2, 9],
          [0, -3],
        ],
        2,
      ),
    ).toBe(9);
    expect(
      weightOf(
        [
          [2, 9],
          [0, -3],
        ],
        1.99,
      ),
    ).toBe(-3);
    expect(
      weightOf(
        [
          [2, 9],
          [0, -3],
        ],
        -7,
      ),
    ).toBe(-3);
  });

  test('few occurrences weigh little', () => {
    expect(shrunk(10, 0)).toBe(0);
    expect(shrunk(10, 0.75)).toBe(5);
    expect(shrunk(10, 100)).toBe(10);
    expect(shrunk(-12, 1)).toBe(-7);
  });
});

test('without a log nothing is judged that a log would have to show', () => {
  const { job, system } = testSite('plain');
  const { findings, charges } = diagnose({ job, system, series: [] });
  expect(charges).toEqual([]);
  for (const finding of findings) {
    expect(finding.standing).toBe('cannot-tell');
    expect(finding.missing.length).toBeGreaterThan(0);
  }
});

test('a charge voltage set too low is said from the description alone, but not as likely', () => {
  const { job, system } = testSite('plain');
  const source = system.sources[0]!;
  const low = {
    ...system,
    sources: [
      { ...source, profile: { absorptionV: system.bank.chargeVolts.min - 0.08 * system.bank.cellsInSeries } },
    ],
  };
  const finding = diagnose({ job, system: low, series: [] }).findings.find(
    (one) => one.cause === 'charge-voltage-low',
  )!;
  expect(finding.standing).toBe('possible');
  expect(finding.evidence[0]!.text).toMatch(/is set to .* at 25 °C; the battery asks for/);
});
