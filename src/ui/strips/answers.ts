/** What the server says of a span, and of the next time of something; what is not known travels as null. */

import { z } from 'zod';

const figure = z
  .number()
  .nullable()
  .transform((value) => value ?? NaN);
const ends = z.object({ from: figure, to: figure });

export const measuredSchema = z.object({
  from: z.number(),
  to: z.number(),
  battery: z
    .object({
      ampHoursIn: figure,
      ampHoursOut: figure,
      wattHoursIn: figure,
      wattHoursOut: figure,
      meanAmps: figure,
      peakAmps: figure,
      hours: figure,
    })
    .nullable(),
  volts: ends,
  percents: z.array(ends.extend({ device: z.string() })),
  sources: z.array(z.object({ device: z.string(), ampHours: figure })),
  spread: ends.nullable(),
});

export const foundSchema = z.object({ found: z.object({ from: z.number(), to: z.number() }).nullable() });
