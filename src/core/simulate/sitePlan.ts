/**
 * A site before it is built: what a random draw decides and what a fault may change. Everything is spread as widely as the trade
 * meets it, so that nothing is tuned to one battery, one logger or one climate.
 */

import { DAY, HOUR } from '../quantity/span';
import { CHEMISTRY, isLead, type Range } from '../system/chemistry';
import type { Chemistry, Complaint } from '../system/schema';
import type { KnownMonitor } from '../system/known';
import { evenCells, type Bms, type LithiumCell } from './lithiumBattery';
import type { Meter } from './monitor';
import { type Random, seededRandom } from './random';
import type { Climate } from './weather';

export interface ChargerPlan {
  id: string;
  name: string;
  kind: 'mains' | 'solar' | 'generator';
  /** On its plate, and what it gives, A. */
  ratedA: number;
  givesA: number;
  /** Share of what it gives that is left at a moment: a charger that fades as it warms. */
  share?: (ms: number, airC: number) => number;
  /** Across one half of the bank; its voltages are that half's. */
  across?: 'lower' | 'upper';
  /** Whether its mains or engine is there. */
  present(ms: number): boolean;
  /** V at 25 °C, whole bank. */
  absorptionV: number;
  floatV: number;
  /** mV per °C per cell. */
  compensationMv: number;
  absorptionMinutes: number;
  countsOn: boolean;
  tailA?: number | undefined;
  rebulkV: number;
  pathOhms: number;
  remoteSense: boolean;
  blockBelowC?: number;
  sensorOffC?: number;
  equalise?: { volts: number; minutes: number; dueAt: number[] };
  /** What is told of its charge voltage, where that is not what it does. */
  configuredAbsorptionV?: number;
  logged: boolean;
  reportsStage: boolean;
}

export interface MonitorPlan {
  /** As it is described, and what else is in the device. */
  settings: KnownMonitor;
  device: Partial<KnownMonitor>;
  meter: Meter;
  startReading: number;
  /** Chargers and loads that bypass it, and what is told of that. */
  uncounted: string[];
  describedCounted: boolean | null;
  logsReading: boolean;
  /** How long its log is silent before each restart, ms. */
  silentMs?: number;
  /** Least step of its reading, %. */
  quantum: number;
}

/** What switches the loads off, and how hard they draw; nothing of it where they simply run. */
export interface CutPlan {
  /** Of the whole bank, at the load's own terminals. */
  cutoffV?: number;
  cutoffSeconds?: number;
  reconnectV?: number;
  /** However it dropped out, so long until somebody or something brings it back. */
  awaySeconds: number;
  cutoffPercent?: number;
  reconnectPercent?: number;
  pathOhms?: number;
  /** Beside what is drawn always: runs of so many amperes. */
  heavy?: { amps: number; minutes: number; everyHours: number };
  /** Starts of so many amperes for a moment, and what trips, A. */
  surge?: { amps: number; everyHours: number; tripA: number };
  /** What is told of the settings. */
  told: boolean;
  /** The load logs its own voltage beside its current. */
  logsVolts: boolean;
}

export interface SitePlan {
  /** A charger across each half; then what the monitor's voltage is of. */
  halves: null | { monitorSees: 'bank' | 'lower' };
  /** Days from one charge to the next. */
  chargeEveryDays: number;
  chemistry: Chemistry;
  blocks: number;
  cells: number;
  /** On the label, and what it holds, Ah. */
  capacityAh: number;
  trueCapacityAh: number;
  /** Which of the two models of its chemistry. */
  model: 'first' | 'second';
  resistance: number;
  gassing: number;
  startCharge: number;
  chargeVolts: Range;
  floatVolts: Range;
  chargers: ChargerPlan[];
  climate: Climate;
  meanLoadA: number;
  /** Load at a moment as a multiple of the mean. */
  loadShape(ms: number): number;
  lithium: { cells: LithiumCell[]; bms: Bms };
  from: number;
  days: number;
  everySeconds: number;
  logsMonitor: boolean;
  logsBms: boolean;
  logsTemperature: boolean;
  logsLoad: boolean;
  /** The loads have a log of their own. */
  logsLoadsApart: boolean;
  monitor: MonitorPlan;
  complaints: Complaint[];
  /** A second load that draws a share of what is drawn, always or by night. */
  secondLoad?: { share: number; nightly: boolean };
  cut?: CutPlan;
  /** The BMS or a wire tells the voltage of the lower half. */
  logsMidpoint?: true;
  /** What its maker asks for, told of the bank. */
  bankEqualise?: { volts: number; minutes: number; everyDays: number; lastOn?: string };
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));

