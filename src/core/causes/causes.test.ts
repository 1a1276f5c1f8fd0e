/** Healthy and faulty sites for each cause, from seeds that the sweep does not use, and the sentences that a finding is made of. */

import { takeInLog } from '../log/takeIn';
import { diagnose, type Diagnosis } from '../diagnosis/diagnose';
import { type Fault, randomJob } from '../simulate/randomJob';
import { seededRandom } from '../simulate/random';
import { devicesOf } from '../system/schema';
import { CAUSES } from '.';
import { shrunk } from './cause';
import { FIELD_TESTS } from './tests';
import { WEIGHTS, weightOf } from './weights';

const SEEDS = 900_000_000;

function diagnoseRandom(fault: Fault, seed: number): Diagnosis {
  const { job, system, logs } = randomJob(fault, seededRandom(SEEDS + seed));
  const series = logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
  return diagnose({ job, system, series });
}

describe('healthy sites', () => {
  test.each([1, 2, 3, 4, 5, 6])('site %d: no cause is possible or better', (seed) => {
    for (const finding of diagnoseRandom('none', seed).findings)
      expect([finding.cause, finding.standing]).toEqual([
        finding.cause,
        expect.stringMatching(/^(unlikely|excluded|cannot-tell)$/),
      ]);
  });
});

describe('sites with a fault', () => {
  // Not every single log can show its fault; over several most must, and none may be taken for another fault.
  test.each<[Fault, number]>([
    ['charge-voltage-low', 3],
    ['source-too-small', 3],
  ])('%s is likely or strong on most of five sites, and none is taken for another fault', (fault, most) => {
    const found = [11, 12, 13, 14, 15].map((seed) => diagnoseRandom(fault, seed).findings);
    const standings = found.map((findings) => findings.find((one) => one.cause === fault)!.standing);
    expect(standings.filter((one) => one === 'likely' || one === 'strong').length).toBeGreaterThanOrEqual(
      most,
    );
    for (const findings of found)
      for (const one of findings.filter((finding) => finding.cause !== fault))
        expect(['likely', 'strong']).not.toContain(one.standing);
  });
});

describe('the catalogue', () => {
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
        expect(FIELD_TESTS[test]).toBeDefined();
        expect(outcomes.reduce((sum, one) => sum + one.ifHolds, 0)).toBeCloseTo(1, 9);
        expect(outcomes.reduce((sum, one) => sum + one.ifNot, 0)).toBeCloseTo(1, 9);
      }
  });

  test('no weight is beyond 15 dB, and bands fall', () => {
    for (const bands of Object.values(WEIGHTS)) {
      const rows = typeof bands === 'number' ? [[0, bands] as const] : bands;
      rows.forEach(([, decibans]) => expect(Math.abs(decibans)).toBeLessThanOrEqual(15));
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
    expect(shrunk(10, 1.5)).toBe(5);
    expect(shrunk(10, 100)).toBe(10);
    expect(shrunk(-12, 1)).toBe(-5);
  });
});

test('without a log nothing is judged that a log would have to show', () => {
  const { job, system } = randomJob('none', seededRandom(SEEDS));
  const { findings, charges } = diagnose({ job, system, series: [] });
  expect(charges).toEqual([]);
  for (const finding of findings) {
    expect(finding.standing).toBe('cannot-tell');
    expect(finding.missing.length).toBeGreaterThan(0);
  }
});

test('a charge voltage set too low is said from the description alone, but not as likely', () => {
  const { job, system } = randomJob('none', seededRandom(SEEDS));
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
