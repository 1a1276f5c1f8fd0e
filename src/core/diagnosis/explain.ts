/**
 * One fault explains another: resistance in the path makes absorption end early, a charger that gives half looks like a source too small.
 * What is explained is not shown as likely beside its cause: it is told as its consequence, and the fault upstream comes first. A
 * consequence that is true all the same, and that the owner complains of, keeps its standing behind its cause.
 */

import { ON_PAPER } from '../causes/drifting';
import type { CauseCode } from '../causes/codes';
import type { Complaint } from '../system/schema';
import type { Weighed } from './weigh';

/** Fault upstream, and what it brings with it. */
const BRINGS: Partial<Record<CauseCode, readonly CauseCode[]>> = {
  'charge-path-drop': [
    'absorption-too-short',
    'tail-threshold-high',
    'charge-voltage-low',
    'charge-voltage-high',
    'source-too-small',
    'premature-float',
  ],
  'cold-charge-block': ['source-too-small', 'source-derated', 'charge-voltage-low', 'runner-stops-charge'],
  'runner-stops-charge': [
    'source-too-small',
    'charge-voltage-low',
    'charge-voltage-high',
    'absorption-too-short',
  ],
  // What gives half stands still at a voltage that it cannot lift.
  'source-derated': ['source-too-small', 'absorption-too-short', 'charge-voltage-low'],
  'compensation-wrong': [
    'charge-voltage-low',
    'charge-voltage-high',
    'float-unsuited',
    'compensation-missing',
    'fake-full',
    'premature-float',
  ],
  'compensation-missing': [
    'charge-voltage-low',
    'charge-voltage-high',
    'float-unsuited',
    'fake-full',
    'absorption-too-short',
    'premature-float',
  ],
  'premature-float': [
    'absorption-too-short',
    'tail-threshold-high',
    'charge-voltage-high',
    'source-too-small',
  ],
  'charge-voltage-low': [
    'source-too-small',
    'absorption-too-short',
    'tail-threshold-high',
    'float-unsuited',
    'premature-float',
  ],
  // Above its range lead gasses, and the current never falls: a charger that stands back then leaves nothing short.
  'charge-voltage-high': [
    'absorption-too-short',
    'tail-threshold-high',
    'tail-unreached',
    'premature-float',
    'source-too-small',
    'current-offset',
  ],
  // A float that gasses takes a current for ever.
  'float-unsuited': ['current-offset'],
  'load-through-absorption': ['absorption-too-short', 'tail-threshold-high'],
  'fake-full': ['absorption-too-short'],
};

/** Errors of counting that a wrong or missing current looks like. The voltage that is never reached is none: no current makes that. */
const COUNTED_WRONG = [
  'capacity-wrong',
  'efficiency-wrong',
  'peukert-wrong',
  'current-offset',
  'false-sync',
  'tail-unreached',
  'never-started',
  'full-too-rarely',
] as const satisfies readonly CauseCode[];

/** What a wrong current makes of charges that are right. */
const CHARGED_WRONG = [
  'absorption-too-short',
  'tail-threshold-high',
  'source-too-small',
  'source-derated',
  'load-through-absorption',
  'premature-float',
  'fake-full',
] as const satisfies readonly CauseCode[];