/** A site in good order, of either chemistry, with one to three sources. */
export function drawPlan(random: Random): SitePlan {
  const chemistry = random.pick(['flooded', 'agm', 'gel', 'lfp', 'lfp'] as const);
  const lead = isLead(chemistry);
  const figures = CHEMISTRY[chemistry];
  const blocks = random.pick([1, 1, 2, 4]);
  const cells = figures.cellsPerBlock * blocks;
  const capacityAh = random.pick([80, 120, 200, 300, 450]);
  const trueCapacityAh = capacityAh * (lead ? random.uniform(0.88, 1.1) : random.uniform(0.95, 1.05));
  const chargeVolts = {
    min: round(figures.chargeV.min * cells, 1),
    max: round(figures.chargeV.max * cells, 1),
  };
  const floatVolts = { min: round(figures.floatV.min * cells, 1), max: round(figures.floatV.max * cells, 1) };
  const kinds = random.pick([
    ['solar'],
    ['solar'],
    ['mains'],
    ['mains'],
    ['generator'],
    ['solar', 'mains'],
    ['solar', 'solar'],
    ['mains', 'mains'],
    ['solar', 'mains', 'solar'],
  ] as ChargerPlan['kind'][][]);
  const halves =
    lead && blocks > 1 && kinds.length === 1 && kinds[0] !== 'generator' && random.next() < 0.25
      ? { monitorSees: random.pick(['bank', 'lower'] as const) }
      : null;
  // An engine is not always run every day.
  const chargeEveryDays = kinds[0] === 'generator' ? random.pick([1, 1, 2, 3]) : 1;
  const drawn = (capacityAh * random.uniform(0.12, lead ? 0.32 : 0.5)) / Math.sqrt(chargeEveryDays);
  const meanLoadA = drawn / 24;
  const days = Math.round(random.uniform(6, 22));
  const from = Date.UTC(2026, Math.floor(random.uniform(2, 10)), 1 + Math.floor(random.uniform(0, 27)));
  const middle = (chargeVolts.min + chargeVolts.max) / 2 + random.uniform(-0.08, 0.08) * blocks;
  const compensationMv = lead ? random.pick([-3, -4, -5]) : 0;
  const floatV = lead
    ? random.uniform(13.6, 13.8) * blocks
    : random.pick([13.3, 13.4, 13.5, 13.55]) * blocks + random.uniform(-0.03, 0.03) * blocks;
  const everySeconds = random.pick([1, 10, 30, 30, 60, 60, 60, 120, 300, 600]);
  const drawCharger = (kind: ChargerPlan['kind'], k: number): ChargerPlan => {
    const hours = kind === 'solar' ? 5 : kind === 'generator' ? 7 : 15;
    const least = (drawn * chargeEveryDays * 1.15) / hours / kinds.length;
    const ratedA = round(Math.max(capacityAh * random.uniform(0.09, lead ? 0.2 : 0.35), 2.3 * least), 1);
    const usesTail = random.next() < 0.6;
    return {
      id: k === 0 ? 'charger' : `charger-${k + 1}`,
      name: k === 0 ? 'Charger' : `Charger ${k + 1}`,
      kind,
      ratedA,
      givesA: ratedA * random.uniform(0.97, 1.02),
      present: presence(kind, random, kinds.length > 1, chargeEveryDays),
      absorptionV: round(middle + (k === 0 ? 0 : random.uniform(-0.06, 0.06) * blocks), 2),
      floatV: round(floatV + (k === 0 ? 0 : random.uniform(-0.05, 0.05) * blocks), 2),
      compensationMv,
      absorptionMinutes: lead ? random.pick([240, 300, 360, 480]) : random.pick([20, 45, 60, 120]),
      countsOn: random.next() < 0.4,
      // Loads are inside what the charger sees: whoever sets a tail allows for them.
      tailA: usesTail
        ? (random.uniform(0.6, 1.6) / 100) * capacityAh + (kinds.length > 1 ? 0.5 : 1) * meanLoadA
        : undefined,
      rebulkV: (lead ? 12.6 : 13.1) * blocks,
      pathOhms: random.uniform(0.001, 0.003) * blocks * Math.min(1.5, 25 / ratedA),
      remoteSense: random.next() < 0.3,
      logged: k === 0 || random.next() < 0.8,
      reportsStage: random.next() < 0.45,
    };
  };
  const whole = kinds.map(drawCharger);
  const chargers = halves ? [halfOf(whole[0]!, 'lower'), halfOf(drawCharger(kinds[0]!, 1), 'upper')] : whole;
  const logged = random.pick(['both', 'both', 'charger', 'monitor']);
  if (logged === 'monitor' && chargers.length === 1) chargers[0]!.logged = false;
  const cold = !lead;
  const plan = {
    halves,
    chargeEveryDays,
    chemistry,
    blocks,
    cells,
    capacityAh,
    trueCapacityAh,
    model: random.pick(['first', 'second'] as const),
    resistance: random.uniform(0.7, 1.6),
    gassing: random.uniform(0.7, 1.8) * (chemistry === 'flooded' ? 1.5 : 1),
    startCharge: random.uniform(0.7, 0.97),
    chargeVolts,
    floatVolts,
    chargers,
    climate: {
      latitude: random.uniform(36, 46),
      longitude: random.uniform(5, 25),
      meanC: random.uniform(cold ? 10 : 8, 26),
      dailyC: random.uniform(1, 7),
      clear: random.uniform(0.5, 0.85),
      mixed: 0.15,
    },
    meanLoadA,
    loadShape: drawShape(random),
    lithium: {
      cells: evenCells(cells, trueCapacityAh, 0.9, () => random.normal(0, 0.003)),
      bms: {
        cellHighV: 3.65,
        cellLowV: 2.6,
        cellHighReleaseV: 3.45,
        cellLowReleaseV: 2.9,
        balanceV: 3.45,
        balanceA: 0.1,
        chargeAboveC: 0,
      },
    },
    from,
    days: everySeconds < 5 ? 3 : everySeconds < 30 ? Math.min(days, 8) : days,
    everySeconds,
    logsMonitor: logged !== 'charger',
    logsBms: !lead && random.next() < 0.4,
    logsTemperature: random.next() < 0.65,
    logsLoad: random.next() < 0.2,
    logsLoadsApart: random.next() < 0.15,
  };
  return { ...plan, monitor: drawMonitor(plan), complaints: ['undercharging', 'drifting-soc'] };
}

