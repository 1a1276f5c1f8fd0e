import { CAUSES } from '../causes';
import type { CauseCode } from '../causes/codes';
import type { Complaint } from '../system/schema';
import { explain } from './explain';
import { standingOf, type Weighed } from './weigh';

const weighed = (code: CauseCode, decibans: number): Weighed => ({
  cause: CAUSES.find((one) => one.code === code)!,
  standing: standingOf(decibans),
  decibans,
  evidence: [],
  missing: [],
  ruledOut: null,
});
const explained = (complaints: Complaint[], some: readonly Weighed[]) =>
  explain(some, complaints).map(({ cause, standing, explainedBy }) => [cause.code, standing, ...explainedBy]);
const told = (...some: Weighed[]) => explained(['undercharging'], some);

test('what a fault upstream explains is possible at most, and behind it', () => {
  expect(told(weighed('absorption-too-short', 25), weighed('charge-path-drop', 15))).toEqual([
    ['charge-path-drop', 'likely'],
    ['absorption-too-short', 'possible', 'charge-path-drop'],
  ]);
});

test('a fault upstream that is only possible explains nothing', () => {
  expect(told(weighed('absorption-too-short', 25), weighed('charge-path-drop', 5))).toEqual([
    ['absorption-too-short', 'strong'],
    ['charge-path-drop', 'possible'],
  ]);
});

test('what is excluded, or has nothing to do with it, comes with nothing', () => {
  expect(
    told(weighed('charge-path-drop', 15), weighed('float-unsuited', 12), weighed('source-too-small', -20)),
  ).toEqual([
    ['charge-path-drop', 'likely'],
    ['float-unsuited', 'likely'],
    ['source-too-small', 'excluded'],
  ]);
});

test('the fault upstream stays in front, though what it brings has more for it', () => {
  expect(told(weighed('charge-voltage-low', 22), weighed('runner-stops-charge', 12))[0]).toEqual([
    'runner-stops-charge',
    'likely',
  ]);
});

test('a worn battery takes its charge more slowly than the time for a good one allows; who complains of that is told both', () => {
  const both = [weighed('battery-resistance', 13), weighed('absorption-too-short', 14)];
  expect(explained(['premature-cutoff'], both)).toEqual([
    ['battery-resistance', 'likely'],
    ['absorption-too-short', 'possible', 'battery-resistance'],
  ]);
  expect(explained(['undercharging'], both)[1]).toEqual([
    'absorption-too-short',
    'likely',
    'battery-resistance',
  ]);
});

test('a float that gasses takes a current for ever, which looks like a zero error', () => {
  expect(told(weighed('float-unsuited', 14), weighed('current-offset', 10))).toEqual([
    ['float-unsuited', 'likely'],
    ['current-offset', 'possible', 'float-unsuited'],
  ]);
  // Where the owner complains of the reading, both stand.
  const both = [weighed('float-unsuited', 14), weighed('current-offset', 12)];
  expect(explained(['undercharging', 'drifting-soc'], both)).toEqual([
    ['float-unsuited', 'likely'],
    ['current-offset', 'likely', 'float-unsuited'],
  ]);
});

test('a battery that is never filled is empty soon: that is told as what it brings', () => {
  expect(told(weighed('source-too-small', 14), weighed('really-empty', 18))).toEqual([
    ['source-too-small', 'likely'],
    ['really-empty', 'possible', 'source-too-small'],
  ]);
  expect(told(weighed('cold-charge-block', 30), weighed('really-empty', 12))).toEqual([
    ['cold-charge-block', 'strong'],
    ['really-empty', 'possible', 'cold-charge-block'],
  ]);
});

test('a fact that the owner complains of keeps its standing behind its cause', () => {
  expect(
    explained(['premature-cutoff'], [weighed('really-empty', 18), weighed('source-too-small', 14)]),
  ).toEqual([
    ['source-too-small', 'likely'],
    ['really-empty', 'likely', 'source-too-small'],
  ]);
  expect(
    explained(['drifting-soc'], [weighed('charged-voltage-unreached', 22), weighed('never-started', 13)]),
  ).toEqual([
    ['charged-voltage-unreached', 'strong'],
    ['never-started', 'likely', 'charged-voltage-unreached'],
  ]);
});

