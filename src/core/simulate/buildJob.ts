/** From a site's plan to what a technician brings home: the description, and the logs as files. */

import { DAY, HOUR, MINUTE, type Span } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Job } from '../system/schema';
import type { DemoLog } from './demo';
import { creepingCells, hysteresisCells } from './lithiumCells';
import { writeLog, type LoggedColumn } from './logger';
import type { Random } from './random';
import { runHalves } from './halves';
import { runSite, seenBy, type SiteCharger, type SiteLoad, type SiteSpec, type Truth } from './site';
import type { ChargerPlan, CutPlan, MonitorPlan, SitePlan } from './sitePlan';

export interface BuiltJob {
  job: Job;
  system: KnownSystem;
  logs: DemoLog[];
  truth: Truth;
}

export const buildJob = (plan: SitePlan, random: Random): BuiltJob => {
  const truth = plan.halves
    ? runHalves(
        { lower: siteOf(halfPlan(plan, 'lower')), upper: siteOf(halfPlan(plan, 'upper')) },
        plan.halves.monitorSees,
        random,
      )
    : runSite(siteOf(plan), random);
  return {
    job: { title: 'Random', complaints: plan.complaints, openedAt: '2026-11-01T08:00:00Z', notes: '' },
    system: describe(plan, random),
    logs: logsOf(plan, truth, random),
    truth,
  };
};

/** One half of the bank as a site of its own. */
const halfPlan = (plan: SitePlan, across: 'lower' | 'upper'): SitePlan => ({
  ...plan,
  blocks: plan.blocks / 2,
  cells: plan.cells / 2,
  chargers: plan.chargers.filter((one) => one.across === across),
  monitor:
    plan.halves!.monitorSees === 'bank'
      ? {
          ...plan.monitor,
          settings: { ...plan.monitor.settings, chargedV: plan.monitor.settings.chargedV / 2 },
        }
      : plan.monitor,
});

function siteOf(plan: SitePlan): SiteSpec {
  return {
    from: plan.from,
    days: plan.days,
    stepSeconds: Math.min(30, plan.everySeconds),
    battery: batteryOf(plan),
    startCharge: plan.startCharge,
    chargers: plan.chargers.map((one) => chargerOf(one, plan)),
    climate: plan.climate,
    loads: loadsOf(plan),
    monitor: { ...plan.monitor.settings, ...plan.monitor.device },
    meter: plan.monitor.meter,
    startReading: plan.monitor.startReading,
    uncounted: plan.monitor.uncounted,
  };
}

function batteryOf(plan: SitePlan): SiteSpec['battery'] {
  const { trueCapacityAh: capacityAh, cells, resistance, gassing, model, climate } = plan;
  if (!isLead(plan.chemistry))
    return {
      kind: 'lithium',
      cells: plan.lithium.cells.map((cell) => ({
        ...cell,
        charge: cell.charge - 0.9 + plan.startCharge,
        resistance: cell.resistance * resistance,
      })),
      bms: plan.lithium.bms,
      celsius: climate.meanC,
      warmingHours: 6,
      model: model === 'first' ? hysteresisCells : creepingCells,
    };
  if (model === 'first')
    return {
      capacityAh,
      cells,
      resistance,
      gassing,
      availableShare: 0.3 + 0.1 * resistance,
      levelHours: 0.5 + 0.4 * resistance,
    };
  return {
    kind: 'stratified',
    capacityAh,
    cells,
    resistance,
    gassing,
    acidHours: 0.6 + resistance,
    acceptance: 0.9 - 0.25 * resistance,
    celsius: climate.meanC,
  };
}

function chargerOf(one: ChargerPlan, { cells, blocks }: SitePlan): SiteCharger {
  const share = one.share ?? (() => 1);
  return {
    id: one.id,
    ratedA: one.ratedA,
    absorptionV: one.absorptionV,
    floatV: one.floatV,
    compensationVPerC: (one.compensationMv * cells) / 1000,
    absorptionMinutes: one.absorptionMinutes,
    countsOn: one.countsOn,
    tailA: one.tailA,
    rebulkV: one.rebulkV,
    pathOhms: one.pathOhms,
    remoteSense: one.remoteSense,
    ...(one.blockBelowC === undefined ? {} : { blockBelowC: one.blockBelowC }),
    ...(one.equalise ? { equalise: one.equalise } : {}),
    sensorOffC: one.sensorOffC ?? 0,
    capableAmps: (ms, sun, airC) =>
      one.kind === 'solar'
        ? Math.min(one.givesA, 1.1 * one.givesA * sun) * share(ms, airC)
        : one.present(ms)
          ? one.givesA * share(ms, airC)
          : 0,
    inputVolts: (ms, sun) =>
      one.kind === 'solar' ? (sun > 0.003 ? 18 * blocks + 3 * sun : 0.3) : one.present(ms) ? 230 : 0,
  };
}

