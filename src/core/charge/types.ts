/** What is found of charging. No samples in it: what weighs causes reads this. */

import type { Span } from '../quantity/span';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import type { SetAlike } from './setAlike';
import type { ColdEdges } from './coldEdges';
import type { ColdIdle, NeverGave } from './coldIdle';
import type { LeftEarly } from './leftEarly';
import type { Limit } from './limit';
import type { Missing } from './missing';
import type { PathDrop } from './pathDrop';
import type { SaysOtherwise } from './saysOtherwise';
import type { Setpoints } from './setpoint';
import type { Slope } from './slope';
import type { TailFit } from './tail';
import type { Yielded } from './yielded';

export const STAGE_NAMES = ['bulk', 'absorption', 'float', 'equalise', 'hold', 'off'] as const;
export type StageName = (typeof STAGE_NAMES)[number];
export const ENDED_BY = ['tail', 'timer', 'source-lost', 'load', 'bms', 'other-source', 'unknown'] as const;
export type EndedBy = (typeof ENDED_BY)[number];

export interface Stage extends Span {
  stage: StageName;
  /** Median voltage, V, at the temperature of the moment, and brought to 25 °C. */
  volts: number;
  volts25: number;
  /** Highest that it came to, V, over a cell of the judging grid; also what the battery rests at right after it. */
  topVolts: number;
  /** Median voltage at the battery as another device saw it, V, or NaN. */
  batteryVolts: number;
  /** Median battery temperature, °C, or NaN. */
  celsius: number;
  /** Where it was not logged: the temperature that a charger set below the battery's range goes by, °C. */
  impliedC?: number;
  /** Current at the end, A: the battery's where it is known, else the source's own. */
  endAmps: number;
  /** Source's own current at the end, A. */
  endSourceAmps: number;
  /** Least of the source's own current over the last cells: what a threshold would have seen, A. */
  leastEndAmps: number;
  /** Current over the second half of the stage, median, A: what it had settled to before the end, which a failing supply bends. */
  settledAmps: number;
  /** Source's own current over the whole stage, median, A. */
  usualSourceAmps: number;
  /** The same soon after it began, A: on float that is mostly the loads that ran as absorption ended. NaN where it falls, as the
   * current of a battery does that is not full. */
  soonSourceAmps: number;
  /** By how much the battery's current still fell in its last two hours, A an hour; NaN where it is not known, or was held for less
   * than three. */
  fallsPerHour: number;
  /** True when `endAmps` is what the battery took, without loads. */
  endAmpsAreBattery: boolean;
  /** The BMS let no current in at its end: whatever the current says then, it is no tail. */
  blocked: boolean;
  /** Charge into the battery (or from the source when the battery's is not logged), Ah. */
  ampHours: number;
  endedBy: EndedBy;
  /** Time at the voltage, without dips of the supply, ms. */
  heldMs: number;
  /** Time at the voltage alone, ms: for an equalisation, without the climb to it. */
  holdingMs: number;
  /** How often the supply fell short in it. */
  dips: number;
  /** Time in it with the battery already at its tail, ms: the charger did not see it. NaN where its current is not known. */
  pastTailMs: number;
  /** The same of the current that the charger is set to end at; NaN where that is not known. */
  pastSettingMs: number;
  /** From when to its end the battery stood at its tail: what flows from there on only keeps it full. NaN where it never came there. */
  atTailFrom: number;
  /** By the clock that ended it, where one did: it may have started before this stage, at a touch between clouds. NaN else. */
  clockMs: number;
  /** The falling current, for absorption where it can be fitted. */
  tail: TailFit | null;
  /** The stage runs into the end (or from the start) of the log: its length is not known. */
  cutOff: boolean;
}

export interface Charge extends Span {
  source: string | null;
  stages: Stage[];
  /** Median voltage and battery current over the half hour before it, V and A, NaN where not known. */
  before: { volts: number; amps: number };
  /** Median battery current over the half hour after it, A, NaN where not known. */
  afterAmps: number;
  /** The battery got truly full in it. */
  full: boolean;
  /** When it stood full though its own charger was in no absorption. */
  heldFull: Span[];
  /** Its floats that show by themselves that it was full. */
  fullOnFloat: Span[];
  ampHours: number;
}

/** What the log says of one source's charging. No samples in it: what weighs causes reads this. */
export interface SourceCharging {
  source: Source | null;
  /** What all the chargers are set to alike that may be behind it, where it is not known which; null where it is. */
  setAlike: SetAlike | null;
  /** The cells that it is across: the whole bank, or a half of it. */
  bank: KnownBank;
  setpoints: Setpoints;
  charges: Charge[];
  /** When the log that they are seen in runs, and where it is silent: of other times nothing is known. */
  logged: { span: Span; gaps: Span[] };
  /** Cell of the grid that it was judged on, ms: no end of a stage is known better. */
  cellMs: number;
  /** Currents at which it gave all it had, greatest first. */
  limits: Limit[];
  /** What lies between it and the battery, compensation as it is done, cold that stops it; null where the log cannot show them. */
  path: PathDrop | null;
  slope: Slope | null;
  coldIdle: ColdIdle | null;
  coldEdges: ColdEdges | null;
  /** It gave nothing all along; null where it did. */
  neverGave: NeverGave | null;
  /** What its absorption is short of; null where the current's fall does not tell. */
  missing: Missing | null;
  /** Its own word for a stage against what was found; null where they agree or it says nothing. */
  saysOtherwise: SaysOtherwise | null;
  /** Where it left absorption while others kept the battery charging; null where that cannot be seen. */
  leftEarly: LeftEarly | null;
  /** It gave nothing, or only fed its float, while the battery still took a charging current from others; null where that cannot be seen. */
  yielded: Yielded | null;
  /** Most that the source gave while the supply was the limit, A: 95th percentile over bulk. NaN without bulk. */
  bulkAmps: number;
  /** The battery's own current was logged or can be had by subtraction. */
  knowsBatteryAmps: boolean;
  /** Its own current was logged; else only the battery's. */
  knowsOwnAmps: boolean;
}
