/** What the description and the wiring walk say of devices that the monitor may not see. */

import { amps } from '../quantity/text';
import type { Load, Source } from '../system/schema';
import type { Evidence, Observations, Weighing } from './cause';
import { WEIGHTS } from './weights';

export function weighCoverage(
  { system, job }: Observations,
  devices: readonly (Source | Load)[],
  kind: 'source' | 'load',
): Weighing {
  const method = system.monitor?.method;
  if (!system.monitor || method === 'voltage') return { evidence: [], missing: ['a monitor that counts'] };
  const evidence: Evidence[] = [];
  const unseen = devices.filter((one) => one.counted === false);
  const unknown = devices.filter((one) => one.counted === null);
  if (unseen.length > 0)
    evidence.push({
      text: `${unseen.map((one) => one.name).join(' and ')} ${unseen.length === 1 ? 'is' : 'are'} wired so that the monitor does not count ${unseen.length === 1 ? 'it' : 'them'}.`,
      decibans: WEIGHTS.toldUncounted,
      group: 'told',
      spans: [],
    });
  else if (unknown.length === 0 && devices.length > 0)
    evidence.push({
      text: `Each ${kind} is wired so that the monitor counts it.`,
      decibans: WEIGHTS.toldCounted,
      group: 'told',
      spans: [],
    });
  for (const { what, amps: current } of job.walk?.others ?? [])
    evidence.push({
      text: `On the battery post: ${what}${current === undefined ? '' : `, carrying ${amps(Math.abs(current))}`}.`,
      decibans: WEIGHTS.foundOnPost,
      group: 'check-battery-post',
      spans: [],
    });
  return {
    evidence,
    missing: unknown.map((one) => `whether the monitor counts ${one.name}`),
  };
}
