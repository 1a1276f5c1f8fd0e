/** Causes beside what speaks for and against them: what they share, and what each fact that is not known would decide. */

import { DAY } from '../quantity/span';
import type { Diagnosis } from './result';
import { isFound } from './summary';
import type { Standing } from './weigh';

type Finding = Diagnosis['findings'][number];

export interface MatrixColumn {
  cause: Finding['cause'];
  title: string;
  standing: Standing;
  decibans: number;
}

export interface MatrixRow {
  /** The sentence of the column that it weighs most for. */
  text: string;
  spans: [string, string][];
  /** Points for each column, + for and − against; null where it says nothing of it. */
  points: (number | null)[];
  /** The sentence of each column, where it has one of its own. */
  texts: (string | null)[];
  /** It weighs in more than one column. */
  isShared: boolean;
}

export interface MissingFact {
  fact: string;
  /** Titles of the causes that it is missing for, the likeliest first. */
  causes: string[];
}

export interface Matrix {
  columns: MatrixColumn[];
  rows: MatrixRow[];
  missing: MissingFact[];
}

/** More columns than these nobody compares. */
const MOST_COLUMNS = 6;
/** Causes with so many points for them in one sentence are compared although they are unlikely. */
const NOTABLE = 4;

type Item = Finding['evidence'][number];

/** A span of more than a day and this part of all that is shown is the log itself: it tells no observation from another. */
const WHOLE = 0.9;

/** Two sentences are of one observation where they show the same spans, or say the same. */
function keysFor(items: readonly Item[]): (item: Item) => string {
  const moments = items.flatMap(({ spans }) => spans.flat()).map((one) => Date.parse(one));
  const all =
    moments.reduce((r, one) => Math.max(r, one), -Infinity) -
    moments.reduce((r, one) => Math.min(r, one), Infinity);
  const isWhole = ([from, to]: [string, string]) =>
    Date.parse(to) - Date.parse(from) > Math.max(DAY, WHOLE * all);
  return ({ text, spans }) => (spans.length > 0 && !spans.some(isWhole) ? JSON.stringify(spans) : text);
}

/** Empty of columns where no cause has anything for or against it. */
export function matrixOf(findings: readonly Finding[]): Matrix {
  const columns = findings
    .filter((one) => isFound(one) || one.evidence.some(({ decibans }) => decibans >= NOTABLE))
    .filter(({ evidence }) => evidence.length > 0)
    .slice(0, MOST_COLUMNS);
  const keyOf = keysFor(columns.flatMap(({ evidence }) => evidence));
  const rows = new Map<string, MatrixRow & { most: number }>();
  columns.forEach(({ evidence }, column) => {
    for (const item of evidence) {
      const key = keyOf(item);
      const row = rows.get(key) ?? {
        text: item.text,
        spans: item.spans,
        points: columns.map(() => null),
        texts: columns.map(() => null),
        isShared: false,
        most: -1,
      };
      row.points[column] = (row.points[column] ?? 0) + item.decibans;
      row.texts[column] = row.texts[column] ? `${row.texts[column]} ${item.text}` : item.text;
      if (Math.abs(item.decibans) > row.most) {
        row.most = Math.abs(item.decibans);
        row.text = item.text;
      }
      row.isShared = row.points.filter((one) => one !== null).length > 1;
      rows.set(key, row);
    }
  });
  return {
    columns: columns.map(({ cause, title, standing, decibans }) => ({ cause, title, standing, decibans })),
    rows: [...rows.values()]
      .sort((a, b) => Number(b.isShared) - Number(a.isShared) || b.most - a.most)
      .map(({ text, spans, points, texts, isShared }) => ({ text, spans, points, texts, isShared })),
    missing: missingOf(findings),
  };
}

/** What is excluded needs no fact any more. */
function missingOf(findings: readonly Finding[]): MissingFact[] {
  const facts = new Map<string, string[]>();
  for (const { standing, missing, title } of findings)
    if (standing !== 'excluded')
      for (const fact of missing) facts.set(fact, [...(facts.get(fact) ?? []), title]);
  return [...facts]
    .map(([fact, causes]) => ({ fact, causes }))
    .sort((a, b) => b.causes.length - a.causes.length);
}
