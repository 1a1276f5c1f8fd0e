/** Cut-offs on random sites: found, by whom, and the cause behind them. */

import { CUT_CODES, testSite, type TestSite } from '../../../tests/support/testSites';
import { apart } from '../simulate/faults/cutting';

const sites = CUT_CODES.map((code) => ({ code, site: testSite(`cut-${code}`) }));

const HALF_HOUR = 1_800_000;
/** Of the true cut-offs of a site, those that were found at their time, and found for their reason. */
function foundOf({ truth, cutoffs }: TestSite) {
  const cuts = apart(truth.cuts);
  const at = cuts.map((cut) =>
    cutoffs!.list.find((one) => one.at - HALF_HOUR < cut.at && cut.at < one.last + HALF_HOUR),
  );
  return {
    of: cuts.length,
    found: at.filter((one) => one !== undefined).length,
    right: at.filter((one, k) => one?.why === cuts[k]!.why).length,
  };
}

test('nearly every cut-off is found, and the cutter is right', () => {
  const all = sites.map(({ site }) => foundOf(site));
  const total = (of: 'of' | 'found' | 'right') => all.reduce((sum, one) => sum + one[of], 0);
  expect(total('of')).toBeGreaterThan(30);
  expect(total('found') / total('of')).toBeGreaterThan(0.9);
  expect(total('right') / total('found')).toBeGreaterThan(0.9);
});

test('what a battery held at them is within its band', () => {
  for (const { site } of sites) {
    const { time } = site.truth.series;
    const step = time[1]! - time[0]!;
    const off = site
      .cutoffs!.list.filter((one) => one.deviation <= 10)
      .map((one) => {
        const held = site.truth.trueCharge[Math.round((one.at - time[0]!) / step)]!;
        return Math.abs(one.held - held) <= 3 * one.deviation + 3;
      });
    expect(off.filter((one) => !one).length).toBeLessThanOrEqual(0.2 * off.length);
  }
});

test('most causes are shown, and every sentence is whole', () => {
  const missed = sites.filter(
    ({ code, site }) =>
      !site.findings.some(
        (one) => one.cause === code && (one.standing === 'likely' || one.standing === 'strong'),
      ),
  );
  expect(missed.length <= 2 ? [] : missed.map((one) => one.code)).toEqual([]);
  for (const finding of sites.flatMap(({ site }) => site.findings))
    for (const text of [...finding.evidence.map((one) => one.text), finding.remedy?.text ?? ''])
      expect(text).not.toMatch(/NaN|undefined|null|Infinity|\s{2}/);
});

test('resistance of the path to the load within a tenth', () => {
  const { site } = sites.find((one) => one.code === 'load-path-drop')!;
  const [path] = site.cutoffs!.paths;
  expect(path!.ohms / site.plan.cut!.pathOhms!).toBeGreaterThan(0.9);
  expect(path!.ohms / site.plan.cut!.pathOhms!).toBeLessThan(1.1);
});

test('a site whose loads run on has no cut-off', () => {
  for (const k of [1, 2, 3, 4, 5, 6]) expect(testSite(`charged-${k}`).cutoffs!.list).toEqual([]);
});