/** A monitor set by the rules of one of the schools. Its draws are its own: a site is the same whatever counts on it. */
function drawMonitor(plan: Omit<SitePlan, 'monitor' | 'complaints'>): MonitorPlan {
  const { chemistry, blocks, capacityAh, chargers, halves, startCharge } = plan;
  const random = seededRandom(Math.floor(plan.trueCapacityAh * 1e5));
  const lead = isLead(chemistry);
  const steady = lead && chargers.every((one) => one.kind === 'mains') && random.next() < 0.6;
  const lowest = Math.min(...chargers.map((one) => (steady ? one.floatV : one.absorptionV)));
  const margin = random.uniform(0.2, lead ? 0.35 : 0.25) * (halves ? blocks / 2 : blocks);
  return {
    settings: {
      method: 'shunt',
      ...(halves ? { sees: halves.monitorSees } : {}),
      capacityAh,
      chargedV: round((halves?.monitorSees === 'bank' ? 2 : 1) * (lowest - margin), 1),
      tailPercent: random.pick([4, 4, 5, 6]),
      detectionMinutes: random.pick([1, 3, 3, 5]),
      efficiencyPercent: random.pick(lead ? [80, 85, 85, 90] : [95, 98, 98, 99]),
      peukert: random.pick(lead ? [1.2, 1.24, 1.25] : [1.05, 1.05, 1.1]),
      floorPercent: lead ? 50 : 10,
      thresholdA: random.pick([0, 0.1, 0.1]),
      peukertBelowRate: random.next() < 0.3,
    },
    device: {},
    meter: {},
    startReading: Math.min(100, 100 * startCharge + random.normal(0, 2)),
    uncounted: [],
    describedCounted: true,
    logsReading: random.next() < 0.85,
    quantum: random.pick([0.1, 0.1, 0.5, 1]),
  };
}

