/** The diagnosis as it leaves the core: plain JSON, one schema, a section a family of observations. */

import { z } from 'zod';
import { REACHED } from '../causes/cause';
import { CAUSE_CODES } from '../causes/codes';
import { ENDED_BY, STAGE_NAMES } from '../charge/types';
import { ANCHOR_KINDS } from '../count/anchors';
import { DRIFT_PARTS, SYNC_VERDICTS } from '../count/types';
import { COMPLAINTS } from '../system/schema';
import { battery, cells, cutoff, discharge, nearMiss } from './resultDischarge';
import { STANDINGS } from './weigh';

const number = z.number();
/** Null when not known: JSON has no NaN. */
const known = number.nullable();
const span = z.tuple([z.string(), z.string()]);
const spans = z.array(span);
const range = z.object({ min: number, max: number });

const stage = z.object({
  stage: z.enum(STAGE_NAMES),
  from: z.string(),
  to: z.string(),
  /** V, A and Ah. Current and charge are the battery's where they were logged. */
  volts: known,
  endAmps: known,
  ampHours: known,
  endedBy: z.enum(ENDED_BY),
  /** Minutes at the voltage without dips, and how many dips of the supply there were. */
  heldMinutes: number,
  dips: number,
  celsius: known,
});

const charge = z.object({
  from: z.string(),
  to: z.string(),
  source: z.string().nullable(),
  stages: z.array(stage),
  /** Into the battery where its current was logged, else from the source, Ah. */
  ampHours: known,
  full: z.boolean(),
});

/** A voltage that a source holds, beside what was set and what the battery asks for; V at 25 °C for the cells that it is across. */
const plateau = z.object({
  stage: z.enum(['absorption', 'float', 'equalise']),
  volts: number,
  /** Brought to 25 °C by the temperature that was logged; else as it was held. */
  at25: z.boolean(),
  /** One standard deviation about it, V. */
  band: number,
  hours: number,
  days: number,
  /** What the charger itself called it, and what it is set to; null when not known. */
  called: z.string().nullable(),
  configured: known,
  asks: range.nullable(),
});

const sourceFigures = z.object({
  source: z.string().nullable(),
  plateaus: z.array(plateau),
  /** mV per °C per cell, as it is done, over which temperatures; what was set; what the battery asks for. */
  compensation: z
    .object({ found: number, band: number, fromC: number, toC: number, configured: known, asks: range })
    .nullable(),
  /** What lies between it and the battery. */
  path: z
    .object({
      milliohms: number,
      band: number,
      /** V by which the two meters disagree at no current. */
      offsetVolts: number,
      amps: number,
      lostVolts: number,
      lostWatts: number,
    })
    .nullable(),
  /** Its own word for a stage, and what was found in those hours; null where they agree or it says nothing. */
  saysOtherwise: z
    .object({ reported: z.string(), found: z.enum(STAGE_NAMES), hours: number, ofHours: number })
    .nullable(),
  /** Currents at which it gave all it had, A, greatest first, and what it is rated for. */
  limits: z.array(number),
  ratedA: known,
  /** What absorption is short of, by how the current fell: median over charges with the middle half of them. Null where it cannot be seen. */
  missing: z
    .object({ charges: number, minutes: number, minutesBand: range, ampHours: number, ampHoursBand: range })
    .nullable(),
});

const day = z.object({
  date: z.string(),
  ampHoursIn: known,
  ampHoursOut: known,
  /** Hours that the log covers. */
  hours: number,
  reached: z.enum(REACHED),
});

const balance = z.object({
  from: z.string(),
  to: z.string(),
  /** Between which states it is taken: from full to full, or over the whole log with what the rest voltage says at its ends. */
  between: z.enum(['full charges', 'ends of the log']),
  ampHoursIn: number,
  ampHoursOut: number,
  startPercent: known,
  endPercent: known,
  /** In over out, what is stored at the ends taken off; null where those are not known. And what the chemistry needs. */
  returned: known,
  returnedBand: known,
  needs: range,
});

