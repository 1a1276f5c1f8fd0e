/** What is done about a cause: the figure to set and its reason, and what to mind where it can hurt somebody. */

import { slopeMv, volts } from '../quantity/text';
import { CHEMISTRY, compensationOf, expectedVolts, fullTailAmps, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { System } from '../system/schema';

export interface Remedy {
  text: string;
  /** Null where nothing of it is dangerous. */
  caution: string | null;
}

export const GAS =
  'Charging at this voltage gives off explosive gas: air the room, no sparks, no smoking; goggles and gloves near acid.';
export const LIVE =
  'A battery can deliver thousands of amperes: isolate first, insulated tools, no jewellery; tighten to the maker’s torque.';
export const MAINS = 'The mains side belongs to licensed people, and local codes come first.';
export const LEAD_COLD =
  'An empty lead battery freezes: keep it charged through the cold, and never charge one that has frozen.';
export const LITHIUM_COLD = 'Never charge lithium below freezing, however short.';
export const NO_HIDING =
  'Do not raise a limit or a voltage to hide a fault: the BMS stops the charge for a reason.';

const range = ({ min, max }: { min: number; max: number }): string =>
  max - min < 0.005 ? volts(max) : `${min.toFixed(2)} to ${volts(max)}`;

/** A charger across a half of the bank is set to half of its voltages. */
const halves = (system: System): string =>
  system.sources.some((one) => (one.across ?? 'bank') !== 'bank')
    ? ' (half of that for a charger across one half)'
    : '';

/** "28.40 to 29.20 V at 25 °C" */
export const chargeRange = (bank: KnownBank, system: System): string =>
  `${range(bank.chargeVolts)}${isLead(bank.chemistry) ? ' at 25 °C' : ''}${halves(system)}`;

export const floatRange = (bank: KnownBank, system: System): string =>
  `${range(expectedVolts(bank, 'float', 25))}${isLead(bank.chemistry) ? ' at 25 °C' : ''}${halves(system)}`;

/** "−5.0 to −3.0 mV per °C per cell", or what lithium wants. */
export function compensationRange(bank: KnownBank): string {
  const { min, max } = compensationOf(bank);
  if (min === 0 && max === 0) return 'none: lithium is not compensated';
  return `${min === max ? slopeMv(min) : `${slopeMv(min)} to ${slopeMv(max)}`} mV per °C per cell`;
}

/** Current of a full battery, A, as "3.2 A, 2 % of capacity". */
export function tailText(bank: KnownBank): string {
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  return `${fullTailAmps(bank).toFixed(1)} A, ${fullTailPercent} % of capacity`;
}
