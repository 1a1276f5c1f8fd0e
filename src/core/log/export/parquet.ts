/** A recording as Apache Parquet: `time` as a UTC timestamp in milliseconds, each channel as 32-bit floats, stages as words. */

import { parquetWriteBuffer } from 'hyparquet-writer';
import { REPORTED_STAGES, type Series } from '../channels';
import { channelsOf } from './columns';

export function parquetOf(series: Series): Uint8Array {
  return new Uint8Array(
    parquetWriteBuffer({
      columnData: [
        { name: 'time', data: Array.from(series.time, (ms) => new Date(ms)), type: 'TIMESTAMP' },
        ...channelsOf(series).map(([name, values]) =>
          name === 'source_stage'
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
