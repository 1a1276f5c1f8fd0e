/** Fresh air that keeps hydrogen thin (IEC 62485-2, from memory). */

import { isLead } from './chemistry';
import type { Chemistry } from './schema';

/** Gassing current, mA per Ah. IEC 62485-2, from memory. */
export const GAS_MA_PER_AH = {
  vented: { float: 5, boost: 20 },
  valveRegulated: { float: 1, boost: 8 },
} as const;

/** Hydrogen in air burns from here on, % by volume (IEC 62485-2, from memory). */
export const HYDROGEN_LIMIT_PERCENT = 4;

/** m³/h: Q = 0.05·n·I_gas·C·10⁻³ with n cells in series, I_gas in mA/Ah, C in Ah. */
export function requiredAirflow(
  chemistry: Exclude<Chemistry, 'lfp'>,
  cells: number,
  capacityAh: number,
  charging: 'float' | 'boost',
): number {
  const gas = GAS_MA_PER_AH[chemistry === 'flooded' ? 'vented' : 'valveRegulated'][charging];
  return 0.05 * cells * gas * capacityAh * 1e-3;
}

/** Free opening for natural ventilation, cm²: A = 28·Q, inlet and outlet each. */
export const freeOpeningSquareCm = (airflow: number): number => 28 * airflow;

/** Does the chemistry give off hydrogen in normal charging? Lithium iron phosphate does not. */
export const gasses = (chemistry: Chemistry): chemistry is Exclude<Chemistry, 'lfp'> => isLead(chemistry);
