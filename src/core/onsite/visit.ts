/**
 * A visit: what a technician reads, proves and signs in an hour on site, where there may be no log and no network. Everything may be
 * left out; a stop that was passed over is kept as such. Units: V, A, Ah, %, °C, minutes; currents into the battery are positive.
 */

import { z } from 'zod';
import {
  between,
  celsius,
  day,
  few,
  id,
  line,
  list,
  name,
  notNegative,
  number,
  percent,
  positive,
  text,
} from '../system/values';
import { driveSchema, mainPathSchema, MOST_LOADS, MOST_SOURCES } from '../system/schema';

/** The stops of the round, in working order. */
export const STOPS = [
  'displays',
  'memory',
  'photos',
  'proof',
  'ratings',
  'shunt',
  'split-bank',
  'drives',
  'reading',
  'equalise',
  'acceptance',
  'sign',
] as const;
export type StopId = (typeof STOPS)[number];

const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, {
  error: 'Write the time of day like 14:30.',
});

/** What one display shows. */
export const displaySchema = z.object({
  percent: percent().optional(),
  /** It shows dashes, or asks to be set: it has restarted and lost its count. */
  noPercent: z.boolean().optional(),
  volts: positive().optional(),
  /** Into the battery +; of a charger or a load as it shows it. */
  amps: number().optional(),
});

export const displaysSchema = z.object({
  at: clockTime.optional(),
  /** By device: monitor, bms, a battery of its own BMS, a source, a load. */
  shown: few(z.record(id, displaySchema), MOST_SOURCES + MOST_LOADS + 20).optional(),
  /** An own meter at the posts. */
  postsV: positive().optional(),
  lowerV: positive().optional(),
  upperV: positive().optional(),
  celsius: celsius().optional(),
  hoursAtRest: notNegative().optional(),
});

/** What the monitor itself remembers. */
export const memorySchema = z.object({
  deepestAh: notNegative().optional(),
  lastAh: notNegative().optional(),
  meanAh: notNegative().optional(),
  cycles: notNegative().optional(),
  syncs: notNegative().optional(),
  lowestV: positive().optional(),
  highestV: positive().optional(),
  daysSinceFull: notNegative().optional(),
  drawnAh: notNegative().optional(),
});

/** One device switched on alone. */
export const provedSchema = z.object({
  /** From its plate, and through an inverter by its efficiency. */
  watts: positive().optional(),
  efficiencyPercent: between(30, 100, ' %').optional(),
  /** What it should draw or give, A: known, by its own display, or by clamp meter. */
  knownA: positive().optional(),
  clampA: number().optional(),
  /** What the monitor showed with it alone, A; + into the battery. */
  showsA: number().optional(),
  /** Of a monitor of several shunts: the one that moved. */
  shunt: id.optional(),
  /** For the load survey: what it draws as it starts, and when it idles. */
  startA: positive().optional(),
  idleA: notNegative().optional(),
});

export const proofSchema = z.object({
  /** What the monitor showed with everything off; and with the battery’s isolator open. */
  offA: number().optional(),
  isolatedA: number().optional(),
  devices: few(z.record(id, provedSchema), MOST_SOURCES + MOST_LOADS).optional(),
});

export const READING_WAYS = ['float', 'at-voltage', 'by-hand', 'delivery'] as const;

export const setRightSchema = z.object({
  way: z.enum(READING_WAYS).optional(),
  before: percent().optional(),
  after: percent().optional(),
});

export const GATES = ['maker-allows', 'electrolyte', 'joints', 'air', 'protection', 'loads-off'] as const;
export const EQUALISE_ENDS = ['held', 'not-reached', 'stopped'] as const;

export const equaliseSchema = z.object({
  gates: z.array(z.enum(GATES)).max(GATES.length).optional(),
  triesSince: notNegative().optional(),
  lastOn: day.optional(),
  /** The charger was programmed anew: its count of days began again. */
  reprogrammed: z.boolean().optional(),
  startedAt: clockTime.optional(),
  reachedAt: clockTime.optional(),
  stoppedAt: clockTime.optional(),
  hottestC: celsius().optional(),
  ended: z.enum(EQUALISE_ENDS).optional(),
});

export const acceptanceSchema = z.object({
  /** On float with the loads on: into the battery, and what the loads draw. */
  floatBatteryA: number().optional(),
  floatLoadsA: notNegative().optional(),
  /** While bulk lasts, of all chargers together. */
  chargeA: positive().optional(),
  monitorPercent: percent().optional(),
  bmsPercent: percent().optional(),
  restV: positive().optional(),
  restHours: notNegative().optional(),
});

/** A setting that was changed on the spot. */
export const changedSchema = z.object({
  what: name,
  before: line(60, 'Say what it was.').optional(),
  after: line(60, 'Say what it is now.'),
  why: line(300, 'Say why.').optional(),
});

export const visitSchema = z.object({
  /** Made where it is typed, so that one that is sent twice is one. */
  id: z.uuid(),
  /** The job that it belongs to. */
  job: z.uuid(),
  on: day,
  /** Stops that were not looked at, said so by the technician. */
  passedOver: z
    .array(z.enum(STOPS))
    .max(STOPS.length)
    .overwrite((all) => [...new Set(all)])
    .optional(),
  displays: displaysSchema.optional(),
  memory: memorySchema.optional(),
  /** Firmware and default access codes, and what else the screens said. */
  screens: text.optional(),
  proof: proofSchema.optional(),
  mainPath: mainPathSchema.optional(),
  bmsMaxDischargeA: positive().optional(),
  bmsMaxChargeA: positive().optional(),
  shuntA: positive().optional(),
  /** Charge current as set, by source. */
  setA: few(z.record(id, positive()), MOST_SOURCES).optional(),
  /** Steps of the shunt’s run sheet that are done. */
  shuntSteps: list(id, 40, 'steps').optional(),
  drives: list(driveSchema, 40, 'of these').optional(),
  setRight: setRightSchema.optional(),
  equalise: equaliseSchema.optional(),
  acceptance: acceptanceSchema.optional(),
  changed: list(changedSchema, 60, 'changes').optional(),
  nextFullOn: day.optional(),
  nextVisitOn: day.optional(),
  notes: text.optional(),
  /** By role, never by name: “duty technician”. */
  signedBy: line(60, 'Sign by your role, such as “duty technician”.').optional(),
  signedOn: day.optional(),
});

export type Visit = z.infer<typeof visitSchema>;
export type Display = z.infer<typeof displaySchema>;
export type Displays = z.infer<typeof displaysSchema>;
export type Memory = z.infer<typeof memorySchema>;
export type Proved = z.infer<typeof provedSchema>;
export type Proof = z.infer<typeof proofSchema>;
export type Acceptance = z.infer<typeof acceptanceSchema>;
export type Equalised = z.infer<typeof equaliseSchema>;
export type Gate = (typeof GATES)[number];
