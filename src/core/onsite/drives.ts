/** Whose percentage drives what. One for all is advised, by the order of trust: BMS, shunt, an inverter's own count (common practice, no source). */

import { capital } from '../quantity/text';
import type { Drive, System } from '../system/schema';
import { trustedPercentages } from '../system/wiring';
import type { Said } from './said';

export const DRIVER_WORDS: Record<Drive['by'], string> = {
  bms: 'the BMS',
  monitor: 'the monitor',
  inverter: 'the inverter’s own count',
  volts: 'the voltage',
};
export const DRIVEN_WORDS: Record<Drive['kind'], string> = {
  cutoff: 'cut-off',
  alarm: 'alarm',
  relay: 'relay',
  generator: 'start of a generator',
};

/** The percentage that should drive everything here; null where none can be trusted. */
export function bestDriver(system: System): 'bms' | 'monitor' | 'inverter' | null {
  const trusted = trustedPercentages(system).filter((one) => one.verdict !== 'no');
  const best = trusted.find((one) => one.verdict === 'yes') ?? trusted[0];
  if (!best) return null;
  return best.who === 'BMS' ? 'bms' : best.who === 'Monitor' ? 'monitor' : 'inverter';
}

/** What the description itself says is switched by the monitor's percentage. */
export const describedDrives = (system: System): Drive[] =>
  system.drives ??
  system.loads
    .filter((one) => one.cutoffPercent !== undefined)
    .map((one) => ({ what: one.name, kind: 'cutoff' as const, by: 'monitor' as const }));

export function judgeDrives(system: System, drives: readonly Drive[] | undefined): Said[] {
  const all = drives ?? describedDrives(system);
  const byPercent = all.filter((one) => one.by !== 'volts');
  if (byPercent.length === 0) return [];
  const best = bestDriver(system);
  const used = [...new Set(byPercent.map((one) => one.by))];
  const names = (list: readonly Drive[]) => list.map((one) => one.what).join(', ');
  const said: Said[] = [];
  if (best === null)
    return [
      {
        weight: 'fault',
        text: `${names(byPercent)}: driven by a percentage, and none here can be trusted.`,
        follows: 'Let voltages drive them until the coverage is right and the reading has been set.',
      },
    ];
  const others = byPercent.filter((one) => one.by !== best);
  if (used.length > 1)
    said.push({
      weight: 'caution',
      text: `${used.length === 2 ? 'Two' : 'Three'} percentages drive things here: ${used.map((one) => DRIVER_WORDS[one]).join(', ')}.`,
      follows: `One alone should drive them all, here that of ${DRIVER_WORDS[best]}: else one of them acts on a reading that the others contradict.`,
    });
  else if (others.length > 0)
    said.push({
      weight: 'caution',
      text: `${capital(DRIVER_WORDS[used[0]!])} drives ${names(others)}; ${DRIVER_WORDS[best]} can be trusted more.`,
      follows: `Let ${DRIVER_WORDS[best]} drive them.`,
    });
  if (said.length === 0)
    said.push({ weight: 'fine', text: `One percentage drives all: that of ${DRIVER_WORDS[best]}.` });
  return said;
}
