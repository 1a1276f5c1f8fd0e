/** Charges set down by hand, for verdicts whose answer is known. */

import type { Evidence, Judged } from '@/core/causes/cause';
import type { Charge, SourceCharging, Stage } from '@/core/charge/types';
import { HOUR } from '@/core/quantity/span';
import { demoSite } from '@/core/simulate/demo';
import type { Source } from '@/core/system/schema';

const { system, job } = demoSite('tide-gauge');
export const agm = {
  ...system.bank,
  chemistry: 'agm' as const,
  cellsInSeries: 6,
  capacityAh: 100,
  chargeVolts: { min: 14.2, max: 14.6 },
  floatVolts: { min: 13.6, max: 13.8 },
};
export const lithium = {
  ...agm,
  chemistry: 'lfp' as const,
  cellsInSeries: 4,
};
export const profile = { absorptionV: 14.4, floatV: 13.7, compensationMvPerCellPerC: -4 };
export const source: Source = {
  ...system.sources[0]!,
  id: 'c',
  name: 'Charger',
  kind: 'mains',
  ratedA: 20,
  profile,
};

export const stage = (part: Partial<Stage>): Stage =>
  ({ from: 0, to: 3 * HOUR, heldMs: 3 * HOUR, ...part }) as Stage;
export const charge = (stages: Stage[], before = { volts: 12.4, amps: -2 }, afterAmps = NaN): Charge =>
  ({ from: 0, to: 8 * HOUR, stages, before, afterAmps, full: false, ampHours: 30, source: 'c' }) as Charge;

/** Five charges of a source with plateaus at a temperature. */
export function held(absorption: number, float: number, celsius: number, part: Partial<SourceCharging> = {}) {
  const stages = [
    stage({ stage: 'absorption', volts: absorption, topVolts: absorption, celsius, batteryVolts: NaN }),
    stage({ stage: 'float', volts: float, topVolts: float, celsius, batteryVolts: NaN }),
  ];
  return {
    source,
    bank: agm,
    charges: Array.from({ length: 5 }, () => charge(stages)),
    slope: { mvPerCell: -4, error: 0.2, from: 5, to: 12, hours: 60 },
    setpoints: { voltsPerC: -0.024 },
    ...part,
  } as unknown as SourceCharging;
}

export const seen = (charging: SourceCharging[], bank: typeof agm | object = agm) =>
  ({
    job,
    system: { ...system, bank, sources: [source] },
    bank,
    charging,
    refusals: null,
    days: [],
  }) as unknown as Judged;

/** dB of a group of evidence, or of all of it. */
export const sumOf = (evidence: readonly Evidence[], group?: string): number =>
  evidence
    .filter((one) => group === undefined || one.group === group)
    .reduce((total, one) => total + one.decibans, 0);
