/** Faults of counting on random sites, alone and in pairs. */

import type { Finding } from '../diagnosis/result';
import { testSite } from '../../../tests/support/testSites';
import { FAULTS } from '../simulate/faults';
import type { Fault } from '../simulate/faults/fault';

const DRIFT: readonly Fault[] = (FAULTS as readonly Fault[]).filter(
  (one) => one.complaint === 'drifting-soc',
);

const shown = (findings: readonly Finding[]): string[] =>
  findings.filter((one) => one.standing === 'likely' || one.standing === 'strong').map((one) => one.cause);

describe.each(DRIFT)('$code', (fault) => {
  const found = [1, 2].map((k) => testSite(`${fault.code}-${k}`).findings);

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
  test('a wrong capacity behind a charged voltage that is never reached: both are shown', () => {
    const { findings } = testSite('pair-1');
    expect(shown(findings)).toEqual(expect.arrayContaining(['capacity-wrong', 'charged-voltage-unreached']));
  });

  test('a shunt of another size makes the tail look unreached: one fault explains the other', () => {
    const { findings } = testSite('pair-2');
    expect(shown(findings)).toEqual(['current-scale']);
    for (const one of findings.filter((each) => each.explainedBy.length > 0))
      expect(one.explainedBy).toContain('current-scale');
  });
});
