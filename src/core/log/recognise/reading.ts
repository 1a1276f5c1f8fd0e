/** What a log was recognised as. */

import type { TimeReading } from '../chooseTime';
import type { ReadChannel } from '../channels';
import type { Dialect } from '../sniff';

export type Sureness = 'certain' | 'likely' | 'ask';
export type DeviceKind = 'source' | 'load' | 'monitor' | 'bms';

export interface ColumnReading {
  index: number;
  heading: string;
  /** 'time', a channel, or null for a column that is left out. */
  role: 'time' | ReadChannel | null;
  /** Multiplied with the number in the file, after `offset` was subtracted. */
  scale: number;
  offset: number;
  invert: boolean;
  sure: Sureness;
  /** Why a column is asked about, as a sentence. */
  question?: string;
  /** Words in a column of stages that are not known. */
  unknownWords?: string[];
  samples: string[];
}

export interface LogReading {
  dialect: Dialect;
  columns: ColumnReading[];
  time: TimeReading | null;
}