const COUNT_BRINGS: Partial<Record<CauseCode, readonly CauseCode[]>> = {
  'sensor-reversed': [
    ...COUNTED_WRONG,
    'current-scale',
    'source-not-counted',
    'load-not-counted',
    ...CHARGED_WRONG,
  ],
  'current-scale': [...COUNTED_WRONG, ...CHARGED_WRONG, 'source-not-counted', 'load-not-counted'],
  'source-not-counted': [...COUNTED_WRONG, ...CHARGED_WRONG, 'current-scale'],
  'load-not-counted': [...COUNTED_WRONG, 'absorption-too-short', 'tail-threshold-high'],
  'voltage-guess': [
    ...COUNTED_WRONG,
    'charged-voltage-unreached',
    'bulk-end-reset',
    'monitor-restarted',
    'current-scale',
  ],
  'bulk-end-reset': [
    ...COUNTED_WRONG,
    'charged-voltage-unreached',
    'current-scale',
    'source-not-counted',
    'load-not-counted',
    'monitor-restarted',
    'voltage-guess',
    ...CHARGED_WRONG,
  ],
  'half-bank': [
    ...COUNTED_WRONG,
    'charged-voltage-unreached',
    ...CHARGED_WRONG,
    'current-scale',
    'source-not-counted',
    'load-not-counted',
  ],
  'monitor-restarted': ['never-started', 'false-sync', 'full-too-rarely'],
  'false-sync': ['capacity-wrong', 'efficiency-wrong', 'current-offset', 'peukert-wrong', 'never-started'],
  // What only looks full is no state to count from.
  'fake-full': ['capacity-wrong', 'efficiency-wrong', 'current-offset', 'peukert-wrong'],
  'charged-voltage-unreached': ['full-too-rarely', 'never-started'],
  'tail-unreached': ['full-too-rarely', 'never-started'],
  'cold-charge-block': ['false-sync', 'never-started', 'full-too-rarely'],
  'runner-stops-charge': ['false-sync', 'never-started', 'full-too-rarely', 'charged-voltage-unreached'],
  // A zero that is off shows current out of a battery that its chargers hold.
  'current-offset': [
    'source-not-counted',
    'never-started',
    'full-too-rarely',
    'efficiency-wrong',
    'tail-unreached',
    'absorption-too-short',
    'tail-threshold-high',
  ],
  // Both look alike where the log has few full charges: the surer stands.
  'efficiency-wrong': ['current-offset'],
  'never-started': ['full-too-rarely'],
  // What never fills the battery never sets the reading right.
  'absorption-too-short': ['tail-unreached'],
  'tail-threshold-high': ['tail-unreached'],
  'charge-voltage-low': ['charged-voltage-unreached'],
  'charge-path-drop': ['charged-voltage-unreached', 'tail-unreached'],
  'float-unsuited': ['charged-voltage-unreached'],
};

const CUT_BRINGS: Partial<Record<CauseCode, readonly CauseCode[]>> = {
  // What is never filled is empty soon.
  'source-too-small': ['really-empty', 'never-started'],
  'source-derated': ['really-empty', 'never-started'],
  'cold-charge-block': ['really-empty'],
  'load-path-drop': ['cutoff-set-high', 'surge-trip'],
  // It takes its charge more slowly than the time for a good battery allows.
  'battery-resistance': ['cutoff-set-high', 'rate-expected', 'absorption-too-short'],
  'cold-battery': ['cutoff-set-high', 'rate-expected'],
  // The reading counts the whole battery; a low cell ends it before.
  'weak-cell': ['really-empty', 'capacity-lost', 'cell-imbalance', 'capacity-wrong', 'never-started'],
  'cell-imbalance': ['really-empty', 'capacity-lost', 'capacity-wrong', 'never-started'],
  // A battery that holds less is empty and full sooner than any count has it.
  'capacity-lost': ['really-empty', 'rate-expected', 'current-offset'],
};

/** Facts that hold all the same where these alone brought them: what is never filled is empty, and its reading began anywhere. */
const HOLDS: Partial<Record<CauseCode, readonly CauseCode[]>> = {
  'really-empty': ['source-too-small', 'source-derated', 'cold-charge-block'],
  'never-started': ['source-too-small', 'source-derated', 'charged-voltage-unreached', 'tail-unreached'],
  'absorption-too-short': ['battery-resistance'],
  // A float that is wrong does not put the zero right.
  'current-offset': ['float-unsuited', 'charge-voltage-high'],
};

