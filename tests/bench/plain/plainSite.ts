/**
 * A plain site: one battery, one to two chargers, loads, a monitor, perhaps a BMS, written apart from the simulator of the core so that the
 * diagnosis meets chargers, counters, headings and noise that it was not made beside. Same seed, same site.
 */

import { DAY, HOUR } from '@/core/quantity/span';
import { type Random, seededRandom } from '@/core/simulate/random';
import { type Job, jobSchema, type System } from '@/core/system/schema';
import { type PlainBattery, plainLead, plainLithium } from './plainBattery';
import { plainCharger, type RunningCharger, type Surroundings } from './plainCharger';
import { PLAIN_FROM, plainLogs } from './plainLogs';
import { plainMonitor } from './plainMonitor';
import { isLeadPlan, type PlainPlan } from './plainPlan';
import { describePlain } from './plainSystem';

/** At a moment, epoch ms: what the battery truly held, %. */
interface Event {
  ms: number;
  held: number;
}

export interface PlainSite {
  job: Job;
  system: System;
  logs: { device: string; text: string }[];
  plan: PlainPlan;
  /** Every ten minutes: epoch ms, what it held and what the monitor showed, %. */
  truth: (Event & { shown: number })[];
  /** What let go, and whether it had run for long enough that a log shows it. */
  cuts: (Event & { isSeen: boolean })[];
  /** The monitor called it full. */
  syncs: Event[];
}

const STEP = 10;

/** What is charged together: the bank, or a half of it. */
interface Part {
  battery: PlainBattery;
  chargers: RunningCharger[];
}

function batteryOf(plan: PlainPlan, cells: number): PlainBattery {
  const { capacityAh, holdsAh, resistance, start } = plan;
  if (isLeadPlan(plan))
    return plainLead({
      cells,
      capacityAh: holdsAh,
      ohms: 0.0013 * (100 / capacityAh) * cells * resistance,
      start,
      gassing: plan.chemistry === 'gel' ? 3 : 1,
      peukert: plan.peukert,
    });
  return plainLithium({
    cells: plan.cellAh.map((part, k) => ({
      capacityAh: part * holdsAh,
      charge: Math.min(0.995, start + plan.cellCharge[k]!),
    })),
    ohms: 0.0009 * (100 / capacityAh) * resistance,
    bleedA: plan.bleedA,
  });
}

function partsOf(plan: PlainPlan): Part[] {
  const parts = plan.isSplit ? (['lower', 'upper'] as const) : (['bank'] as const);
  const blocks = plan.blocks / parts.length;
  const cells = blocks * (isLeadPlan(plan) ? 6 : 4);
  return parts.map((part) => ({
    battery: batteryOf(plan, cells),
    chargers: plan.chargers
      .filter((one) => one.across === part)
      .map((one) => plainCharger(one, cells, (isLeadPlan(plan) ? 12.7 : 13.15) * blocks, 0.02 * blocks)),
  }));
}

/** A step of a part at its load: the current at which battery and chargers agree. */
function stepPart({ battery, chargers }: Part, load: number, letsIn: boolean, at: Surroundings) {
  const aims = chargers.map((one) => one.aim(at));
  const given = (volts: number) =>
    aims.map(({ able, target }, k) =>
      Math.min(able, Math.max(0, (target - volts) / (chargers[k]!.plan.ohms + 0.0005))),
    );
  const sum = (all: readonly number[]) => all.reduce((a, b) => a + b, 0);
  const into = (volts: number) => {
    const all = sum(given(volts));
    return (letsIn ? all : Math.min(all, load)) - load;
  };
  let [low, high] = [-load - 1, sum(aims.map((one) => one.able)) + 1];
  for (let k = 0; k < 26; k++) {
    const middle = (low + high) / 2;
    if (into(battery.volts(middle, at.celsius)) > middle) low = middle;
    else high = middle;
  }
  const amps = (low + high) / 2;
  const volts = battery.volts(amps, at.celsius);
  const all = given(volts);
  const gives = letsIn ? all : all.map((one) => (one * load) / Math.max(load, sum(all), 1e-9));
  battery.step(amps, at.seconds, at.celsius);
  let bulkEnded = false;
  chargers.forEach((one, k) => {
    if (one.settle(volts + gives[k]! * one.plan.ohms, gives[k]!, letsIn)) bulkEnded = true;
  });
  return { volts, amps, gives, bulkEnded };
}

function patternAt(plan: PlainPlan, hour: number, seconds: number): number {
  if (plan.pattern === 'even') return 1;
  if (plan.pattern === 'evening') return hour > 17.5 || hour < 1 ? 2.2 : 0.5;
  if (plan.pattern === 'day') return hour > 7 && hour < 18 ? 1.7 : 0.42;
  return seconds % 5400 < 1500 ? 2.6 : 0.38;
}

