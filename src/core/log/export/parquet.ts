/** A table of samples as Apache Parquet: `time` as a UTC timestamp in milliseconds, each channel as 32-bit floats, stages as words. */

import { parquetWriteBuffer } from 'hyparquet-writer';
import { REPORTED_STAGES } from '../channels';
import type { Table } from './columns';

export function parquetOf({ time, columns }: Table): Uint8Array {
  return new Uint8Array(
    parquetWriteBuffer({
      columnData: [
        { name: 'time', data: Array.from(time, (ms) => new Date(ms)), type: 'TIMESTAMP' },
        ...columns.map(({ name, channel, values }) =>
          channel === 'source_stage'
            ? {
                name,
                data: Array.from(values, (value) => REPORTED_STAGES[value] ?? null),
                type: 'STRING' as const,
                nullable: true,
              }
            : {
                name,
                data: Array.from(values, (value) => (value === value ? value : null)),
                type: 'FLOAT' as const,
                nullable: true,
              },
        ),
      ],
    }),
  );
}
