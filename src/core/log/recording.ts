/** A recording as lists and strips know it: everything but its samples. */

import type { Channel } from './channels';
import type { RowProblem } from './readCsv';

export interface RecordingInfo {
  id: string;
  device: string;
  fileName: string;
  rowCount: number;
  problemCount: number;
  problems: RowProblem[];
  sampleCount: number;
  /** Epoch ms of the first and last sample. */
  from: number;
  to: number;
  channels: Channel[];
}
