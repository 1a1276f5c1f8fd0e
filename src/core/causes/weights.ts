/**
 * The weights of the evidence in one table, dB. A value is the band's likelihood ratio: how often such an observation comes with
 * the cause and how often without it. `npm run sweep` prints, over a few hundred simulated sites that no test uses, how the
 * findings made with this table fare; figures were set by sense first and overruled where a band is something only a simulator
 * does.
 */

/** Reads a value in bands: each row is [at least, dB], highest first; below the last row its dB still holds. */
export type Bands = ReadonlyArray<readonly [number, number]>;

export function weightOf(bands: Bands, value: number): number {
  for (const [least, decibans] of bands) if (value >= least) return decibans;
  return bands[bands.length - 1]![1];
}

export const WEIGHTS = {
  /** Current at the end of absorption, in units of the current at which the chemistry counts as full. */
  endCurrentInTails: [
    [3, 14],
    [2, 9],
    [1.5, 5],
    [1.15, -3],
    [0, -13],
  ],
  /** Absorption lasts the same again and again. */
  timerRepeats: 7,
  /** It ends at the same current again and again: then no clock ends it. */
  tailRepeats: -10,
  /** The told absorption time is the one seen. */
  timerAsTold: 3,
  /** Minutes that the current would still have needed. */
  minutesMissing: [
    [60, 4],
    [20, 2],
    [0, 0],
  ],
  /** Share of charges in which the battery got truly full all the same. */
  fullAnyway: [
    [0.5, -6],
    [0.2, -3],
    [0.05, 0],
    [0, 3],
  ],
  /** Charging broke off during absorption, share of charges. */
  lostBeforeEnd: [
    [0.7, -6],
    [0, 0],
  ],
  /** Plateau below the battery's range, mV per cell. */
  plateauBelow: [
    [40, 15],
    [25, 10],
    [16, 5],
    [8, -3],
    [-1e9, -12],
  ],
  /** The same on every charge, so no accident of one day. */
  plateauRepeats: 5,
  /** Told charge voltage below the range, mV per cell. */
  toldBelow: [
    [25, 7],
    [8, 4],
    [-1e9, -3],
  ],
  /** Share of days on which charging did not get past bulk. */
  daysInBulk: [
    [0.8, 11],
    [0.6, 7],
    [0.4, 1],
    [0.2, -5],
    [0, -12],
  ],
  /** Ah in for each Ah out, when most days end in bulk. */
  returned: [
    [1.1, -4],
    [1.04, 0],
    [1, 4],
    [0, 7],
  ],
  /** The description says that a device is not counted, or that all are; something else was found on the battery post. */
  toldUncounted: 15,
  toldCounted: -6,
  foundOnPost: 8,
  /** Drop that cable length and size make at the usual current, % of the nominal voltage. */
  cableDropPercent: [
    [8, 11],
    [5, 8],
    [3, 3],
    [1.5, -1],
    [0, -4],
  ],
  /** Measured over a joint. */
  jointMilliohms: [
    [2, 11],
    [1, 7],
    [0.5, 1],
    [0, -5],
  ],
  /** Years in service of a lead battery; lithium at half its years. */
  ageYears: [
    [10, 4],
    [6, 2],
    [2, 0],
    [0, -1],
  ],
  /** The source gives its rating and still does not finish; it gives far less than its rating. */
  atRating: 3,
  farBelowRating: -4,
} satisfies Record<string, Bands | number>;
