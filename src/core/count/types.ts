/** What is found of counting. No samples in it: what weighs causes reads this. */

import type { Discharge } from '../capacity/discharges';
import type { Span } from '../quantity/span';
import type { Behaves } from './device';
import type { FollowsVolts } from './followsVolts';
import type { Meters } from './meters';
import type { OtherHalf } from './emptierHalf';
import type { Estimate, EstimateName, Reference } from './reference';
import type { Recipes } from './recipes';
import type { CounterSettings, SettingName } from './settings';
import type { Sinking } from './sinking';
import type { Wrong } from './trueCurrent';

export const SYNC_VERDICTS = ['true', 'false', 'unsure'] as const;
export type SyncVerdict = (typeof SYNC_VERDICTS)[number];

export interface JudgedSync {
  at: number;
  /** Reading before and after, %. */
  from: number;
  to: number;
  judged: SyncVerdict;
  /** True state then, %, and one standard deviation. */
  reference: number;
  deviation: number;
  /** The log was silent just before. */
  afterGap: boolean;
  /** The supply had just failed: a current that collapsed looks like a tail. */
  collapsed: boolean;
  /** V and A at the battery; NaN where not known. */
  volts: number;
  amps: number;
}

export const MISSED_FOR = ['voltage', 'current', 'time', 'unknown'] as const;

/** A charge that ought to have set the reading to full, and did not. */
export interface MissedSync extends Span {
  /** The battery was truly full; else its charger went through absorption to float. */
  full: boolean;
  /** Which criterion failed. */
  reason: (typeof MISSED_FOR)[number];
  /** Highest voltage that stood for the detection time, V. */
  topVolts: number;
  /** Least current that stood for so long while the voltage was above the setting, A; NaN where it never was. */
  leastAmps: number;
  /** Longest that both held together, ms. */
  heldMs: number;
}

export const DRIFT_PARTS = [
  'efficiency',
  'capacity',
  'peukert',
  'offset',
  'scale',
  'uncounted',
  'otherHalf',
  'unexplained',
] as const;
export type DriftPart = (typeof DRIFT_PARTS)[number];

/** From one sync (or the start of the log, or a jump) to the next: how the reading parted from the truth, points of %. */
export interface DriftInterval extends Span {
  /** What ends it. */
  endedBy: 'sync' | 'jump' | 'end';
  ampHoursIn: number;
  ampHoursOut: number;
  readingFrom: number;
  readingTo: number;
  trueFrom: number;
  trueTo: number;
  /** One standard deviation of what the truth moved by. */
  deviation: number;
  /** How far the reading came out above (+) or under (−) the truth over it. */
  drift: number;
  parts: Record<DriftPart, number>;
}

/** The reading went further in one step than anything that flowed. */
export interface Jump {
  at: number;
  from: number;
  to: number;
  /** How long the log was silent before it, ms; 0 where it was not. */
  silentMs: number;
  /** Since the reading before, ms: a log that is written seldom hides a silence between two. */
  sinceMs: number;
  /** As much as the largest current that the device saw would have taken off since, %. */
  couldFall: number;
  /** It went to full with the battery at the charged voltage: in the silence it may have been set there as usual. */
  mayBeSync: boolean;
  /** The battery was drawn on before, and not charged after. */
  drawn: boolean;
  /** The battery was charged before and after. */
  charged: boolean;
}

/** The reading beside the truth over the log, where the truth is known within 8 points; %. */
export interface ReadingOff {
  median: number;
  /** Nine tenths of the time it was no further off. */
  most: number;
  /** At the end of the log. */
  last: number;
  hours: number;
}

/** Hour by hour, for a curve. % with NaN for what is not known. */
export interface Hourly {
  from: number;
  stepMs: number;
  reported: Float32Array;
  reference: Float32Array;
  /** One way, two standard deviations. */
  band: Float32Array;
}

/** The two halves of a bank, where the voltage between them was logged, or that of each. */
export interface Halves {
  /** By the voltage between them all the while, or at rest by the meters of a charger of each. */
  by: 'midpoint' | 'chargers';
  logged: Span;
  hours: number;
  /** V by which they stand apart: median, and 95 % of the time no more. */
  apartVolts: number;
  mostVolts: number;
  /** 12 V blocks in a half. */
  blocks: number;
}

export interface Counting {
  settings: CounterSettings;
  assumed: SettingName[];
  /** Device whose count it is. */
  device: string;
  logged: Span;
  hasReading: boolean;
  /** The truth rests on the BMS's current. */
  byBms: boolean;
  syncs: JudgedSync[];
  /** The syncs are the replay's: no reading was logged. */
  replayed: boolean;
  missed: MissedSync[];
  /** Charges that got the battery truly full. */
  fulls: Span[];
  intervals: DriftInterval[];
  jumps: Jump[];
  off: ReadingOff | null;
  behaves: Behaves | null;
  followsVolts: FollowsVolts | null;
  meters: Meters;
  /** What the monitor shows over the log, Ah, and its hours. */
  through: { in: number; out: number; hours: number };
  halves: Halves | null;
  /** What the half that the monitor does not see held; null where it sees the whole bank, or where nothing shows it. */
  otherHalf: OtherHalf | null;
  /** What the voltage that sinks with what is drawn says of the capacity; null where it does not show. */
  sinking: Sinking | null;
  recipes: Recipes;
  /** From a full battery down to the lowest point. */
  discharges: Discharge[];
  wrong: Wrong;
  capacityAh: Estimate;
  efficiencyPercent: Estimate;
  offsetA: Estimate;
  entangled: [EstimateName, EstimateName, number][];
  /** By how much a zero error, and another capacity, beyond what is usual make the anchors likelier; natural logarithms. */
  favours: { offset: number; capacity: number };
  /** How many anchors of each kind the truth rests on. */
  anchors: Record<string, number>;
  /** Median over the log of the band, one standard deviation, %. */
  deviation: number;
  hourly: Hourly;
  /** The same at any moment: a load that empties the battery within the hour is seen by it. */
  course: Course;
}

/** The true state of charge on even cells, %, and one standard deviation. */
export type Course = Pick<Reference, 'grid' | 'percent' | 'deviation'>;
