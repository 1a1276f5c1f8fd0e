/** What is asked of a worker thread and what it answers. */

import type { Change } from '@/core/bundle/schema';
import type { SystemRecords } from '@/core/records/records';
import type { LogQuestion } from '@/core/log/answers';
import type { Series } from '@/core/log/channels';
import type { Table } from '@/core/log/export/columns';
import type { ClockEstimate } from '@/core/log/overlay';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import type { DeviceKind } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import type { Observed } from '@/core/diagnosis/observe';
import type { Job, System } from '@/core/system/schema';
import type { Report } from '@/ui/report/sections';
import type { VisitSheet } from '@/ui/report/visitSheet';

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
  | { kind: 'observe'; system: System; series: Series[] }
  | { kind: 'estimate-clock'; first: Series; second: Series }
  | { kind: 'write-parquet'; table: Table }
  /** The bundle at a path, to be unpacked into a folder that is not there yet. */
  | { kind: 'open-bundle'; path: string; folder: string }
  | { kind: 'photo'; bytes: Uint8Array }
  /** Photos are JPEGs by their ids. */
  | { kind: 'draw-report'; report: Report; photos: ReadonlyMap<string, Uint8Array> }
  | { kind: 'draw-sheet'; sheet: VisitSheet; photos: ReadonlyMap<string, Uint8Array> };

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

/** A JPEG without metadata. */
export interface SmallPhoto {
  width: number;
  height: number;
  data: Uint8Array;
}

/** What a bundle holds; its logs lie unpacked on disk. */
export interface OpenedBundle {
  job: Job;
  system: System;
  changes: Change[];
  records: SystemRecords;
  photos: { check: string; photo: SmallPhoto }[];
  logs: { fileName: string; path: string; size: number; description: LogDescription }[];
  /** What of it would not be taken in, as sentences. */
  left: string[];
}

export type ThreadAnswer =
  | ReadAnswer
  | { kind: 'observed'; observed: Observed }
  | { kind: 'clock'; estimate: ClockEstimate | null }
  | { kind: 'parquet'; file: Uint8Array }
  | { kind: 'bundle'; bundle: OpenedBundle }
  | { kind: 'photo'; photo: SmallPhoto | null }
  | { kind: 'report'; file: Uint8Array }
  /** `ours`: the message is a sentence for the user; otherwise a fault of the program. */
  | { kind: 'failed'; ours: boolean; message: string; question?: LogQuestion };
