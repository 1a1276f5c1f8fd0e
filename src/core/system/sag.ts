/** How far a battery's voltage sinks under load, before anything was measured. */

import { blocksInSeries, isLead } from './chemistry';
import { pairOhms } from './conductor';
import type { Bank, Chemistry, Conductor } from './schema';

/**
 * Ω·Ah per 12 V block after some minutes of load: inner resistance with what diffusion adds. Common practice, no source: a healthy
 * 100 Ah lead block about 10 mΩ, lithium about 5 mΩ. Measured steps replace it.
 */
const OHM_AH = { lead: 1, lithium: 0.5 };

export function bankOhms(bank: Required<Pick<Bank, 'chemistry' | 'cellsInSeries' | 'capacityAh'>>): number {
  const perBlock = (bank.chemistry === 'lfp' ? OHM_AH.lithium : OHM_AH.lead) / bank.capacityAh;
  return perBlock * blocksInSeries(bank);
}

/** Growth of the resistance per °C under 25 °C, compounded (common practice, no source): lithium at freezing about twice, lead a third more. */
const COLD = { lead: 0.012, lithium: 0.03 };

/** By how much the cold raises the inner resistance; where the temperature is not known, a cool room's. @param celsius NaN where not known */
export const coldShare = (chemistry: Chemistry, celsius: number): number =>
  Math.exp(
    (isLead(chemistry) ? COLD.lead : COLD.lithium) *
      Math.max(0, 25 - (Number.isFinite(celsius) ? celsius : 20)),
  );

/** V lost in battery and cable at a current; the cable at 30 °C. */
export function sagVolts(
  bank: Required<Pick<Bank, 'chemistry' | 'cellsInSeries' | 'capacityAh'>>,
  conductor: Conductor | undefined,
  amps: number,
): { battery: number; cable: number } {
  const cable = conductor ? pairOhms(conductor.metres, conductor.squareMm, 30) : 0;
  return { battery: amps * bankOhms(bank), cable: amps * cable };
}
