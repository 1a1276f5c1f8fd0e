/** A hydrometer round: what was read in each cell of a bank on one day, and how. */

import { z } from 'zod';
import { between, celsius, day, line, text } from '../system/values';

/** What the temperature was taken of: the electrolyte itself is best, the case is weaker, the air weaker still. */
export const TAKEN_OF = ['electrolyte', 'case', 'ambient'] as const;
export type TakenOf = (typeof TAKEN_OF)[number];

/** Battery and cell as people mark them: 1A, 12, B3. */
const CELL = /^[A-Za-z0-9][A-Za-z0-9 .-]{0,11}$/;
const cellName = z.string().regex(CELL, {
  error: 'A cell is named by letters and digits, such as 1A for the first cell of the first battery.',
});
/** Specific gravity; a reading of 1250 is meant as 1.250. */
export const gravity = z.preprocess(
  (value) => (typeof value === 'number' && value > 1000 && value < 1400 ? value / 1000 : value),
  between(1, 1.4, ', such as 1.250'),
);

export const MOST_CELLS = 300;

export const readingSchema = z.object({
  cell: cellName,
  gravity,
  /** °C of this cell; absent: that of the round. */
  celsius: celsius().optional(),
});

export const roundSchema = z.object({
  /** Made where it is typed, so that one that is sent twice is one. */
  id: z.uuid(),
  on: day,
  /** The day after a full charge, as it should be; absent is not known. */
  afterFullCharge: z.boolean().optional(),
  /** When water was last added. */
  wateredOn: day.optional(),
  celsius: celsius().optional(),
  takenOf: z.enum(TAKEN_OF).optional(),
  /** The technician's own name for the instrument. */
  instrument: line(60, 'Give the instrument a name of your own.').optional(),
  /** It shows the reading at the reference temperature by itself. */
  compensates: z.boolean().optional(),
  notes: text.optional(),
  readings: z
    .array(readingSchema)
    .min(1, { error: 'Write down one cell at least.' })
    .max(MOST_CELLS, { error: `A round has ${MOST_CELLS} cells at most.` })
    .refine((all) => new Set(all.map((one) => one.cell.toUpperCase())).size === all.length, {
      error: 'Two readings have the same cell: each cell is read once in a round.',
    }),
});

export type Reading = z.infer<typeof readingSchema>;
export type Round = z.infer<typeof roundSchema>;
