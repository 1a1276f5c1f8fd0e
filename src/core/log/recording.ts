/** A recording as lists and strips know it: everything but its samples. */

import type { Channel } from './channels';
import type { Clock } from './clock';
import type { RowProblem } from './readCsv';

export interface RecordingInfo {
  id: string;
  device: string;
  fileName: string;
  rowCount: number;
  problemCount: number;
  /** The first few. */
  problems: RowProblem[];
  /** Whether times were written without an offset, so that the zone matters. */
  zoned: boolean;
  clock: Clock;
  /** Goes up whenever the clock is set. */
  clockVersion: number;
  /** Recordings that were taken away when this one came in their place. */
  replaces: string[];
  /** Why it is left out when the job is weighed; null when it is not. */
  unweighed: string | null;
  sampleCount: number;
  /** Epoch ms of the first and last sample. */
  from: number;
  to: number;
  channels: Channel[];
}
