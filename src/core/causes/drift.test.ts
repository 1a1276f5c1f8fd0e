/** Faults of counting on random sites, alone and in pairs; seeds that the sweep does not use. */

import { diagnose } from '../diagnosis/diagnose';
import type { Finding } from '../diagnosis/result';
import { seriesOf, wellCounted } from '../../../tests/support/countedSites';
import { FAULTS } from '../simulate/faults';
import type { Fault } from '../simulate/faults/fault';
import { randomJob } from '../simulate/randomJob';
import { seededRandom } from '../simulate/random';
import type { SitePlan } from '../simulate/sitePlan';

const SEEDS = 880_000_000;
const DRIFT: readonly Fault[] = (FAULTS as readonly Fault[]).filter(
  (one) => one.complaint === 'drifting-soc',
);

/** Sources with logs of their own, so that what the monitor does not see can be seen. */
const logged = (plan: SitePlan): boolean => wellCounted(plan) && plan.chargers.every((one) => one.logged);

function findingsOf(faults: readonly Fault[], seed: number): Finding[] {
  const rare = faults.some((one) => one.code === 'full-too-rarely');
  const site = randomJob(faults, seededRandom(SEEDS + seed), rare ? () => true : logged);
  return diagnose({ job: site.job, system: site.system, series: seriesOf(site) }).findings;
}

const shown = (findings: readonly Finding[]): string[] =>
  findings.filter((one) => one.standing === 'likely' || one.standing === 'strong').map((one) => one.cause);

describe.each(DRIFT)('$code', (fault) => {
  const index = DRIFT.indexOf(fault);
  const found = [1, 2].map((k) => findingsOf([fault], 100 * index + k));

  test('is shown on one of two sites at the least, and something of it on both', () => {
    expect(found.filter((one) => shown(one).includes(fault.code)).length).toBeGreaterThan(0);
  });

  test('and no other fault of counting is taken for it', () => {
    for (const findings of found) {
      const others = shown(findings).filter(
        (code) => code !== fault.code && !(fault.also ?? []).some((one) => one === code),
      );
      expect(others.filter((code) => DRIFT.some((one) => one.code === code))).toEqual([]);
    }
  });

  test('every sentence of it is whole', () => {
    for (const finding of found.flat())
      for (const text of [...finding.evidence.map((one) => one.text), finding.remedy?.text ?? ''])
        expect(text).not.toMatch(/NaN|undefined|null|Infinity|\s{2}/);
  });
});

describe('pairs', () => {
  const named = (code: string) => DRIFT.find((one) => one.code === code)!;

  test('a wrong capacity behind a charged voltage that is never reached: both are shown', () => {
    const findings = findingsOf([named('capacity-wrong'), named('charged-voltage-unreached')], 9001);
    expect(shown(findings)).toEqual(expect.arrayContaining(['capacity-wrong', 'charged-voltage-unreached']));
  });

  test('a shunt of another size makes the tail look unreached: one fault explains the other', () => {
    const findings = findingsOf([named('current-scale')], 9002);
    expect(shown(findings)).toEqual(['current-scale']);
    for (const one of findings.filter((each) => each.explainedBy.length > 0))
      expect(one.explainedBy).toContain('current-scale');
  });
});
