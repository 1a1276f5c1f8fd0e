/** What a technician would write down of a plain site. */

import { type System, systemSchema } from '@/core/system/schema';
import { isLeadPlan, type PlainPlan } from './plainPlan';

const of = (value: number, places = 2): number => Number(value.toFixed(places));

export function describePlain(plan: PlainPlan): System {
  const lead = isLeadPlan(plan);
  const { monitor, blocks, chemistry } = plan;
  const range = (low: number, high: number) => ({ min: of(low * blocks, 1), max: of(high * blocks, 1) });
  return systemSchema.parse({
    name: 'Plain',
    timeZone: 'Europe/Rome',
    bank: {
      chemistry,
      cellsInSeries: blocks * (lead ? 6 : 4),
      stringsInParallel: 1,
      capacityAh: plan.capacityAh,
      capacityHours: lead ? 20 : 5,
      chargeVolts: chemistry === 'gel' ? range(14, 14.2) : range(14.2, 14.6),
      floatVolts: lead ? range(13.5, 13.8) : range(13.2, 13.6),
      ...(lead ? { compensationMvPerCellPerC: { min: -5, max: -3 } } : { chargeAboveC: 0 }),
      ...(plan.equalise ? { equalise: plan.equalise } : {}),
    },
    sources: plan.chargers.map((one) => ({
      id: one.id,
      name: one.id,
      kind: one.kind,
      ratedA: one.ratedA,
      profile: {
        absorptionV: of(one.absorptionV),
        absorptionMinutes: one.minutes,
        floatV: of(one.floatV),
        compensationMvPerCellPerC: one.compensationMv,
        ...(one.tailA === undefined ? {} : { tailA: of(one.tailA, 1) }),
        ...(one.equalise === undefined ? {} : { equalise: { ...one.equalise, retryDays: 1 } }),
        ...(one.blockBelowC === undefined ? {} : { chargeAboveC: one.blockBelowC }),
      },
      counted: monitor.misses.includes(one.id) ? null : plan.isSplit ? one.across === 'lower' : true,
      senses: 'own-terminals',
      ...(one.across === 'bank' ? {} : { across: one.across }),
    })),
    monitor: {
      method: monitor.byVolts ? 'voltage' : monitor.bulkEndPercent === undefined ? 'shunt' : 'source-count',
      capacityAh: monitor.capacityAh,
      chargedV: monitor.chargedV,
      tailPercent: monitor.tailPercent,
      detectionMinutes: monitor.minutes,
      efficiencyPercent: monitor.efficiency,
      peukert: monitor.peukert,
      floorPercent: lead ? 50 : 10,
      ...(plan.isSplit ? { sees: 'lower' } : {}),
      ...(monitor.bulkEndPercent === undefined ? {} : { bulkEndPercent: monitor.bulkEndPercent }),
    },
    loads: [
      {
        id: 'load',
        name: 'Load',
        kind: 'dc',
        counted: monitor.misses.includes('load') ? null : true,
        ...(plan.cut?.volts === undefined ? {} : { cutoffV: of(plan.cut.volts) }),
        ...(plan.cut?.percent === undefined ? {} : { cutoffPercent: plan.cut.percent }),
        ...(plan.cut?.surge === undefined ? {} : { surgeA: of(plan.cut.surge.tripA, 0) }),
      },
    ],
    ...(lead
      ? {}
      : {
          bms: {
            cellHighV: 3.65,
            cellLowV: 2.5,
            cellHighReleaseV: 3.4,
            cellLowReleaseV: 3,
            balanceV: 3.45,
            balanceA: plan.bleedA,
            chargeAboveC: 0,
          },
        }),
  });
}