/** The loads: the usual, and beside them what runs now and then and lets go. */
function plainLoads(plan: PlainPlan, random: Random) {
  const { cut } = plan;
  let away = 0;
  let under = 0;
  let ran = 0;
  let trips = false;
  const isRunning = (seconds: number) =>
    cut !== null && (seconds + 1800) % (cut.everyHours * 3600) < 60 * cut.minutes;
  return {
    draws(hour: number, seconds: number): number {
      away -= STEP;
      if (away > 0 && cut!.takesAll) return 0;
      const base = (plan.drawn / 24) * patternAt(plan, hour, seconds);
      if (away > 0 || !cut || !isRunning(seconds)) return base;
      const { surge } = cut;
      trips = surge !== undefined && !isRunning(seconds - STEP) && random.next() < 0.7;
      return base + (trips ? surge!.amps : cut.amps);
    },
    /** After a step. @returns for how long what let go now had run, s, or null */
    letsGo(seconds: number, volts: number, shown: number): number | null {
      ran = cut && away <= 0 && isRunning(seconds) ? ran + STEP : 0;
      if (!cut || ran === 0) return null;
      under = cut.volts !== undefined && volts < cut.volts ? under + STEP : 0;
      if (under < 20 && !trips && !(cut.percent !== undefined && shown < cut.percent)) return null;
      [away, under, trips] = [cut.awaySeconds, 0, false];
      return ran;
    },
  };
}

/** Runs a plan; the logs are what its devices write, with headings of their own. */
export function runPlainSite(plan: PlainPlan, seed: number): PlainSite {
  const random = seededRandom(seed);
  const lead = isLeadPlan(plan);
  const parts = partsOf(plan);
  const logs = plainLogs(plan, random);
  const loads = plainLoads(plan, random);
  const { blocks, cut } = plan;
  const monitor = plainMonitor(
    plan.monitor,
    plan.start,
    (volts) => (100 * (volts / blocks - (lead ? 11.6 : 12.8))) / (lead ? 1.3 : 0.7),
  );
  const held = () => 100 * Math.min(...parts.map(({ battery }) => battery.charge()));
  let celsius = plan.meanC;
  let sky = 1;
  let letsIn = true;
  let letsOut = true;
  const truth: PlainSite['truth'] = [];
  const cuts: PlainSite['cuts'] = [];
  const syncs: Event[] = [];

  for (let seconds = 0; seconds < plan.days * 86_400; seconds += STEP) {
    const ms = PLAIN_FROM + 1000 * seconds;
    const hour = (seconds / 3600) % 24;
    if (seconds % plan.skySeconds === 0) sky = random.next() < plan.clear ? 1 : random.uniform(0.2, 0.7);
    celsius +=
      ((plan.meanC + plan.dailyC * Math.sin((2 * Math.PI * (hour - 9)) / 24) - celsius) * STEP) / (5 * 3600);
    const daylight = sky * Math.max(0, Math.sin(((hour - 6.2) / 11.6) * Math.PI));
    const asked = loads.draws(hour, seconds);
    const load = letsOut ? asked : 0;
    const at = { hour, day: seconds / 86_400, celsius, daylight, seconds: STEP };
    const stepped = parts.map((part) => stepPart(part, load, letsIn, at));
    const [lower] = stepped as [(typeof stepped)[0]];
    const volts = stepped.reduce((sum, one) => sum + one.volts, 0);
    const cells = parts[0]!.battery.cells(lower.amps, celsius);
    if (cells.length > 0) {
      const lowest = Math.min(...cells);
      letsIn = Math.max(...cells) > 3.65 ? false : letsIn || Math.max(...cells) < 3.4;
      if (lowest < 2.5 && letsOut) cuts.push({ ms, held: held(), isSeen: true });
      letsOut = lowest < 2.5 ? false : letsOut || lowest > 3;
    }

    const gives = stepped.flatMap((one) => one.gives);
    const missed = plan.chargers.reduce(
      (sum, one, k) => sum + (plan.monitor.misses.includes(one.id) ? gives[k]! : 0),
      0,
    );
    const seen = monitor.sees(lower.amps - missed + (plan.monitor.misses.includes('load') ? load : 0));
    if (monitor.count(seen, volts, STEP)) syncs.push({ ms, held: held() });
    if (lower.bulkEnded && plan.monitor.bulkEndPercent !== undefined)
      monitor.setTo(plan.monitor.bulkEndPercent);
    for (const one of plan.monitor.restarts)
      if (Math.abs(seconds - 86_400 * one.day - 3600 * one.silentHours) < STEP / 2 + 1e-6)
        monitor.setTo(one.percent);

    const loadVolts = volts - load * (cut?.ohms ?? 0.0005 * blocks);
    const ran = letsOut ? loads.letsGo(seconds, loadVolts, monitor.shown) : null;
    if (ran !== null)
      cuts.push({ ms, held: held(), isSeen: ran >= 2 * plan.everySeconds || plan.cut!.surge !== undefined });
    if (seconds % 600 === 0) truth.push({ ms, held: held(), shown: monitor.shown });
    const terminals = stepped.flatMap((one, part) =>
      parts[part]!.chargers.map((charger, k) => ({
        volts: one.volts + one.gives[k]! * charger.plan.ohms,
        amps: one.gives[k]!,
        stage: charger.stage,
      })),
    );
    logs.write({
      ms,
      chargers: terminals,
      bank: { volts, amps: lower.amps },
      monitor: { volts, amps: seen, shown: monitor.shown, midpoint: plan.isSplit ? lower.volts : undefined },
      load: { amps: load, volts: loadVolts },
      bms: { cells, letsIn, letsOut, percent: held() },
      celsius,
    });
  }
  return {
    job: jobSchema.parse({
      title: 'Plain',
      complaints: [plan.complaint],
      openedAt: new Date(PLAIN_FROM + plan.days * DAY + HOUR).toISOString(),
      notes: '',
    }),
    system: describePlain(plan),
    logs: logs.texts(),
    plan,
    truth,
    cuts,
    syncs,
  };
}
