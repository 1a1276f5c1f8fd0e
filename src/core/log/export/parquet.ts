/** A table of samples as Apache Parquet: `time` as a UTC timestamp in milliseconds, each channel as 32-bit floats, stages as words. */

import { ByteWriter, ParquetWriter, schemaFromColumnData } from 'hyparquet-writer';
import { REPORTED_STAGES } from '../channels';
import type { Table } from './columns';

/** Rows of one group: only so many stand as objects at a time. */
const GROUP = 65_536;

export function parquetOf(table: Table): Uint8Array {
  const writer = new ByteWriter();
  const file = new ParquetWriter({
    writer,
    schema: schemaFromColumnData({ columnData: groupOf(table, 0, 0) }),
  });
  for (let from = 0; from < table.time.length; from += GROUP) {
    // The schema was given above: the data come without types.
    const columnData = groupOf(table, from, from + GROUP).map(({ name, data }) => ({ name, data }));
    void file.write({ columnData, rowGroupSize: GROUP });
  }
  file.finish();
  return new Uint8Array(writer.getBuffer());
}

function groupOf({ time, columns }: Table, from: number, to: number) {
  return [
    {
      name: 'time',
      data: Array.from(time.subarray(from, to), (ms) => new Date(ms)),
      type: 'TIMESTAMP' as const,
    },
    ...columns.map(({ name, channel, values }) => {
      const part = values.subarray(from, to);
      return channel === 'source_stage'
        ? {
            name,
            data: Array.from(part, (value) => REPORTED_STAGES[value] ?? null),
            type: 'STRING' as const,
            nullable: true,
          }
        : {
            name,
            data: Array.from(part, (value) => (value === value ? value : null)),
            type: 'FLOAT' as const,
            nullable: true,
          };
    }),
  ];
}