const charging = z.object({
  /** End of the last charge in which the battery got truly full; null when none did. */
  lastFull: z.string().nullable(),
  sources: z.array(sourceFigures),
  days: z.array(day),
  balance: balance.nullable(),
});

/** A value with two standard deviations. */
const banded = z.object({ value: number, band: number });

/** A sync: the reading was set to full. */
const sync = z.object({
  at: z.string(),
  /** Reading before and after, %. */
  from: number,
  to: number,
  judged: z.enum(SYNC_VERDICTS),
  /** True charge then, %, and two standard deviations. */
  reference: known,
  band: known,
  /** In words, why it is judged so. */
  why: z.string(),
});

const interval = z.object({
  from: z.string(),
  to: z.string(),
  endedBy: z.enum(['sync', 'jump', 'end']),
  ampHoursIn: number,
  ampHoursOut: number,
  readingFrom: number,
  readingTo: number,
  trueFrom: number,
  trueTo: number,
  band: number,
  /** Points by which the reading came out above the truth, and what each error alone makes of it. */
  drift: number,
  parts: z.record(z.enum(DRIFT_PARTS), number),
});

const counting = z.object({
  device: z.string(),
  hasReading: z.boolean(),
  /** No reading was logged: the syncs are those that a counter with these settings would have made. */
  replayed: z.boolean(),
  settings: z.record(z.string(), z.union([number, z.boolean()])),
  /** Settings that nobody told: usual ones stand in. */
  assumed: z.array(z.string()),
  /** What the device counts by, from its own reading; null where it does not tell. */
  behaves: z.object({ capacityAh: banded, efficiencyPercent: banded.nullable(), peukert: number }).nullable(),
  capacityAh: banded,
  efficiencyPercent: banded,
  offsetA: banded,
  /** What the log cannot tell apart, and what would. */
  entangled: z.array(z.string()),
  /** What the truth rests on, and how well it is known on the whole, %. */
  anchors: z.array(z.object({ kind: z.enum(ANCHOR_KINDS), count: number })),
  band: known,
  off: z.object({ median: number, most: number, last: number, hours: number }).nullable(),
  /** How much of each device's current the monitor shows. */
  coverage: z.array(z.object({ id: z.string(), share: number, band: number })),
  missed: z.array(
    z.object({
      from: z.string(),
      to: z.string(),
      full: z.boolean(),
      why: z.string(),
      topVolts: known,
      leastAmps: known,
    }),
  ),
  intervals: z.array(interval),
  jumps: z.array(z.object({ at: z.string(), from: number, to: number, silentMinutes: number })),
  daysSinceFull: known,
  /** Points by which the half that the monitor sees stood above the other as a rule, and what both held at a moment, %. */
  otherHalf: z
    .object({ part: z.enum(['lower', 'upper']), above: number, at: z.string(), seen: number, other: number })
    .nullable(),
  /** As practitioners find them: the tail read into float, A, and what an empty battery took until full, Ah, as it counts by its efficiency. */
  tailByFloat: z.object({ amps: number, percent: number, charges: number }).nullable(),
  capacityByRefill: z
    .object({ from: z.string(), to: z.string(), ampHours: number, counted: number })
    .nullable(),
});

/** Hour by hour, %; null where it is not known. */
const soc = z.object({
  from: z.string(),
  stepHours: number,
  reported: z.array(known),
  reference: z.array(known),
  band: z.array(known),
});

const evidence = z.object({ text: z.string(), decibans: number, spans });

