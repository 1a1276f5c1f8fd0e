/** What a capacity test comes to. */

import { MINUTE } from '../quantity/span';
import { capacityShare } from '../system/capacityTemperature';
import { isLead } from '../system/chemistry';
import type { System } from '../system/schema';
import { type Drawn, drawnOver } from './effective';
import { END_OF_LIFE, REVERSING } from './plan';
import type { CapacityTest } from './record';

/** Temperature at which a test without one is judged: a cool room's, °C. */
const ROOM = 20;

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
  /** Below 80 % of the rating (IEEE Std 450, from memory); null where it was stopped too early to say. */
  isAtItsEnd: boolean | null;
  /** One weak cell ended it, not the bank. */
  byCell: string | null;
  /** Why the figure is weaker than it could be, a sentence each. */
  weak: string[];
}

/** One standard deviation of a result, parts of it: clip-on meter, state at the start, temperature not known, start not known. */
const DOUBT = { meter: 0.02, full: 0.02, room: 0.04, notKnownFull: 0.06 };
/** The bank counts as at its end so close above the voltage, parts of it. */
const AT_END = 0.01;

export function judgeTest(test: CapacityTest, { bank }: Pick<System, 'bank'>): JudgedTest {
  const { readings, ratedAh, ratedHours, exponent, celsius, wasFull, endedBy, endVolts } = test;
  const chemistry = bank.chemistry ?? 'flooded';
  const drawn = drawnOver(
    readings.map((one) => one.minutes * MINUTE),
    readings.map((one) => -one.amps),
    readings.map((one) => one.volts),
    { from: 0, to: readings.length - 1 },
    { gap: Infinity, rated: { capacityAh: ratedAh, hours: ratedHours }, exponent },
  );
  const share = capacityShare(chemistry, celsius ?? ROOM);
  const percent = (100 * drawn.effectiveAh) / (ratedAh * share);
  const last = readings.at(-1)!;
  const kind = isLead(chemistry) ? 'lead' : 'lithium';
  const cellLow = last.lowestCellVolts !== undefined && last.lowestCellVolts <= REVERSING[kind] * 1.04;
  const atEnd = last.volts <= endVolts * (1 + AT_END);
  const isComplete = endedBy === 'end-voltage' ? atEnd : endedBy === 'cell' ? cellLow : endedBy === 'bms';
  const band =
    2 *
    percent *
    Math.hypot(
      DOUBT.meter,
      DOUBT.full,
      celsius === undefined ? DOUBT.room : 0,
      wasFull === undefined ? DOUBT.notKnownFull : 0,
    );
  return {
    test,
    drawn,
    share,
    percent,
    band,
    isComplete,
    // What has given more than the limit is above it, however early it was stopped; what was not full before proves nothing.
    isAtItsEnd:
      percent >= END_OF_LIFE ? false : isComplete && wasFull !== false && percent < END_OF_LIFE ? true : null,
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
