/** What a capacity test comes to. */

import { MINUTE } from '../quantity/span';
import { capacityShare } from '../system/capacityTemperature';
import { isLead } from '../system/chemistry';
import type { System } from '../system/schema';
import { DOUBT, type Drawn, drawnOver, ROOM } from './effective';
import { END_OF_LIFE, REVERSING } from './plan';
import type { CapacityTest } from './record';

export interface JudgedTest {
  test: CapacityTest;
  drawn: Drawn;
  /** Share of the 25 °C capacity at its temperature. */
  share: number;
  /** Per cent of the rating at 25 °C; of a test that was stopped early, what it has at least. */
  percent: number;
  /** One way, two standard deviations, points. */
  band: number;
  /** It went to its end: the voltage, a cell or the BMS ended it, and the last reading bears it out. */
  isComplete: boolean;
  /** Below 80 % of the rating (IEEE Std 450, from memory); null where it was stopped too early, or is not known to have been full. */
  isAtItsEnd: boolean | null;
  /** One weak cell ended it, not the bank. */
  byCell: string | null;
  /** Why the figure is weaker than it could be, a sentence each. */
  weak: string[];
}

/** One standard deviation more where it is not known whether it was full before, parts; and of what was left, points. */
const NOT_KNOWN_FULL = 0.06;
const LEFT = 4;
/** The bank counts as at its end so close above the voltage, parts of it. */
const AT_END = 0.01;

export function judgeTest(test: CapacityTest, { bank }: Pick<System, 'bank'>): JudgedTest {
  const { readings, ratedAh, ratedHours, exponent, celsius, wasFull, endedBy, endVolts, left = 0 } = test;
  const chemistry = bank.chemistry ?? 'flooded';
  const drawn = drawnOver(
    readings.map((one) => one.minutes * MINUTE),
    readings.map((one) => -one.amps),
    readings.map((one) => one.volts),
    { from: 0, to: readings.length - 1 },
    { gap: Infinity, rated: { capacityAh: ratedAh, hours: ratedHours }, exponent },
  );
  const share = capacityShare(chemistry, celsius ?? ROOM);
  // What was left in it, by the log, counts too.
  const percent = (100 * drawn.effectiveAh) / (ratedAh * share * (1 - left / 100));
  const last = readings.at(-1)!;
  const kind = isLead(chemistry) ? 'lead' : 'lithium';
  const cellLow = last.lowestCellVolts !== undefined && last.lowestCellVolts <= REVERSING[kind] * 1.04;
  const atEnd = last.volts <= endVolts * (1 + AT_END);
  const isComplete = endedBy === 'end-voltage' ? atEnd : endedBy === 'cell' ? cellLow : endedBy !== 'stopped';
  const band =
    2 *
    percent *
    Math.hypot(
      DOUBT.meter,
      DOUBT.full,
      celsius === undefined ? DOUBT.room : 0,
      wasFull === undefined ? NOT_KNOWN_FULL : 0,
      left > 0 ? LEFT / 100 : 0,
    );
  return {
    test,
    drawn,
    share,
    percent,
    band,
    isComplete,
    // What has given more than the limit is above it, however early it was stopped; only a full battery can show that it is under it.
    isAtItsEnd: percent >= END_OF_LIFE ? false : isComplete && wasFull === true ? true : null,
    byCell: cellLow && !atEnd ? (last.cell ?? 'not named') : null,
    weak: [
      ...(wasFull === false ? ['It was not full before: it holds more than this.'] : []),
      ...(wasFull === undefined ? ['It is not known whether it was full before.'] : []),
      ...(celsius === undefined ? [`Its temperature was not read: ${ROOM} °C is taken.`] : []),
      ...(isComplete
        ? []
        : [
            endedBy === 'end-voltage'
              ? `The last reading is ${(last.volts - endVolts).toFixed(2)} V above the end voltage: it holds more than this.`
              : 'It was stopped before its end: it holds more than this.',
          ]),
    ],
  };
}

export const judgeTests = (tests: readonly CapacityTest[], system: Pick<System, 'bank'>): JudgedTest[] =>
  tests.map((one) => judgeTest(one, system));
