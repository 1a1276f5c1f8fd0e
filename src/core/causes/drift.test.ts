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

describe('two sites with each fault', () => {
  const sites = DRIFT.flatMap((fault) =>
    [1, 2].map((k) => ({ fault, findings: testSite(`${fault.code}-${k}`).findings })),
  );

  // Not every log can show its fault; most must, and hardly any may be taken for another.
  test('most are shown', () => {
    const missed = sites.filter(({ fault, findings }) => !shown(findings).includes(fault.code));
    const names = missed.map(({ fault }) => fault.code);
    expect(names.length <= 0.2 * sites.length ? [] : names).toEqual([]);
  });

  test('hardly any other fault of counting is taken for one', () => {
    const wrong = sites.flatMap(({ fault, findings }) =>
      shown(findings)
        .filter((code) => code !== fault.code && !(fault.also ?? []).some((one) => one === code))
        .filter((code) => DRIFT.some((one) => one.code === code))
        .map((code) => `${code} for ${fault.code}`),
    );
    expect(wrong.length <= 0.1 * sites.length ? [] : wrong).toEqual([]);
  });

  test('every sentence is whole', () => {
    for (const finding of sites.flatMap((one) => one.findings))
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
