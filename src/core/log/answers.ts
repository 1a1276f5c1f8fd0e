/** What only a person can say of a log whose bytes or times are not as they should be. */

import type { Span } from '../quantity/span';
import { NotALog } from './sniff';

export const LOG_ANSWERS = {
  /** Many rows lie years away from the rest: leave them out, or take all as they are. */
  strayRows: ['leave-out', 'keep'],
  /** The packed file is damaged after some row: keep what came before. */
  damaged: ['keep-whole-rows'],
} as const;

export interface LogAnswers {
  strayRows?: (typeof LOG_ANSWERS.strayRows)[number] | undefined;
  damaged?: (typeof LOG_ANSWERS.damaged)[number] | undefined;
}

/** What has to be asked before a log can be taken in. */
export type LogQuestion =
  | { kind: 'stray-rows'; rows: number; of: number; stray: Span; rest: Span }
  | { kind: 'damaged'; rows: number; where: string };

/** A log cannot be read on before somebody has answered. The message asks, and says how to answer in a bundle. */
export class LogAsks extends NotALog {
  constructor(
    readonly question: LogQuestion,
    message: string,
  ) {
    super(message);
  }
}
