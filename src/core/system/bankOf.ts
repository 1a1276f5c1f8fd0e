/** The cells that a charger is across: the whole bank, or one half of it. */

import type { KnownBank, KnownSystem } from './known';
import type { Source, System } from './schema';

/** Half a bank has half the cells and half the volts, and all of the ampere-hours. */
export function bankOf(
  { bank }: Pick<KnownSystem, 'bank'>,
  source: Pick<Source, 'across'> | null,
): KnownBank {
  if ((source?.across ?? 'bank') === 'bank') return bank;
  const { cellsInSeries, chargeVolts, floatVolts, equalise } = bank;
  const half = ({ min, max }: { min: number; max: number }) => ({ min: min / 2, max: max / 2 });
  return {
    ...bank,
    cellsInSeries: cellsInSeries / 2,
    chargeVolts: half(chargeVolts),
    ...(floatVolts ? { floatVolts: half(floatVolts) } : {}),
    ...(equalise ? { equalise: { ...equalise, volts: equalise.volts / 2 } } : {}),
  };
}

/** The cells whose voltage a device's log shows: those that a charger is across, those that the monitor sees. */
export const cellsSeenBy = (
  { sources, monitor }: Pick<System, 'sources' | 'monitor'>,
  device: string,
): NonNullable<Source['across']> =>
  (device === 'monitor' ? monitor?.sees : sources.find((one) => one.id === device)?.across) ?? 'bank';
