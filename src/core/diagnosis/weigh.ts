/** From weighed evidence to a standing for each cause. Standings are independent of each other: several causes may hold at once. */

import type { Cause, Evidence, Observations } from '../causes/cause';
import { missingFamilies } from '../causes/families';
import type { RuledOut } from '../system/schema';
import { evidenceOfChecks } from './checks';
import { evidenceOfVisits } from './onSite';
import { evidenceOfTests } from './testsMade';

export const STANDINGS = ['strong', 'likely', 'possible', 'cannot-tell', 'unlikely', 'excluded'] as const;
export type Standing = (typeof STANDINGS)[number];

export interface Weighed {
  cause: Cause;
  standing: Standing;
  /** Prior and evidence summed, dB. */
  decibans: number;
  evidence: Evidence[];
  missing: string[];
  /** The technician has ruled it out by hand; its evidence stays to be read. */
  ruledOut: Pick<RuledOut, 'on' | 'why'> | null;
}

/** Least total of each standing, dB. */
const LEAST: readonly (readonly [Standing, number])[] = [
  ['strong', 20],
  ['likely', 10],
  ['possible', 0],
  ['unlikely', -10],
];

/** No single item, and no group of items that say the same thing, may weigh more than this, dB. */
const CAP = 15;

export function standingOf(decibans: number): Standing {
  return LEAST.find(([, least]) => decibans >= least)?.[0] ?? 'excluded';
}

export function weighCauses(causes: readonly Cause[], seen: Observations): Weighed[] {
  const { chemistry } = seen.system.bank;
  const complained = ({ cause }: Weighed): boolean => seen.job.complaints.includes(cause.complaint);
  return causes
    .filter(
      (cause) =>
        cause.chemistries === 'all' || (chemistry !== undefined && cause.chemistries.includes(chemistry)),
    )
    .flatMap((cause) => weighCause(cause, seen) ?? [])
    .sort(
      (a, b) =>
        STANDINGS.indexOf(a.standing) - STANDINGS.indexOf(b.standing) ||
        // Of causes that stand alike, those of the complaint come first.
        Number(complained(b)) - Number(complained(a)) ||
        b.decibans - a.decibans ||
        (a.cause.code < b.cause.code ? -1 : 1),
    );
}

function weighCause(cause: Cause, seen: Observations): Weighed | null {
  const lacking = missingFamilies(seen, cause.families);
  const tested = evidenceOfTests(seen.job.tests, cause);
  const evidence = [
    ...tested,
    ...(seen.bank && lacking.length === 0 ? (cause.weigh?.({ ...seen, bank: seen.bank }) ?? []) : []),
    ...(cause.described?.(seen) ?? []),
    ...evidenceOfChecks(seen.job.checks, cause.answers),
    ...evidenceOfVisits(seen, cause.onSite),
  ];
  const missing = [...lacking, ...(seen.bank ? (cause.missing?.(seen, evidence) ?? []) : [])];
  // Nothing was told, found or answered that speaks for it: it is not brought up.
  if (cause.onlyWhenSpokenOf && evidence.every((item) => item.decibans <= 0)) return null;
  const prior = seen.job.complaints.includes(cause.complaint)
    ? cause.prior.complained
    : cause.prior.otherwise;
  const groups = new Map<string, number>();
  for (const item of evidence)
    groups.set(item.group, (groups.get(item.group) ?? 0) + clampTo(CAP, item.decibans));
  let sum = 0;
  for (const [group, total] of groups) sum += clampTo(cause.caps?.[group] ?? CAP, total);
  const decibans = Math.round(prior + sum);
  const sorted = [...evidence].sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans));
  const silent =
    missing.length > 0 &&
    tested.length === 0 &&
    evidence.every((item) => item.decibans <= 0 || item.spans.length === 0);
  const standing = standingOf(decibans);
  // What the log cannot show is not shown as judged, unless the description alone already speaks for it.
  const byHand = seen.job.ruledOut?.findLast((one) => one.cause === cause.code);
  const ruledOut = byHand ? { on: byHand.on, why: byHand.why } : null;
  if (ruledOut) return { cause, standing: 'excluded', decibans, evidence: sorted, missing, ruledOut };
  if (silent && standing !== 'likely' && standing !== 'strong' && !(sum > 0))
    return { cause, standing: 'cannot-tell', decibans, evidence: sorted, missing, ruledOut };
  const lifted = sum <= 0 && (standing === 'strong' || standing === 'likely') ? 'possible' : standing;
  return { cause, standing: lifted, decibans, evidence: sorted, missing, ruledOut };
}

const clampTo = (limit: number, value: number): number => Math.max(-limit, Math.min(limit, value));