/** Hours of the second load, where it runs by night alone. */
const NIGHT = { from: 19, to: 5 };

function loadsOf({ meanLoadA, loadShape, secondLoad, cut, from }: SitePlan): SiteLoad[] {
  const all = (ms: number) => meanLoadA * loadShape(ms);
  if (cut) {
    const {
      heavy,
      surge,
      pathOhms,
      cutoffV,
      cutoffSeconds = 60,
      reconnectV,
      cutoffPercent,
      reconnectPercent,
    } = cut;
    const runs = (ms: number, every: number, length: number) =>
      (ms - from) % (every * HOUR) >= every * HOUR - length;
    return [
      {
        id: 'load',
        amps: (ms) =>
          all(ms) +
          (heavy && runs(ms, heavy.everyHours, heavy.minutes * MINUTE) ? heavy.amps : 0) +
          // A start is over within a step of the simulation.
          (surge && runs(ms, surge.everyHours, MINUTE / 2) ? surge.amps : 0),
        ...(pathOhms === undefined ? {} : { pathOhms }),
        ...(cutoffV === undefined ? {} : { cutoffV, cutoffSeconds }),
        ...(reconnectV === undefined ? {} : { reconnectV }),
        ...(cutoffPercent === undefined ? {} : { cutoffPercent }),
        ...(reconnectPercent === undefined ? {} : { reconnectPercent }),
        ...(surge ? { tripA: surge.tripA } : {}),
        awaySeconds: cut.awaySeconds,
      },
    ];
  }
  if (!secondLoad) return [{ id: 'load', amps: all }];
  const { share, nightly } = secondLoad;
  const hours = nightly ? 24 - NIGHT.from + NIGHT.to : 24;
  const runs = (ms: number) => {
    const hour = (ms % DAY) / HOUR;
    return !nightly || hour >= NIGHT.from || hour < NIGHT.to;
  };
  return [
    { id: 'load', amps: (ms) => (1 - share) * all(ms) },
    { id: 'load-2', amps: (ms) => (runs(ms) ? (share * meanLoadA * 24) / hours : 0) },
  ];
}

/** What was told of the settings is sometimes little. */
function describe(plan: SitePlan, random: Random): KnownSystem {
  const told = <T extends object>(chance: number, part: T): T | object =>
    random.next() < chance ? part : {};
  return {
    name: 'Random site',
    timeZone: 'Europe/Rome',
    bank: {
      chemistry: plan.chemistry,
      cellsInSeries: plan.cells,
      stringsInParallel: 1,
      capacityAh: plan.capacityAh,
      capacityHours: isLead(plan.chemistry) ? 20 : 5,
      chargeVolts: plan.chargeVolts,
      floatVolts: plan.floatVolts,
      ...(isLead(plan.chemistry) ? { compensationMvPerCellPerC: { min: -5, max: -3 } } : { chargeAboveC: 0 }),
      ...(plan.bankEqualise ? { equalise: plan.bankEqualise } : {}),
    },
    sources: plan.chargers.map((one) => ({
      id: one.id,
      name: one.name,
      kind: one.kind,
      ratedA: one.ratedA,
      ...(one.across ? { across: one.across } : {}),
      profile: {
        ...told(0.8, { absorptionV: one.configuredAbsorptionV ?? one.absorptionV }),
        ...told(
          0.5,
          Number.isFinite(one.absorptionMinutes) ? { absorptionMinutes: one.absorptionMinutes } : {},
        ),
        ...told(0.6, { floatV: one.floatV }),
        ...told(0.6, { compensationMvPerCellPerC: one.compensationMv }),
        ...told(0.3, one.tailA === undefined ? {} : { tailA: Number(one.tailA.toFixed(1)) }),
        ...(one.blockBelowC === undefined ? {} : told(0.5, { chargeAboveC: one.blockBelowC })),
      },
      counted: plan.monitor.uncounted.includes(one.id) ? plan.monitor.describedCounted : true,
      senses: one.remoteSense ? 'battery' : 'own-terminals',
    })),
    monitor: plan.monitor.settings,
    loads: (plan.secondLoad ? ['load', 'load-2'] : ['load']).map((id, k) => ({
      id,
      name: k === 0 ? 'Load' : 'Load 2',
      kind: 'dc',
      counted: plan.monitor.uncounted.includes(id) ? plan.monitor.describedCounted : true,
      ...(plan.cut?.told ? settingsOf(plan.cut) : {}),
    })),
    ...(isLead(plan.chemistry) ? {} : { bms: plan.lithium.bms }),
  };
}

/** What a technician finds in a load's settings. */
const settingsOf = ({ cutoffV, reconnectV, cutoffPercent, reconnectPercent, surge }: CutPlan) => ({
  ...(cutoffV === undefined ? {} : { cutoffV }),
  ...(reconnectV === undefined ? {} : { reconnectV }),
  ...(cutoffPercent === undefined ? {} : { cutoffPercent }),
  ...(reconnectPercent === undefined ? {} : { reconnectPercent }),
  ...(surge ? { surgeA: surge.tripA } : {}),
});

