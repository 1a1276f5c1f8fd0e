/** What the two causes of compensation share: how far a plateau’s slope is known. */

import { celsius, slopeMv } from '../quantity/text';
import type { Slope } from '../charge/slope';

/** °C over which plateaus must lie before their slope says anything, and the error that it may have, mV per °C per cell. */
const LEAST_RANGE = 4;
const MOST_ERROR = 1;

export const isKnown = (slope: Slope | null): slope is Slope =>
  slope !== null && slope.to - slope.from >= LEAST_RANGE && slope.error <= MOST_ERROR;

export const slopeText = (name: string, { mvPerCell, error, from, to, hours }: Slope): string =>
  `${name}: over ${hours} h on its plateaus, from ${celsius(from)} to ${celsius(to)} the held voltage moved by ${slopeMv(mvPerCell)} ± ${error.toFixed(1)} mV per °C and cell`;
