/** The tables as Kysely types. Migrations make them; `systems.description` and `jobs.details` are the core's Zod types. */

import type { ColumnType, Generated, RawBuilder } from 'kysely';
import type { Change } from '@/core/bundle/schema';
import type { Complaint, Job, System } from '@/core/system/schema';
import type { Standing } from '@/core/diagnosis/weigh';
import type { Clock } from '@/core/log/clock';
import type { IntakeQuestion, IntakeState, OverlapAnswer, Recipe } from '@/core/log/intake';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import type { LogDescription } from '@/core/log/takeIn';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordKind, RecordOf } from '@/core/records/records';

type Json<T> = ColumnType<T, string, string>;
type Created = ColumnType<Date, never, never>;

export interface SystemsTable {
  id: Generated<string>;
  /** Set for demo systems, so that seeding twice changes nothing. */
  slug: string | null;
  description: Json<System>;
  /** Out of the description. `shelf` is what systems are sorted by: owner (nobody's last), then name. */
  name: ColumnType<string, never, never>;
  owner: ColumnType<string | null, never, never>;
  shelf: ColumnType<string, never, never>;
  /** Goes up with each change: whoever saves says which version was changed. */
  version: Generated<number>;
  changed_at: ColumnType<Date, never, RawBuilder<Date>>;
  created_at: Created;
}

export interface JobsTable {
  id: Generated<string>;
  system_id: string;
  details: Json<Job>;
  /** Out of the details. */
  title: ColumnType<string, never, never>;
  complaints: ColumnType<Complaint[], never, never>;
  /** Title, system and customer, for searching. */
  search: ColumnType<string, never, never>;
  opened_at: ColumnType<Date, string, string>;
  version: Generated<number>;
  changed_at: ColumnType<Date, never, RawBuilder<Date>>;
  /** Set when the job was removed; until it is cleaned up, removal can be undone. */
  removed_at: ColumnType<Date | null, never, RawBuilder<Date> | null>;
  created_at: Created;
}

export interface RecordingsTable {
  id: Generated<string>;
  job_id: string;
  device: string;
  file_name: string;
  sha256: string;
  /** How the file was read, kept so that it can be read again in the same way. */
  plan: Json<ReadPlan>;
  row_count: number;
  problem_count: number;
  problems: Json<RowProblem[]>;
  sample_count: number;
  /** Epoch ms of the first and last sample. */
  from_ms: number;
  to_ms: number;
  channels: string[];
  /** How the times are set. Chunks of 'time' hold them so, those of 'time_read' as they were read, where that differs. */
  clock: Json<Clock>;
  /** Goes up whenever the clock is set: what was made from the times is stale then. */
  clock_version: Generated<number>;
  /** Whether times were written without an offset, so that the zone matters. */
  zoned: boolean;
  /** Recordings that were taken away when this one came in their place. */
  replaces: string[];
  /** Why it is left out when the job is weighed, as a sentence. */
  unweighed: string | null;
  /** False for those that overlapped others of their device before that was kept out. */
  apart: Generated<boolean>;
  removed_at: ColumnType<Date | null, never, RawBuilder<Date> | null>;
  created_at: Created;
}

export interface RecordingChunksTable {
  recording_id: string;
  /** A channel, 'time', or 'time_read'. */
  channel: string;
  sequence: number;
  sample_count: number;
  /** Samples that are not missing. */
  known_count: number;
  from_ms: number;
  to_ms: number;
  /** Over known samples; null when there are none. */
  minimum: number | null;
  maximum: number | null;
  total: number;
  /** Little-endian Float32 values, or Float64 epoch ms for 'time'. */
  data: Buffer;
  /** Minimum, then maximum, of every 64 samples, Float32; for 'time' the first time of every 64, Float64. */
  summary: Buffer;
}

export interface IntakesTable {
  id: Generated<string>;
  job_id: string;
  file_name: string;
  /** Bytes; the driver gives 64-bit integers as text. */
  size: ColumnType<string, number, never>;
  /** When the file was last changed, epoch ms. */
  modified: ColumnType<string, number, never>;
  description: Json<LogDescription>;
  /** Out of the description. */
  device: ColumnType<string, never, never>;
  received: ColumnType<string, number | undefined, number>;
  state: IntakeState;
  overlap: OverlapAnswer | null;
  question: ColumnType<IntakeQuestion | null, string | null, string | null>;
  problem: string | null;
  recording_id: string | null;
  created_at: Created;
  changed_at: ColumnType<Date, never, RawBuilder<Date>>;
}

export interface IntakePartsTable {
  intake_id: string;
  /** Where in the file it begins, bytes. */
  at: ColumnType<string, number, never>;
  data: Buffer;
}

export interface RecipesTable {
  /** SHA-256 of kind of device, delimiter and headings. */
  fingerprint: string;
  reading: Json<Recipe>;
  /** Of the log that it was last confirmed with. */
  file_name: string;
  confirmed_at: ColumnType<Date, never, RawBuilder<Date>>;
}

/** What the logs of a job show, as the core observed it. */
export interface ObservationsTable {
  job_id: string;
  /** Recordings with their clocks, system and core, in one word. */
  made_from: string;
  observed: Buffer;
  created_at: Created;
}

export interface AnalysesTable {
  id: Generated<string>;
  job_id: string;
  /** The core that made it, by its hash. */
  core: string;
  /** Recordings that it was made from, sorted: it is stale when they have changed. */
  recording_ids: string[];
  /** Versions of system and job that it was made from. */
  described: string;
  result: Json<Diagnosis>;
  /** The foremost finding that is possible or better, and its standing. */
  headline: ColumnType<{ title: string; standing: Standing } | null, string | null, string | null>;
  standing: Standing | null;
  created_at: Created;
}

export interface SettingChangesTable {
  id: Generated<string>;
  system_id: string;
  /** Day, 2026-10-19. */
  changed_on: string;
  path: string;
  label: string;
  unit: string;
  before: Json<Change['before']>;
  after: Json<Change['after']>;
  why: string;
  created_at: Created;
}

export interface PhotosTable {
  id: Generated<string>;
  job_id: string;
  /** Item of the checklists. */
  item: string;
  /** 1 to 60, of its own while it is not removed. */
  place: number | null;
  width: number;
  height: number;
  /** JPEG without metadata. */
  data: Buffer;
  removed_at: ColumnType<Date | null, never, RawBuilder<Date> | null>;
  created_at: Created;
}

export interface SystemRecordsTable {
  /** Made where it was typed. */
  id: string;
  system_id: string;
  kind: RecordKind;
  record: Json<RecordOf<RecordKind>>;
  removed_at: ColumnType<Date | null, never, RawBuilder<Date> | null>;
  created_at: Created;
}

export interface Database {
  systems: SystemsTable;
  jobs: JobsTable;
  recordings: RecordingsTable;
  recording_chunks: RecordingChunksTable;
  intakes: IntakesTable;
  intake_parts: IntakePartsTable;
  recipes: RecipesTable;
  analyses: AnalysesTable;
  observations: ObservationsTable;
  setting_changes: SettingChangesTable;
  photos: PhotosTable;
  system_records: SystemRecordsTable;
}
