/** All migrations by name, in order. A migration that has landed is never changed; a new one is added. */

import type { Migration } from 'kysely';
import * as jobsAndRecordings from './001-jobs-and-recordings';
import * as descriptions from './002-descriptions';
import * as recordingsRemoved from './003-recordings-removed';
import * as intakesAndClocks from './004-intakes-and-clocks';
import * as heldByTheDatabase from './005-held-by-the-database';
import * as observations from './006-observations';
import * as hydrometerRounds from './007-hydrometer-rounds';
import * as systemRecords from './008-system-records';

export const MIGRATIONS: Record<string, Migration> = {
  '001-jobs-and-recordings': jobsAndRecordings,
  '002-descriptions': descriptions,
  '003-recordings-removed': recordingsRemoved,
  '004-intakes-and-clocks': intakesAndClocks,
  '005-held-by-the-database': heldByTheDatabase,
  '006-observations': observations,
  '007-hydrometer-rounds': hydrometerRounds,
  '008-system-records': systemRecords,
};
