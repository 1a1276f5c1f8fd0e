/** The log that the benchmark reads: a million rows, five columns, 10 s apart, out of the simulator. */

import { demoSite } from '@/core/simulate/demo';
import { writeLog } from '@/core/simulate/logger';
import { seededRandom } from '@/core/simulate/random';
import { runSite } from '@/core/simulate/site';

export const ROWS = 1_000_000;

export function millionRows(): string {
  const { site } = demoSite('tide-gauge');
  const random = seededRandom(99);
  const truth = runSite({ ...site, stepSeconds: 10, days: (ROWS * 10) / 86_400 }, random);
  return writeLog(
    truth.series,
    {
      everySeconds: 10,
      timeHeading: 'time',
      timeStyle: 'utc',
      timeZone: 'UTC',
      delimiter: ',',
      decimalChar: '.',
      columns: [
        { heading: 'source_voltage', channel: 'source_voltage', quantum: 0.01, noise: 0.006 },
        { heading: 'source_current', channel: 'source_current', quantum: 0.01, noise: 0.05 },
        { heading: 'load_current', channel: 'load_current', quantum: 0.01, noise: 0.03 },
        { heading: 'battery_temperature', channel: 'battery_temperature', quantum: 0.1, noise: 0.1 },
      ],
    },
    random,
  );
}