/** Settings that are wrong whatever else is. */
const SETTINGS: readonly CauseCode[] = ['capacity-wrong', 'efficiency-wrong', 'peukert-wrong'];
/** Or nearly so, where the drift shows it as well. */
const NEARLY = { onPaper: 10, drift: 9 };
function isOnPaper({ cause, evidence }: Weighed): boolean {
  if (!SETTINGS.includes(cause.code)) return false;
  const most = (isSeen: boolean) =>
    Math.max(
      0,
      ...evidence.filter(({ spans }) => isSeen === spans.length > 0).map(({ decibans }) => decibans),
    );
  return most(false) >= ON_PAPER || (most(false) >= NEARLY.onPaper && most(true) >= NEARLY.drift);
}

const shown = ({ standing }: Weighed): boolean => standing === 'strong' || standing === 'likely';

export interface Explained extends Weighed {
  /** Codes of the faults that bring it with them, foremost first. */
  explainedBy: CauseCode[];
}

const brings = (code: CauseCode): readonly CauseCode[] => [
  ...(BRINGS[code] ?? []),
  ...(COUNT_BRINGS[code] ?? []),
  ...(CUT_BRINGS[code] ?? []),
];

/** Of two faults of counting the much surer is not explained by the other. */
const MUCH = 10;
/** Of two that explain each other the surer does; of two as sure the one that brings more. */
const isFirst = (upstream: Weighed, one: Weighed): boolean =>
  !brings(one.cause.code).includes(upstream.cause.code) || surer(upstream, one) < 0;
const surer = (a: Weighed, b: Weighed): number =>
  b.decibans - a.decibans ||
  brings(b.cause.code).length - brings(a.cause.code).length ||
  (a.cause.code < b.cause.code ? -1 : 1);

const isNoWeaker = (upstream: Weighed, one: Weighed): boolean =>
  one.cause.complaint !== 'drifting-soc' ||
  upstream.cause.complaint !== 'drifting-soc' ||
  upstream.decibans >= one.decibans - MUCH;

/**
 * Weighed causes, those that another explains taken down to possible at most and put behind it.
 * @param complaints of the owner
 */
export function explain(weighed: readonly Weighed[], complaints: readonly Complaint[]): Explained[] {
  const upstream = weighed.filter(shown);
  const explainers = new Map(
    weighed.map((one) => [
      one.cause.code,
      upstream
        .filter(
          (other) =>
            brings(other.cause.code).includes(one.cause.code) &&
            isFirst(other, one) &&
            isNoWeaker(other, one),
        )
        .map((other) => other.cause.code),
    ]),
  );
  breakCircles(upstream, explainers);
  return weighed
    .map((one): Explained => {
      const explainedBy = explainers.get(one.cause.code)!;
      // What is not even possible comes with nothing.
      if (explainedBy.length === 0 || (!shown(one) && one.standing !== 'possible'))
        return { ...one, explainedBy: [] };
      const stands =
        isOnPaper(one) ||
        (complaints.includes(one.cause.complaint) &&
          explainedBy.every((code) => HOLDS[one.cause.code]?.includes(code)));
      return { ...one, standing: stands ? one.standing : 'possible', explainedBy };
    })
    .sort(
      (a, b) =>
        Number(shown(b)) - Number(shown(a)) ||
        (shown(a) ? Number(a.explainedBy.length > 0) - Number(b.explainedBy.length > 0) : 0),
    );
}

/** Where each of several explains the next, all round, the surest of them stands for itself. */
function breakCircles(upstream: readonly Weighed[], explainers: Map<CauseCode, CauseCode[]>): void {
  for (;;) {
    const rooted = new Set<CauseCode>();
    const reaches = ({ cause: { code } }: Weighed) =>
      !rooted.has(code) &&
      (explainers.get(code)!.length === 0 || explainers.get(code)!.some((by) => rooted.has(by)));
    for (let one = upstream.find(reaches); one; one = upstream.find(reaches)) rooted.add(one.cause.code);
    const [first] = upstream.filter(({ cause }) => !rooted.has(cause.code)).sort(surer);
    if (!first) return;
    explainers.set(first.cause.code, []);
  }
}
