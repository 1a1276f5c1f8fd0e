/** What holds whole recordings in memory takes turns: two are weighed and two are given out at a time, others wait, and not too many. */

import pLimit from 'p-limit';
import { TooMuch } from './threads';

const AT_ONCE = 2;
const MOST_WAITING = 64;

type Kind = 'weighing' | 'giving';
const kept = globalThis as typeof globalThis & { pazienzaTurns?: Record<Kind, pLimit.Limit> };

/** @throws TooMuch when too many wait already */
function inTurn<T>(kind: Kind, work: () => Promise<T>): Promise<T> {
  const turns = (kept.pazienzaTurns ??= { weighing: pLimit(AT_ONCE), giving: pLimit(AT_ONCE) });
  if (turns[kind].pendingCount >= MOST_WAITING)
    throw new TooMuch('Too much is being worked on at the moment: try again later.');
  return turns[kind](work);
}

export const heavy = async <T>(work: () => Promise<T>): Promise<T> => inTurn('weighing', work);

/** Files that are given out have turns of their own: whoever fetches one slowly keeps no job from being opened. */
export const giving = async <T>(work: () => Promise<T>): Promise<T> => inTurn('giving', work);