test('a low cell ends the discharge of a battery that is not empty: that is not shown beside it', () => {
  expect(explained(['premature-cutoff'], [weighed('weak-cell', 14), weighed('really-empty', 12)])[1]).toEqual(
    ['really-empty', 'possible', 'weak-cell'],
  );
});

test('of two that explain each other the surer does, and stands', () => {
  const pair = (guess: number, reset: number) =>
    told(weighed('voltage-guess', guess), weighed('bulk-end-reset', reset)).map(([code, standing]) => [
      code,
      standing,
    ]);
  expect(pair(24, 12)).toEqual([
    ['voltage-guess', 'strong'],
    ['bulk-end-reset', 'possible'],
  ]);
  expect(pair(12, 24)).toEqual([
    ['bulk-end-reset', 'strong'],
    ['voltage-guess', 'possible'],
  ]);
});

test('no current makes a voltage that is never reached: an uncounted load explains none', () => {
  expect(told(weighed('charged-voltage-unreached', 19), weighed('load-not-counted', 12))).toEqual([
    ['charged-voltage-unreached', 'likely'],
    ['load-not-counted', 'likely'],
  ]);
});

test.each(['capacity-wrong', 'efficiency-wrong', 'peukert-wrong'] as const)(
  'a setting that is plainly wrong on paper is no echo: %s',
  (code) => {
    const onPaper = {
      ...weighed(code, 14),
      evidence: [{ text: '', decibans: 15, group: 'settings', spans: [] }],
    };
    expect(told(onPaper, weighed('false-sync', 12))[1]).toEqual([code, 'likely', 'false-sync']);
    expect(told(weighed(code, 14), weighed('false-sync', 12))[1]).toEqual([code, 'possible', 'false-sync']);
    // Nearly so, and the drift shows it as well.
    const set = { text: '', decibans: 10, group: 'settings', spans: [] };
    const seen = { text: '', decibans: 9, group: 'drift', spans: [{ from: 0, to: 1 }] };
    const standing = (...evidence: Weighed['evidence']) =>
      told({ ...weighed(code, 14), evidence }, weighed('false-sync', 12))[1]![1];
    expect(standing(set, seen)).toBe('likely');
    expect(standing(set)).toBe('possible');
    expect(standing(seen)).toBe('possible');
  },
);

test('a charger that stands back leaves nothing short where the voltage is too high, or wrong for the temperature', () => {
  for (const upstream of ['charge-voltage-high', 'compensation-missing', 'compensation-wrong'] as const)
    expect(told(weighed('premature-float', 14), weighed(upstream, 27))).toEqual([
      [upstream, 'strong'],
      ['premature-float', 'possible', upstream],
    ]);
});

test('of a zero that is off and a charger that bypasses the monitor the surer stands', () => {
  expect(told(weighed('source-not-counted', 11), weighed('current-offset', 34))).toEqual([
    ['current-offset', 'strong'],
    ['source-not-counted', 'possible', 'current-offset'],
  ]);
  expect(told(weighed('source-not-counted', 24), weighed('current-offset', 12))[0]).toEqual([
    'source-not-counted',
    'strong',
  ]);
});

test('where three explain each other all round, the surest stands; of those as sure the one that brings most', () => {
  const round = (scale: number) =>
    explained(
      ['drifting-soc'],
      [weighed('current-offset', 11), weighed('source-not-counted', 11), weighed('current-scale', scale)],
    );
  expect(round(10)[0]).toEqual(['source-not-counted', 'likely']);
  expect(round(13)[0]!.slice(0, 2)).toEqual(['current-scale', 'likely']);
});

test('of causes that are likely one stands at least, whichever three they are', () => {
  const codes = CAUSES.map((one) => one.code);
  const none = codes.flatMap((a, i) =>
    codes.slice(i + 1).flatMap((b, k) =>
      codes.slice(i + k + 2).flatMap((c) =>
        [
          [11, 11, 11],
          [11, 12, 13],
          [13, 11, 12],
        ].filter((decibans) => {
          const all = [a, b, c].map((code, at) => weighed(code, decibans[at]!));
          return explain(all, []).every(({ standing }) => standing === 'possible');
        }),
      ),
    ),
  );
  expect(none).toEqual([]);
});
