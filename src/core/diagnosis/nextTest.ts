/** Which tests would settle most for the least work. */

import { duration } from '../quantity/text';
import { MINUTE } from '../quantity/span';
import { FIELD_TESTS, type FieldTest, type TestCode } from '../causes/tests';
import type { TestOutcome } from '../causes/cause';
import type { CauseCode } from '../causes/codes';
import type { Weighed } from './weigh';

/** What a test asks, once for all causes that ask the same. */
export interface Question {
  causes: CauseCode[];
  /** What it is about, as the causes are called. */
  about: string;
  outcomes: string[];
}

export interface NextTest {
  test: TestCode;
  title: string;
  how: string;
  minutes: number;
  why: string;
  caution?: string;
  /** Expected reduction of uncertainty, bits. */
  bits: number;
  asks: Question[];
}

export const probabilityOf = (decibans: number): number => 1 / (1 + 10 ** (-decibans / 10));

const entropy = (p: number): number =>
  p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);

/** Expected reduction of the entropy of one cause by one test, bits. */
function gainOf(p: number, outcomes: readonly TestOutcome[]): number {
  let after = 0;
  for (const { ifHolds, ifNot } of outcomes) {
    const chance = p * ifHolds + (1 - p) * ifNot;
    if (chance > 0) after += chance * entropy((p * ifHolds) / chance);
  }
  return Math.max(0, entropy(p) - after);
}

/** Less than this is not worth a visit, bits. */
const WORTHWHILE = 0.03;

/**
 * Tests by their expected reduction of entropy a minute, the best first, over the causes that are neither strong nor excluded.
 * A cause that cannot be told from the log counts with its prior. Empty when no test would change much.
 * @param without tests that were made already, or whose gear is not at hand
 */
export function rankTests(weighed: readonly Weighed[], without: readonly string[] = []): NextTest[] {
  const open = weighed.filter((one) => one.standing !== 'strong' && one.standing !== 'excluded');
  const gains = new Map<TestCode, { bits: number; for: { cause: Weighed; bits: number }[] }>();
  for (const one of open)
    for (const [test, outcomes] of Object.entries(one.cause.tests) as [TestCode, readonly TestOutcome[]][]) {
      const bits = gainOf(probabilityOf(one.decibans), outcomes);
      const gain = gains.get(test) ?? { bits: 0, for: [] };
      gain.bits += bits;
      gain.for.push({ cause: one, bits });
      gains.set(test, gain);
    }
  return [...gains]
    .filter(([test, { bits }]) => bits >= WORTHWHILE && !without.includes(test))
    .map(([test, gain]) => {
      const field: FieldTest = FIELD_TESTS[test];
      const byGain = gain.for.sort((a, b) => b.bits - a.bits).map((one) => one.cause);
      return {
        test,
        ...field,
        why: whyText(field, byGain),
        bits: Math.round(gain.bits * 100) / 100,
        asks: questionsOf(test, byGain),
        rate: gain.bits / field.minutes,
      };
    })
    .sort((a, b) => b.rate - a.rate || (a.test < b.test ? -1 : 1))
    .map(({ rate: _, ...test }) => test);
}

/** So many causes are named; of more only their number. */
const NAMED = 3;

function whyText({ minutes }: FieldTest, causes: readonly Weighed[]): string {
  const named = causes.slice(0, NAMED).map((one) => `“${one.cause.title}”`);
  const more = causes.length - named.length;
  const list = more > 0 ? [...named, `${more} more`] : named;
  const last = list.pop()!;
  return `It takes about ${duration(minutes * MINUTE)} and says most about ${list.length > 0 ? `${list.join(', ')} and ${last}` : last}.`;
}

/** Causes with the same outcomes are asked for together. */
function questionsOf(test: TestCode, causes: readonly Weighed[]): Question[] {
  const questions = new Map<string, Question>();
  for (const { cause } of causes) {
    const outcomes = cause.tests[test]!.map((one) => one.name);
    const key = [...outcomes].sort().join('|');
    const known = questions.get(key);
    if (known && known.outcomes.join('|') === outcomes.join('|')) {
      known.causes.push(cause.code);
      known.about += `; ${cause.title}`;
    } else
      questions.set(`${key}${known ? cause.code : ''}`, {
        causes: [cause.code],
        about: cause.title,
        outcomes,
      });
  }
  return [...questions.values()];
}
