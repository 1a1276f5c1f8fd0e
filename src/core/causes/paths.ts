/** Resistance in a path, from the description and from what was measured over joints on the wiring walk. */

import { amps, percent, volts } from '../quantity/text';
import { pairOhms } from '../system/conductor';
import type { Conductor } from '../system/schema';
import { type Evidence, type Observations, weightOf } from './cause';

export const PATH_WEIGHTS = {
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
} as const;

/** A corroded joint or a thin cable, found by eye. */
export const PATH_ANSWERS = {
  joints: { found: 6, fine: -2, text: 'A corroded or loose joint was found.' },
  cables: { found: 4, fine: -2, text: 'A cable or fuse does not fit its current.' },
} as const;

interface Path {
  name: string;
  conductor?: Conductor | undefined;
  amps: number | undefined;
}

export function weighPaths({ bank, job }: Observations, paths: readonly Path[]): Evidence[] {
  const evidence: Evidence[] = [];
  const blocks = bank ? bank.cellsInSeries / (bank.chemistry === 'lfp' ? 4 : 6) : null;
  for (const { name, conductor, amps: current } of paths) {
    if (!conductor || current === undefined || blocks === null) continue;
    const drop = pairOhms(conductor.metres, conductor.squareMm, 30) * current;
    const share = (100 * drop) / (12 * blocks);
    evidence.push({
      text: `${conductor.metres} m of ${conductor.squareMm} mm² to ${name} lose ${volts(drop)} at ${amps(current)}, ${percent(share)}.`,
      decibans: weightOf(PATH_WEIGHTS.cableDropPercent, share),
      group: 'cable',
      spans: [],
    });
  }
  for (const { what, millivolts, amps: current } of job.walk?.joints ?? [])
    evidence.push({
      text: `${what}: ${millivolts} mV at ${amps(current)} is ${(millivolts / current).toFixed(2)} mΩ.`,
      decibans: weightOf(PATH_WEIGHTS.jointMilliohms, millivolts / current),
      group: 'joints',
      spans: [],
    });
  return evidence;
}
