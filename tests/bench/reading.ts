/** Reading the million-row log: ours, DuckDB's read_csv on one thread, PapaParse. Each is asked for typed columns. */

import { readFileSync } from 'node:fs';
import { DuckDBInstance } from '@duckdb/node-api';
import Papa from 'papaparse';
import { takeInLog } from '@/core/log/takeIn';

export function readOurs(path: string): number {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  return series.time.length;
}

/** DuckDB materialises a table in memory: its columns are typed arrays then, as ours are. */
export async function readDuckDb(path: string): Promise<number> {
  const instance = await DuckDBInstance.create(':memory:', { threads: '1' });
  const connection = await instance.connect();
  await connection.run(`create table log as select * from read_csv('${path}')`);
  const result = await connection.runAndReadAll('select count(*)::integer as n from log');
  connection.closeSync();
  instance.closeSync();
  return Number(result.getRows()[0]![0]);
}

/** PapaParse at its leanest: fast mode, no headers, no conversion; times and numbers converted into typed columns by us. */
export function readPapaParse(path: string): number {
  const { data } = Papa.parse<string[]>(readFileSync(path, 'utf8'), { skipEmptyLines: true, fastMode: true });
  const rows = data.length - 1;
  const time = new Float64Array(rows);
  const columns = data[0]!.slice(1).map(() => new Float32Array(rows));
  for (let i = 0; i < rows; i++) {
    const row = data[i + 1]!;
    time[i] = Date.parse(row[0]!);
    columns.forEach((column, k) => (column[i] = Number(row[k + 1]!)));
  }
  return time.length;
}
