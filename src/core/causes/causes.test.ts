/** Healthy and faulty sites for each cause, and the sentences that a finding is made of. */

import { testSite } from '../../../tests/support/testSites';
import { diagnose } from '../diagnosis/diagnose';
import type { Finding } from '../diagnosis/result';
import { CAUSES } from '.';
import { type Bands, shrunk, weightOf } from './cause';
import { FIELD_TESTS } from './tests';
import { CAUSE_CODES } from './codes';
import { FAULTS } from '../simulate/faults';

const isShown = ({ standing }: Finding): boolean => standing === 'likely' || standing === 'strong';

describe('healthy sites', () => {
  const all = [1, 2, 3, 4, 5, 6].map((k) => testSite(`charged-${k}`).findings);

  test('nothing is likely on any of them', () => {
    for (const findings of all) expect(findings.filter(isShown).map((one) => one.cause)).toEqual([]);
  });

  test('hardly anything is possible', () => {
    const possible = all.flat().filter((one) => one.standing === 'possible');
    expect(possible.length <= 1 ? [] : possible.map((one) => one.cause)).toEqual([]);
  });
});

describe('five sites with each of three faults', () => {
  const sites = ['charge-voltage-low', 'source-too-small', 'absorption-too-short'].flatMap((code) =>
    [11, 12, 13, 14, 15].map((k) => ({ code, findings: testSite(`${code}-${k}`).findings })),
  );

  // Not every single log can show its fault; most must, and hardly any may be taken for another.
  test('most are shown', () => {
    const missed = sites.filter(
      ({ code, findings }) => !findings.some((one) => one.cause === code && isShown(one)),
    );
    expect(missed.length <= 3 ? [] : missed.map((one) => one.code)).toEqual([]);
  });

  test('hardly any is taken for another', () => {
    const wrong = sites.flatMap(({ code, findings }) =>
      findings.filter((one) => one.cause !== code && isShown(one)).map((one) => `${one.cause} for ${code}`),
    );
    expect(wrong.length <= 1 ? [] : wrong).toEqual([]);
  });
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
