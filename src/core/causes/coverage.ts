/** What the description and the wiring walk say of devices that the monitor may not see. */

import { amps } from '../quantity/text';
import type { Load, Source } from '../system/schema';
import type { Evidence, Observations } from './cause';

export const COVERAGE_WEIGHTS = {
  /** The description says that a device is not counted, or that all are; something else was found on the battery post. */
  toldUncounted: 15,
  toldCounted: -6,
  foundOnPost: 8,
} as const;

export const COVERAGE_ANSWERS = {
  'battery-post': { found: 8, fine: -6, text: 'A second conductor was found on the battery negative.' },
} as const;

/** Devices that may bypass the monitor: what was told and found. */
export function weighCoverage(
  { system, job }: Observations,
  devices: readonly (Source | Load)[],
  kind: 'source' | 'load',
): Evidence[] {
  const method = system.monitor?.method;
  if (!system.monitor || method === 'voltage') return [];
  const evidence: Evidence[] = [];
  const unseen = devices.filter((one) => one.counted === false);
  if (unseen.length > 0)
    evidence.push({
      text: `${unseen.map((one) => one.name).join(' and ')} ${unseen.length === 1 ? 'is' : 'are'} wired so that the monitor does not count ${unseen.length === 1 ? 'it' : 'them'}.`,
      decibans: COVERAGE_WEIGHTS.toldUncounted,
      group: 'told',
      spans: [],
    });
  else if (devices.every((one) => one.counted !== null) && devices.length > 0)
    evidence.push({
      text: `Each ${kind} is wired so that the monitor counts it.`,
      decibans: COVERAGE_WEIGHTS.toldCounted,
      group: 'told',
      spans: [],
    });
  for (const { what, amps: current } of job.walk?.others ?? [])
    evidence.push({
      text: `On the battery post: ${what}${current === undefined ? '' : `, carrying ${amps(Math.abs(current))}`}.`,
      decibans: COVERAGE_WEIGHTS.foundOnPost,
      group: 'check-battery-post',
      spans: [],
    });
  return evidence;
}

/** What would have to be told of devices before their coverage is known. */
export function missingCoverage({ system }: Observations, devices: readonly (Source | Load)[]): string[] {
  if (!system.monitor || system.monitor.method === 'voltage') return ['a monitor that counts'];
  return devices.filter((one) => one.counted === null).map((one) => `whether the monitor counts ${one.name}`);
}
