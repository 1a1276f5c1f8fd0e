/** Causes against evidence. */

import { matrixOf } from './matrix';
import type { Diagnosis } from './result';

type Finding = Diagnosis['findings'][number];
const SPAN: [string, string] = ['2026-09-21T10:00:00Z', '2026-09-21T11:00:00Z'];

const finding = (
  cause: Finding['cause'],
  standing: Finding['standing'],
  some: Partial<Finding> = {},
): Finding => ({
  cause,
  title: `About ${cause}`,
  complaint: 'undercharging',
  standing,
  decibans: 0,
  evidence: [],
  missing: [],
  explainedBy: [],
  ruledOut: null,
  remedy: null,
  tests: [],
  caveats: [],
  ...some,
});
const says = (text: string, decibans: number, spans: [string, string][] = []) => ({ text, decibans, spans });

const findings = [
  finding('absorption-too-short', 'likely', {
    evidence: [says('It lasted 60 min.', 9, [SPAN]), says('The sun went on.', 2)],
    missing: ['the battery’s own current'],
  }),
  finding('tail-threshold-high', 'possible', {
    evidence: [says('It ended at 9 A.', 5, [SPAN]), says('The sun went on.', -6)],
    missing: ['the battery’s own current', 'the charger’s tail'],
  }),
  finding('source-too-small', 'unlikely', {
    evidence: [says('Charge sinks.', 1)],
    missing: ['a week of log'],
  }),
  finding('charge-voltage-low', 'excluded', {
    evidence: [says('It holds 14.4 V.', -20)],
    missing: ['nothing'],
  }),
  finding('source-derated', 'cannot-tell', { missing: ['a week of log'] }),
];
const { columns, rows, missing } = matrixOf(findings);

test('columns are causes worth a comparison', () => {
  expect(columns.map((one) => one.cause)).toEqual(['absorption-too-short', 'tail-threshold-high']);
});

test('an observation stands once, by its spans or its words, with the points that each cause gives it', () => {
  expect(rows.map((one) => [one.text, one.points, one.isShared])).toEqual([
    ['It lasted 60 min.', [9, 5], true],
    ['The sun went on.', [2, -6], true],
  ]);
  expect(rows[0]!.texts).toEqual(['It lasted 60 min.', 'It ended at 9 A.']);
});

test('points of a column are those of its evidence: none is lost, none counted twice', () => {
  columns.forEach((column, k) => {
    const { evidence } = findings.find((one) => one.cause === column.cause)!;
    const sum = rows.reduce((total, row) => total + (row.points[k] ?? 0), 0);
    expect(sum).toBe(evidence.reduce((total, one) => total + one.decibans, 0));
  });
});

test('a fact that is missing names what it would decide; what is excluded asks for nothing', () => {
  expect(missing).toEqual([
    {
      fact: 'the battery’s own current',
      causes: ['About absorption-too-short', 'About tail-threshold-high'],
    },
    { fact: 'a week of log', causes: ['About source-too-small', 'About source-derated'] },
    { fact: 'the charger’s tail', causes: ['About tail-threshold-high'] },
  ]);
});

test('without evidence there is nothing to compare', () => {
  expect(matrixOf([finding('source-derated', 'cannot-tell')])).toMatchObject({ columns: [], rows: [] });
});

test('what shows the whole log is no one observation for that', () => {
  const log: [string, string] = ['2026-09-20T00:00:00Z', '2026-09-30T00:00:00Z'];
  const { rows: of } = matrixOf([
    finding('source-not-counted', 'likely', {
      evidence: [says('Its steps are not shown.', 15, [log]), says('It never shows a charge.', 4, [log])],
    }),
    finding('voltage-guess', 'unlikely', {
      evidence: [says('It counts well.', -12, [log]), says('It jumped.', 9, [SPAN])],
    }),
  ]);
  expect(of.map((one) => [one.text, one.points])).toEqual([
    ['Its steps are not shown.', [15, null]],
    ['It counts well.', [null, -12]],
    ['It jumped.', [null, 9]],
    ['It never shows a charge.', [4, null]],
  ]);
});
