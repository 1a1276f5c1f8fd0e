/** A description is allowed to have holes; judging a log needs the basics of the bank. */

import { CHEMISTRY, type Range } from './chemistry';
import type { Bank, Monitor, System } from './schema';

/** A bank of which enough is known to judge a log. */
export type KnownBank = Bank &
  Required<Pick<Bank, 'chemistry' | 'cellsInSeries' | 'capacityAh' | 'chargeVolts'>>;
export type KnownSystem = Omit<System, 'bank'> & { bank: KnownBank };

/** A monitor whose counting can be followed: every setting that it counts by is known. */
export type KnownMonitor = Monitor &
  Required<
    Pick<
      Monitor,
      'capacityAh' | 'chargedV' | 'tailPercent' | 'detectionMinutes' | 'efficiencyPercent' | 'peukert'
    >
  >;

/** Basics of the bank that are not known, as short phrases; empty when a log can be judged. */
export function missingBasics({ bank }: System): string[] {
  return [
    ...(bank.chemistry ? [] : ['the chemistry of the battery']),
    ...(bank.cellsInSeries ? [] : ['how many cells are in series']),
    ...(bank.capacityAh ? [] : ['the capacity of the bank']),
  ];
}

/** The system with its charge voltage taken from the chemistry where the maker's is not known; null while a basic is missing. */
export function knownSystem(system: System): KnownSystem | null {
  const { bank } = system;
  const { chemistry, cellsInSeries, capacityAh } = bank;
  if (!chemistry || !cellsInSeries || !capacityAh) return null;
  const chargeVolts = bank.chargeVolts ?? presetVolts(chemistry, cellsInSeries).charge;
  return { ...system, bank: { ...bank, chemistry, cellsInSeries, capacityAh, chargeVolts } };
}

/** Charge and float voltage that a chemistry usually asks for, V for the whole bank at 25 °C. */
export function presetVolts(
  chemistry: NonNullable<Bank['chemistry']>,
  cellsInSeries: number,
): { charge: Range; float: Range } {
  const { chargeV, floatV } = CHEMISTRY[chemistry];
  const times = ({ min, max }: Range): Range => ({
    min: Number((min * cellsInSeries).toFixed(2)),
    max: Number((max * cellsInSeries).toFixed(2)),
  });
  return { charge: times(chargeV), float: times(floatV) };
}