/** Without its supply a monitor logs nothing. */
const silencesOf = ({ meter, silentMs = 0 }: MonitorPlan): Span[] =>
  (meter.restarts ?? []).map(({ at }) => ({ from: at - silentMs, to: at }));

function logsOf(plan: SitePlan, truth: Truth, random: Random): DemoLog[] {
  const volt = (heading: string, channel: LoggedColumn['channel']): LoggedColumn => ({
    heading,
    channel,
    quantum: random.pick([0.01, 0.01, 0.01, 0.02, 0.05, 0.1]) * Math.sqrt(plan.blocks),
    noise: 0.005 * plan.blocks,
    gain: random.normal(1, 0.0015),
  });
  const amp = (heading: string, channel: LoggedColumn['channel']): LoggedColumn => ({
    heading,
    channel,
    quantum: random.pick([0.01, 0.1, 0.1]),
    noise: 0.0004 * plan.capacityAh,
    gain: random.normal(1, 0.006),
    offset: random.normal(0, 0.0003 * plan.capacityAh),
  });
  const heat = {
    heading: 'battery temperature (°C)',
    channel: 'battery_temperature',
    quantum: 0.5,
    noise: 0.2,
  } as const satisfies LoggedColumn;
  const shared = {
    timeStyle: 'utc',
    timeZone: 'UTC',
    delimiter: ',',
    decimalChar: '.',
    gapChance: random.pick([0, 0, 0.0005]) * Math.min(1, plan.everySeconds / 60),
  } as const;
  const log = (device: string, everySeconds: number, columns: LoggedColumn[]): DemoLog => ({
    path: `logs/${device}.csv`,
    device,
    text: writeLog(
      seenBy(truth, device),
      {
        ...shared,
        everySeconds,
        timeHeading: 'time',
        columns,
        silences: device === 'monitor' ? silencesOf(plan.monitor) : [],
      },
      random,
    ),
  });
  const usualEvery = Math.max(plan.everySeconds, random.pick([10, 60, 60, 300]));
  // Who looks for a cut-off logs as often as the devices can.
  const monitorEvery = plan.cut ? plan.everySeconds : usualEvery;
  return [
    ...plan.chargers
      .filter((one) => one.logged)
      .map((one, k) =>
        log(one.id, k === 0 ? plan.everySeconds : Math.max(30, plan.everySeconds), [
          volt('charger voltage (V)', 'source_voltage'),
          amp('charger current (A)', 'source_current'),
          ...(plan.logsTemperature ? [heat] : []),
          ...(plan.logsLoad && plan.chargers.length === 1 ? [amp('load current (A)', 'load_current')] : []),
          ...(one.reportsStage ? [{ heading: 'state', channel: 'source_stage', quantum: 1 } as const] : []),
        ]),
      ),
    ...(plan.logsMonitor
      ? [
          log('monitor', monitorEvery, [
            volt('battery voltage (V)', 'battery_voltage'),
            amp('battery current (A)', 'battery_current'),
            ...(plan.logsTemperature && !plan.chargers.some((one) => one.logged) ? [heat] : []),
            ...(plan.monitor.logsReading
              ? [{ heading: 'charge (%)', channel: 'soc', quantum: plan.monitor.quantum } as const]
              : []),
            ...(plan.logsMidpoint ? [volt('midpoint (V)', 'midpoint_voltage')] : []),
          ]),
        ]
      : []),
    ...(plan.logsLoadsApart
      ? (plan.secondLoad ? ['load', 'load-2'] : ['load']).map((id) =>
          log(id, monitorEvery, [
            amp('load current (A)', 'load_current'),
            ...(plan.cut?.logsVolts ? [volt('load voltage (V)', 'load_voltage')] : []),
          ]),
        )
      : []),
    ...(plan.logsBms
      ? [
          log('bms', Math.max(plan.cut ? 10 : 60, plan.everySeconds), [
            { heading: 'pack voltage (V)', channel: 'battery_voltage', quantum: 0.01, noise: 0.004 },
            amp('pack current (A)', 'battery_current'),
            { heading: 'soc (%)', channel: 'soc', quantum: 1 },
            { heading: 'charge allowed', channel: 'bms_charge_allowed', quantum: 1 },
            ...(plan.cut
              ? [{ heading: 'discharge allowed', channel: 'bms_discharge_allowed', quantum: 1 } as const]
              : []),
            ...Array.from({ length: plan.cells }, (_, i): LoggedColumn => {
              const cell = String(i + 1).padStart(2, '0');
              return {
                heading: `cell ${cell} (V)`,
                channel: `cell_${cell}_voltage` as LoggedColumn['channel'],
                quantum: 0.001,
                noise: 0.001,
              };
            }),
          ]),
        ]
      : []),
  ];
}