/** A charger across one half: its volts are that half's, and it carries the whole of the load through it. */
function halfOf(one: ChargerPlan, across: 'lower' | 'upper'): ChargerPlan {
  const half = (volts: number) => round(volts / 2, 2);
  return {
    ...one,
    across,
    absorptionV: half(one.absorptionV),
    floatV: one.floatV / 2,
    rebulkV: one.rebulkV / 2,
    pathOhms: one.pathOhms / 2,
    logged: true,
  };
}

/** When mains or an engine is there: away for hours each day, now and then, or never; an engine runs for hours. */
function presence(
  kind: ChargerPlan['kind'],
  random: Random,
  helped: boolean,
  everyDays: number,
): (ms: number) => boolean {
  if (kind === 'solar') return () => true;
  const start = random.uniform(0, 24);
  const within = (ms: number, hours: number) => ((ms % DAY) / HOUR + 24 - start) % 24 < hours;
  if (kind === 'generator') {
    const runs = random.uniform(5, 10);
    return (ms) => within(ms, runs) && Math.floor((ms - start * HOUR) / DAY) % everyDays === 0;
  }
  const away = random.uniform(3, 9);
  const every = helped || random.next() < 0.7 ? 1 : random.pick([2, 4]);
  return (ms) => !(within(ms, away) && Math.floor(ms / DAY) % every === 0);
}

/** Where in a turn the full hour lies: a logger that writes at the full minutes meets each part of a turn as often as any other. */
const MIDDLE = 0.47;

/** What runs for a share of each turn, at a moment of the turn that nobody foresees: 0, or 1 over the share while it runs. */
export function pulsed(ms: number, every: number, share: number): number {
  const at = ms + MIDDLE * every;
  const turn = Math.floor(at / every);
  const start = (((turn * 2_654_435_761) % 1000) / 1000) * (1 - share);
  const within = (at % every) / every;
  return within >= start && within < start + share ? 1 / share : 0;
}

/** Loads: even, by night, or in runs that keep step with no logger. */
function drawShape(random: Random): (ms: number) => number {
  const night = random.next() < 0.3;
  const pulse =
    random.next() < 0.45
      ? { every: random.pick([600, 900, 3600]) * 1000, share: random.uniform(0.05, 0.25) }
      : null;
  return (ms) => {
    const hour = (ms % DAY) / HOUR;
    // No day is like the other.
    const day = 0.65 + (0.7 * (((Math.floor(ms / DAY) * 2_654_435_761) >>> 7) % 1000)) / 1000;
    const base = day * (night ? (hour < 5 || hour > 18 ? 1.6 : 0.5) : 1);
    return pulse ? base * (0.6 + 0.4 * pulsed(ms, pulse.every, pulse.share)) : base;
  };
}
