/** What is asked of a worker thread and what it answers. */

import type { Series } from '@/core/log/channels';
import type { Table } from '@/core/log/export/columns';
import type { ClockEstimate } from '@/core/log/overlay';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import type { DeviceKind } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import type { Diagnosis, DiagnosisInput } from '@/core/diagnosis/diagnose';

export type ThreadTask =
  | {
      kind: 'read';
      path: string;
      /** As the user knows it, for messages. */
      fileName: string;
      deviceKind: DeviceKind;
      description: LogDescription;
      timeZone: string;
    }
  | { kind: 'analyse'; input: DiagnosisInput }
  | { kind: 'estimate-clock'; first: Series; second: Series }
  | { kind: 'write-parquet'; table: Table };

export type ReadAnswer = {
  kind: 'read';
  plan: ReadPlan;
  /** Its times as they were read. */
  series: Series;
  zoned: boolean;
  rows: number;
  problemCount: number;
  problems: RowProblem[];
};

export type ThreadAnswer =
  | ReadAnswer
  | { kind: 'analysed'; diagnosis: Diagnosis }
  | { kind: 'clock'; estimate: ClockEstimate | null }
  | { kind: 'parquet'; file: Uint8Array }
  /** `ours`: the message is a sentence for the user; otherwise a fault of the program. */
  | { kind: 'failed'; ours: boolean; message: string };
