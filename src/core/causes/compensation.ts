/** What the causes of compensation share: how far a plateau’s slope is known, and by which temperature a charger goes. */

import { celsius, slopeMv } from '../quantity/text';
import { mean, median } from '../quantity/numbers';
import { celsiusAtVolts, LEAST_HELD, LEAST_SLOPE } from '../charge/bySetting';
import type { Slope } from '../charge/slope';
import type { SourceCharging, Stage } from '../charge/types';

/** °C over which plateaus must lie before their slope says anything, and the error that it may have, mV per °C per cell. */
const LEAST_RANGE = 2.5;
const MOST_ERROR = 1.2;

/** A slope moved by its error towards what it is not to be told from: the doubt goes to the charger. */
export const inDoubt = ({ mvPerCell, error }: Slope, towards: number): number =>
  mvPerCell + Math.sign(towards - mvPerCell) * Math.min(Math.abs(towards - mvPerCell), DOUBT * error);
const DOUBT = 0.7;

export const isKnown = (slope: Slope | null): slope is Slope =>
  slope !== null && slope.to - slope.from >= LEAST_RANGE && slope.error <= MOST_ERROR;

export const slopeText = (name: string, { mvPerCell, error, from, to, hours }: Slope): string =>
  `${name}: over ${hours} h on its plateaus, from ${celsius(from)} to ${celsius(to)} the held voltage moved by ${slopeMv(mvPerCell)} ± ${error.toFixed(1)} mV per °C and cell`;

/** Absorption and float must tell the same within so many °C. */
const SAME = 5;

/** A source that still gives this part of its most at the end of a float holds nothing: a full battery takes what it has. */
const GIVES_ALL = 0.8;

/** Plateaus of a stage whose temperature was logged and that are long enough to be some. */
export const plateausWithHeat = (
  { charges, bulkAmps }: SourceCharging,
  name: 'absorption' | 'float',
): Stage[] =>
  charges
    .flatMap((one) => one.stages)
    .filter(
      (one) =>
        one.stage === name &&
        one.heldMs >= LEAST_HELD &&
        one.celsius === one.celsius &&
        !(name === 'float' && one.endSourceAmps > GIVES_ALL * bulkAmps),
    );

export interface GoesBy {
  /** °C by which the temperature that the charger goes by lies above the battery's. */
  off: number;
  /** Absorption and float both say so. */
  both: boolean;
  stages: Stage[];
}

/** By which temperature a charger goes, from what it is set to and what it held; null where too little of that is known. */
export function goesBy(one: SourceCharging): GoesBy | null {
  const { absorptionV, floatV, compensationMvPerCellPerC } = one.source?.profile ?? {};
  const slope = isKnown(one.slope) ? one.slope.mvPerCell : compensationMvPerCellPerC;
  if (slope === undefined || slope > LEAST_SLOPE) return null;
  const cells = one.bank.cellsInSeries;
  const told = [
    ['absorption', absorptionV],
    ['float', floatV],
  ] as const;
  const found = told.flatMap(([name, volts]) => {
    const stages = plateausWithHeat(one, name);
    if (volts === undefined || stages.length < 3) return [];
    return [
      {
        stages,
        off: median(stages.map((stage) => celsiusAtVolts(stage.volts, volts, slope, cells) - stage.celsius)),
      },
    ];
  });
  if (found.length === 0) return null;
  const offs = found.map(({ off }) => off);
  // A setting that was changed moves one of them, a temperature moves both.
  if (Math.max(...offs) - Math.min(...offs) > SAME) return null;
  return { off: mean(offs), both: found.length > 1, stages: found.flatMap(({ stages }) => stages) };
}
