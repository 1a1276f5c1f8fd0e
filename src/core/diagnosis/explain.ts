/**
 * One fault explains another: resistance in the path makes absorption end early, a charger that gives half looks like a source too small.
 * What is explained is not shown as likely beside its cause: it is told as its consequence, and the fault upstream comes first.
 */

import type { CauseCode } from '../causes/codes';
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
  'source-derated': ['source-too-small', 'absorption-too-short'],
  'compensation-wrong': [
    'charge-voltage-low',
    'charge-voltage-high',
    'float-unsuited',
    'compensation-missing',
    'fake-full',
  ],
  'compensation-missing': ['charge-voltage-low', 'charge-voltage-high', 'float-unsuited', 'fake-full'],
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
  'load-through-absorption': ['absorption-too-short', 'tail-threshold-high'],
  'fake-full': ['absorption-too-short'],
};

const shown = ({ standing }: Weighed): boolean => standing === 'strong' || standing === 'likely';

export interface Explained extends Weighed {
  /** Codes of the faults that bring it with them, foremost first. */
  explainedBy: CauseCode[];
}

/** Weighed causes, those that another explains taken down to possible at most and put behind it. */
export function explain(weighed: readonly Weighed[]): Explained[] {
  const upstream = weighed.filter(shown);
  return weighed
    .map((one): Explained => {
      const explainedBy = upstream
        .filter((other) => BRINGS[other.cause.code]?.includes(one.cause.code))
        .map((other) => other.cause.code);
      // What is not even possible comes with nothing.
      if (explainedBy.length === 0 || (!shown(one) && one.standing !== 'possible'))
        return { ...one, explainedBy: [] };
      return { ...one, standing: 'possible', explainedBy };
    })
    .sort((a, b) => Number(shown(b)) - Number(shown(a)));
}
