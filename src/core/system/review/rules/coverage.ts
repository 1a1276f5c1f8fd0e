/** Does the monitor see each source and each load? */

import type { Note, Rule } from '../rule';
import type { LoadView, SourceView, Subject } from '../subject';

/** What follows when a device is not counted; null when it is, or when nothing counts current here. */
function unseen(s: Subject, { name, ask }: SourceView | LoadView, why: string): Note | null {
  const method = s.system.monitor?.method;
  if (!s.system.monitor || method === 'voltage' || method === 'source-count') return null;
  if ((ask as (key: 'counted') => boolean)('counted')) return null;
  return {
    weight: 'fault',
    text: `${name} is not counted by the monitor.`,
    why,
    fix: `Move the negative of ${name} to the other side of the ${method === 'hall' ? 'sensor' : 'shunt'}: exactly one conductor may run from the battery negative to it.`,
    hazard: 'uncounted-conductor-on-battery-post',
  };
}

export const sourceCoverage: Rule = {
  code: 'source-coverage',
  says: 'sources that the monitor cannot see',
  on: 'source',
  review: (s, source) =>
    unseen(
      s,
      source,
      'What it charges is never counted: the reading falls while the battery is full, and a cut-off by percentage then shuts the site down for nothing.',
    ),
};

export const loadCoverage: Rule = {
  code: 'load-coverage',
  says: 'loads that the monitor cannot see',
  on: 'load',
  review: (s, load) =>
    unseen(s, load, 'What it draws is never counted: the reading stays high while the battery empties.'),
};