const finding = z.object({
  cause: z.enum(CAUSE_CODES),
  title: z.string(),
  complaint: z.enum(COMPLAINTS),
  standing: z.enum(STANDINGS),
  decibans: number,
  evidence: z.array(evidence),
  missing: z.array(z.string()),
  /** Codes of likelier faults that bring this one with them: then it is told as their consequence. */
  explainedBy: z.array(z.string()),
  /** Ruled out by hand; then it stands at excluded whatever its decibans are. */
  ruledOut: z.object({ on: z.string(), why: z.string() }).nullable(),
  /** What is done about it, with its caution; null where it is less than possible, or nothing can be said. */
  remedy: z.object({ text: z.string(), caution: z.string().nullable() }).nullable(),
  tests: z.array(z.string()),
  /** What keeps the logs that it leans on from being believed; empty when nothing does. */
  caveats: z.array(z.string()),
});

const fieldTest = z.object({
  test: z.string(),
  title: z.string(),
  how: z.string(),
  minutes: number,
  why: z.string(),
  caution: z.string().optional(),
  /** Expected reduction of uncertainty, bits. */
  bits: number,
  /** What it asks, with the causes that the answer weighs for or against. */
  asks: z.array(z.object({ causes: z.array(z.string()), about: z.string(), outcomes: z.array(z.string()) })),
});

export const diagnosisSchema = z.object({
  format: z.literal(1),
  /** What this version does not look at. */
  unexamined: z.array(z.string()),
  trust: z.array(
    z.object({
      code: z.string(),
      devices: z.array(z.string()),
      text: z.string(),
      spans,
      /** For a clock that is off: what to add to its times. */
      clock: z.object({ device: z.string(), offsetSeconds: number, secondsPerDay: number }).optional(),
    }),
  ),
  hazards: z.array(z.object({ code: z.string(), text: z.string(), spans })),
  charges: z.array(charge),
  setpoints: z.array(
    z.object({
      source: z.string().nullable(),
      absorptionV: known,
      floatV: known,
      compensationMvPerCellPerC: known,
    }),
  ),
  charging,
  syncs: z.array(sync),
  /** Null where no current into the battery was logged. */
  counting: counting.nullable(),
  /** The percentage as it was read and as it was; null where nothing was counted. */
  soc: soc.nullable(),
  cutoffs: z.array(cutoff),
  nearMisses: z.array(nearMiss),
  /** Null without a log. */
  discharge: discharge.nullable(),
  /** Null where neither cells nor the voltage between two halves were logged. */
  cells: cells.nullable(),
  /** Several batteries in parallel beside each other. */
  batteries: z.array(battery),
  /** What the hydrometer rounds show, in sentences; empty without any. */
  hydrometer: z.array(z.string()),
  /** What the capacity tests show, in sentences; empty without any. */
  capacity: z.array(z.string()),
  findings: z.array(finding),
  nextTest: fieldTest.nullable(),
  /** What would be worth most after it. */
  furtherTests: z.array(fieldTest),
  /** What was tested and found. */
  testsMade: z.array(
    z.object({
      test: z.string(),
      title: z.string(),
      on: z.string(),
      found: z.array(z.string()),
      note: z.string().nullable(),
    }),
  ),
  settings: z.array(
    z.object({
      of: z.string(),
      setting: z.string(),
      now: z.union([number, z.string()]),
      advised: z.union([number, z.string()]),
      school: z.string().nullable(),
      why: z.string(),
    }),
  ),
});

export type Diagnosis = z.infer<typeof diagnosisSchema>;
export type DiagnosisCharge = Diagnosis['charges'][number];
export type DiagnosisStage = DiagnosisCharge['stages'][number];
export type SourceFigures = Diagnosis['charging']['sources'][number];
export type Finding = Diagnosis['findings'][number];
export type FieldTestOut = NonNullable<Diagnosis['nextTest']>;
export type IsoSpan = [string, string];
export type CountingOut = NonNullable<Diagnosis['counting']>;
export type SyncOut = Diagnosis['syncs'][number];
export type CellsOut = NonNullable<Diagnosis['cells']>;
export type BatteryOut = Diagnosis['batteries'][number];
export type CellOut = CellsOut['cells'][number];
export type CutOffOut = Diagnosis['cutoffs'][number];
