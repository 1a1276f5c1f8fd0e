/** What is found of the cells of a battery, or of the halves of a bank. No samples in it. */

import type { Span } from '../quantity/span';

/** How often one cell was the first at an end. */
export interface FirstAtEnd {
  cell: string;
  times: number;
  of: number;
  /** V from the mean of all, median of those times. */
  apart: number;
}

/** How one cell stands beside the others. NaN for what these logs do not show. */
export interface CellFigures {
  cell: string;
  /** V over (+) or under (−) the middle of the cells, medians: in the flat part, near the top of charges, near empty. */
  apart: { flat: number; top: number; bottom: number };
  firstHigh: number;
  firstLow: number;
  /** Ah by which it lags behind the middle of the cells near the top of charges (− ahead), median. */
  behindAtTop: Lag;
  /** The same at the highest of each day, of batteries that never came near the top. */
  behindAtHigh: Lag;
  /** Ah by which it is empty before the middle of the cells. */
  shortAtBottom: Lag;
  /** Ah a day by which it falls further behind at the top. */
  fallsBehindADay: number;
  /** Ω with its joints, by steps of the current, and one standard deviation. */
  ohms: number;
  ohmsError: number;
}

/** Medians of the times that it was seen, Ah. In the flat part it is known no better than between the least and the most. */
export interface Lag {
  ampHours: number;
  least: number;
  most: number;
  /** How many times it was seen. */
  times: number;
}

/** Deviations over the log in even steps, for a picture. */
export interface HeatMap {
  from: number;
  stepMs: number;
  /** V from the middle of the cells, a row a cell; NaN where nothing was logged. */
  apart: Float32Array[];
  /** Highest less lowest, V. */
  spread: Float32Array;
}

export interface Cells {
  /** Cells of their own, or the two halves of a bank by the voltage between them. */
  kind: 'cells' | 'halves';
  /** Id of the battery whose cells these are, of several in parallel; null where there is one bank. Its capacity, Ah. */
  battery: string | null;
  capacityAh: number;
  logged: Span;
  figures: CellFigures[];
  /** How often an end was seen. */
  tops: number;
  bottoms: number;
  /** Highest less lowest cell, V, medians. */
  spread: { flat: number; top: number; bottom: number };
  /** Ah that go in from an end at the bottom to the highest of a day, median, where no charge comes near the top; NaN where that is not known. */
  chargedToHigh: number;
  low: FirstAtEnd | null;
  high: FirstAtEnd | null;
  /** Hours a day in which a charge held some cell above the voltage at which balancing begins; NaN where that is not known. */
  balancingADay: number;
  heat: HeatMap;
}
