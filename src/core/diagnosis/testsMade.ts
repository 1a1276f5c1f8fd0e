/** What a technician's tests have come to: each outcome weighs by how likely it is where a cause holds and where it does not. */

import type { Cause, Evidence, TestOutcome } from '../causes/cause';
import { FIELD_TESTS, type TestCode } from '../causes/tests';
import type { Job, TestResult } from '../system/schema';

/** No test decides more than this, dB: hands slip, and meters are read wrong. */
const MOST = 15;

export const isTest = (code: string): code is TestCode => Object.hasOwn(FIELD_TESTS, code);

/** What was found of a cause; null where the test does not ask for it, or nobody looked. */
export function outcomeFor({ test, outcomes }: TestResult, cause: Cause): TestOutcome | null {
  const found = outcomes[cause.code];
  return found === undefined || !isTest(test) ? null : (cause.tests[test]?.[found] ?? null);
}

export const decibansOf = ({ ifHolds, ifNot }: TestOutcome): number =>
  Math.max(-MOST, Math.min(MOST, Math.round(10 * Math.log10(ifHolds / ifNot))));

export function evidenceOfTests(tests: Job['tests'], cause: Cause): Evidence[] {
  return (tests ?? []).flatMap((result): Evidence[] => {
    const outcome = outcomeFor(result, cause);
    if (!outcome || !isTest(result.test)) return [];
    return [
      {
        text: `Tested on ${result.on} (${FIELD_TESTS[result.test].title.toLowerCase()}): ${outcome.name}.`,
        decibans: decibansOf(outcome),
        // Of a test that was made twice the two results count together, within the cap.
        group: `test-${result.test}`,
        spans: [],
      },
    ];
  });
}

export interface TestMade {
  test: string;
  title: string;
  on: string;
  /** What was found, a sentence for each. */
  found: string[];
  note: string | null;
}

/** The tests that were made, in words, in the order in which they were written down. */
export function testsMade(tests: Job['tests'], causes: readonly Cause[]): TestMade[] {
  return (tests ?? []).map((result) => ({
    test: result.test,
    title: isTest(result.test) ? FIELD_TESTS[result.test].title : result.test,
    on: result.on,
    found: [...new Set(causes.flatMap((cause) => outcomeFor(result, cause)?.name ?? []))],
    note: result.note ?? null,
  }));
}

/** One line for each, for the report and the terminal. */
export const testLine = ({ on, title, found, note }: TestMade): string =>
  `${on}, ${title.toLowerCase()}: ${found.join('; ')}.${note ? ` ${note}` : ''}`;
