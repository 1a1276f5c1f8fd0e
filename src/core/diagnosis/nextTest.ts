/** Which test would settle most for the least work. */

import { duration } from '../quantity/text';
import { MINUTE } from '../quantity/span';
import { FIELD_TESTS, type FieldTest, type TestCode } from '../causes/tests';
import type { TestOutcome } from '../causes/cause';
import type { Weighed } from './weigh';

export interface NextTest {
  test: string;
  title: string;
  how: string;
  minutes: number;
  why: string;
  caution?: string;
  /** Expected reduction of uncertainty, bits. */
  bits: number;
}

export const probabilityOf = (decibans: number): number => 1 / (1 + 10 ** (-decibans / 10));

const entropy = (p: number): number =>
  p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);

/** Less than this is not worth a visit, bits. */
const WORTHWHILE = 0.03;

/**
 * The test with the greatest expected reduction of entropy a minute, over the causes that are neither strong nor excluded.
 * A cause that cannot be told from the log counts with its prior. Null when no test would change much.
 */
export function chooseNextTest(weighed: readonly Weighed[]): NextTest | null {
  const open = weighed.filter((one) => one.standing !== 'strong' && one.standing !== 'excluded');
  const gains = new Map<TestCode, { bits: number; for: Weighed[] }>();
  for (const one of open)
    for (const [test, outcomes] of Object.entries(one.cause.tests) as [TestCode, readonly TestOutcome[]][]) {
      const p = probabilityOf(one.decibans);
      let after = 0;
      for (const { ifHolds, ifNot } of outcomes) {
        const chance = p * ifHolds + (1 - p) * ifNot;
        if (chance > 0) after += chance * entropy((p * ifHolds) / chance);
      }
      const gain = gains.get(test) ?? { bits: 0, for: [] };
      gain.bits += Math.max(0, entropy(p) - after);
      gain.for.push(one);
      gains.set(test, gain);
    }
  let best: NextTest | null = null;
  let bestRate = 0;
  for (const [test, gain] of [...gains].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const field: FieldTest = FIELD_TESTS[test];
    const rate = gain.bits / field.minutes;
    if (gain.bits < WORTHWHILE || rate <= bestRate) continue;
    bestRate = rate;
    const titles = gain.for.map((one) => `“${one.cause.title}”`);
    best = {
      test,
      ...field,
      why: `It takes about ${duration(field.minutes * MINUTE)} and would say most about ${titles.join(' and ')}.`,
      bits: Math.round(gain.bits * 100) / 100,
    };
  }
  return best;
}
