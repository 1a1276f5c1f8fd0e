/** What a counting monitor counts by, with nothing missing: what was told, else what is usual for the chemistry. */

import { blocksInSeries, isLead } from '../system/chemistry';
import { usualExponent } from '../system/peukert';
import type { KnownBank, KnownSystem } from '../system/known';
import type { Monitor } from '../system/schema';

export interface CounterSettings {
  capacityAh: number;
  chargedV: number;
  tailPercent: number;
  detectionMinutes: number;
  efficiencyPercent: number;
  peukert: number;
  /** Currents smaller than this are not counted, A. */
  thresholdA: number;
  /** The exponent works below the rated current too. */
  peukertBelowRate: boolean;
}

export type SettingName = keyof CounterSettings;

/** What most monitors are left at, by common practice. @param top V that chargers hold the bank at */
export function usualSettings(
  bank: KnownBank,
  top: number = (bank.chargeVolts.min + bank.chargeVolts.max) / 2,
): CounterSettings {
  const lead = isLead(bank.chemistry);
  return {
    capacityAh: bank.capacityAh,
    chargedV: top - 0.2 * blocksInSeries(bank),
    tailPercent: 4,
    detectionMinutes: 3,
    efficiencyPercent: lead ? 85 : 98,
    peukert: usualExponent(bank.chemistry),
    thresholdA: 0,
    peukertBelowRate: false,
  };
}

export interface ConfiguredSettings {
  settings: CounterSettings;
  /** Those that nobody told: the usual ones stand in for them. */
  assumed: SettingName[];
}

export function configuredSettings({ bank, monitor }: KnownSystem): ConfiguredSettings {
  const usual = usualSettings(bank);
  const told: Partial<Monitor> = monitor ?? {};
  const names = Object.keys(usual) as SettingName[];
  const assumed = names.filter((name) => told[name] === undefined);
  const known = Object.fromEntries(
    names.filter((name) => told[name] !== undefined).map((name) => [name, told[name]]),
  ) as Partial<CounterSettings>;
  return { settings: { ...usual, ...known }, assumed };
}
