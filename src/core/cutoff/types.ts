/** What ended a load, and in what state the battery then was. */

import type { ResistanceTrend } from './trend';

export const CUT_REASONS = ['volts', 'percent', 'surge', 'cell-low', 'cold', 'unknown'] as const;
export type CutReason = (typeof CUT_REASONS)[number];

/** A spike of this part of what a protection trips at may have tripped it: logs miss the top. */
export const NEARLY_TRIPS = 0.85;

export interface CutOff {
  /** First trip, epoch ms, and the last of them within half an hour of each other. */
  at: number;
  last: number;
  trips: number;
  /** Id of the load, `bms`, or `unknown`. */
  by: string;
  why: CutReason;
  /** When the load was back, epoch ms; NaN where it was not until the end of the log. */
  back: number;
  /** Percentage shown, and what the battery truly held with one standard deviation; NaN where not known. */
  shown: number;
  held: number;
  deviation: number;
  /** Just before: V at the battery, V at the load, A that the load drew, A out of the battery; NaN where not logged. */
  volts: number;
  loadVolts: number;
  loadAmps: number;
  amps: number;
  /** Other loads of the same log went on. */
  othersGoOn: boolean;
  /** How long the load had drawn at least half of that, ms; NaN where not logged. */
  ranMs: number;
  /** V at the battery as the load had just come, at the current with which it went; NaN where that flowed otherwise, or nobody saw it. */
  beganVolts: number;
  /** V to which the battery came back with the load away; NaN where it was charged at once, or drawn on. */
  restVolts: number;
  /** Cells just before: lowest and mean, V, and which one; NaN without cells. */
  lowestV: number;
  meanV: number;
  lowestCell: string;
  celsius: number;
  /** Hours to go that the reading promised an hour before; NaN where nothing was shown. */
  promisedHours: number;
  /** Wh that the load would have drawn while it was off, going by the day before; NaN where not known. */
  missedWh: number;
  /** A clock may have ended it as well; it counts because of the complaint. */
  isDoubtful: boolean;
  /** Null beyond the first cut-offs of a long log. */
  around: Around | null;
}

/** Ten minutes before and after a cut-off in even steps; null for what was not logged, NaN in silence. */
export interface Around {
  from: number;
  stepMs: number;
  volts: Float32Array | null;
  /** Into the battery, A. */
  amps: Float32Array | null;
  loadVolts: Float32Array | null;
  loadAmps: Float32Array | null;
  lowestCell: Float32Array | null;
}

/** Near a limit, and back without having gone off. */
export interface NearMiss {
  /** Id of the load, or `bms`. */
  by: string;
  /** The lowest moment, and the last of the spell, epoch ms. */
  at: number;
  last: number;
  volts: number;
  limit: number;
}

/** Resistance by steps of the current. */
export interface StepResistance {
  ohms: number;
  /** One standard deviation. */
  error: number;
  steps: number;
  /** What a good battery of this kind and size has, Ω, at the temperature of the steps. */
  usual: number;
  /** Over the log, at one temperature; null where that is too short to say. */
  trend: ResistanceTrend | null;
}

/** What lies between battery and load. */
export interface LoadPath {
  /** Id of the load. */
  id: string;
  ohms: number;
  error: number;
  /** V by which the two meters disagree without current. */
  apart: number;
  /** A that it draws at most as a rule. */
  amps: number;
  trend: ResistanceTrend | null;
}

export interface CutOffs {
  /** A log that would show a cut-off. */
  hasLoads: boolean;
  list: CutOff[];
  /** What may be cut-offs: they count where the complaint is of loads that go off. */
  doubtful: CutOff[];
  nearMisses: NearMiss[];
  resistance: StepResistance | null;
  paths: LoadPath[];
  /** Temperatures of the log, °C: a tenth of the time it was colder, half of it, nine tenths; NaN where not logged. */
  celsius: { cold: number; middle: number; warm: number };
}
