/** Does the monitor see each source and each load? */

import type { Monitor, Source } from '../../schema';
import { hasSensor } from '../../sensor';
import type { Note, Rule } from '../rule';
import type { LoadView, SourceView, Subject } from '../subject';

/** What follows when a device is not counted; null when it is, or when nothing counts current here. */
function unseen(s: Subject, { name, ask, raw }: SourceView | LoadView, why: string): Note | null {
  const { monitor } = s.system;
  if (!monitor || !hasSensor(monitor)) return null;
  if ((ask as (key: 'counted') => boolean)('counted')) return null;
  return {
    weight: 'fault',
    text: `${name} is not counted by the monitor.`,
    why,
    fix: remedy(monitor.method, name, 'across' in raw ? raw.across : undefined),
    hazard: 'uncounted-conductor-on-battery-post',
  };
}

/** What can be done about it: a charger of one half has a pole at the midpoint, and no shunt at the negative post can see its whole loop. */
function remedy(method: Monitor['method'], name: string, across: Source['across']): string {
  if (across === 'lower' || across === 'upper')
    return `${name} charges the ${across} half alone: its current never flows through the whole bank. Either one sensor sits between the halves, where the loops of both chargers pass; or one half is counted and stands for both while they stay equal; or the whole bank is counted and synchronised by hand after each complete charge.`;
  return method === 'hall'
    ? `Lead the conductor of ${name} through the clip-on sensor as well, together with the battery’s own, so that charging reads positive; nothing else may reach the battery past it.`
    : `Move the negative of ${name} to the other side of the shunt: exactly one conductor may run from the battery negative to it.`;
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
