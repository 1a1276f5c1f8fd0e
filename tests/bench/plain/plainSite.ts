/**
 * A plain site: one battery, one to two chargers, loads, a monitor, perhaps a BMS, written apart from the simulator of the core so that the
 * diagnosis meets chargers, counters, headings and noise that it was not made beside. Same seed, same site.
 */

import { DAY, HOUR } from '@/core/quantity/span';
import { seededRandom } from '@/core/simulate/random';
import { type Job, jobSchema, type System } from '@/core/system/schema';
import { plainLead, plainLithium, type PlainBattery } from './plainBattery';
import { describePlain, isLeadPlan, type PlainPlan } from './plainPlan';

export interface PlainSite {
  job: Job;
  system: System;
  logs: { device: string; text: string }[];
  plan: PlainPlan;
  /** Every ten minutes: epoch ms, what it held and what the monitor showed, %. */
  truth: { ms: number; held: number; shown: number }[];
  cuts: number[];
}

const FROM = Date.UTC(2026, 3, 6);
const STEP = 10;
interface ChargerState {
  stage: 'Off' | 'Bulk' | 'Absorption' | 'Float';
  heldSeconds: number;
  lowSeconds: number;
  awaySeconds: number;
}

function batteryOf(plan: PlainPlan): PlainBattery {
  const { capacityAh, holdsAh, blocks, resistance, start } = plan;
  if (isLeadPlan(plan))
    return plainLead({
      cells: 6 * blocks,
      capacityAh: holdsAh,
      ohms: 0.0013 * (100 / capacityAh) * 6 * blocks * resistance,
      start,
      gassing: plan.chemistry === 'gel' ? 3 : 1,
    });
  return plainLithium({
    cells: plan.cellAh.map((part, k) => ({
      capacityAh: part * holdsAh,
      charge: Math.min(0.995, start + plan.cellCharge[k]!),
    })),
    ohms: 0.0009 * (100 / capacityAh) * resistance,
  });
}

function patternAt(plan: PlainPlan, hour: number, seconds: number): number {
  if (plan.pattern === 'even') return 1;
  if (plan.pattern === 'evening') return hour > 17.5 || hour < 1 ? 2.2 : 0.5;
  if (plan.pattern === 'day') return hour > 7 && hour < 18 ? 1.7 : 0.42;
  return seconds % 5400 < 1500 ? 2.6 : 0.38;
}

/** Runs a plan; the logs are what its devices write, with headings of their own. */
export function runPlainSite(plan: PlainPlan, seed: number): PlainSite {
  const random = seededRandom(seed);
  const lead = isLeadPlan(plan);
  const cells = plan.blocks * (lead ? 6 : 4);
  const battery = batteryOf(plan);
  const states = plan.chargers.map((): ChargerState => ({
    stage: 'Off',
    heldSeconds: 0,
    lowSeconds: 0,
    awaySeconds: 1e9,
  }));
  const noise = random.pick([0.003, 0.006, 0.01]) * plan.blocks;
  const [voltStep, ampStep] = [random.pick([0.01, 0.01, 0.02, 0.1]), random.pick([0.01, 0.1])];
  const gains = plan.chargers.map(() => random.normal(1, 0.005));
  const own = random.normal(1, 0.005);
  const rows = new Map<string, string[]>();
  const write = (device: string, heading: string[], values: (number | string)[]) => {
    const log = rows.get(device) ?? [heading.join(',')];
    log.push(values.map((one) => (typeof one === 'number' ? String(Number(one.toFixed(3))) : one)).join(','));
    rows.set(device, log);
  };
  const volt = (value: number) => Math.round((value + random.normal(0, noise)) / voltStep) * voltStep;
  const amp = (value: number) =>
    Math.round((value + random.normal(0, 0.0003 * plan.capacityAh)) / ampStep) * ampStep;
  const { monitor, cut } = plan;
  const counted = (percent: number) => (percent / 100) * monitor.capacityAh;
  let count = counted(monitor.startReading ?? 100 * plan.start);
  let syncSeconds = 0;
  let celsius = plan.meanC;
  let sun = 1;
  let awaySeconds = 0;
  let underSeconds = 0;
  let letsIn = true;
  let letsOut = true;
  const truth: PlainSite['truth'] = [];
  const cuts: number[] = [];

  for (let seconds = 0; seconds < plan.days * 86_400; seconds += STEP) {
    const ms = FROM + 1000 * seconds;
    const hour = (seconds / 3600) % 24;
    if (seconds % 900 === 0) sun = random.next() < plan.clear ? 1 : random.uniform(0.2, 0.7);
    celsius +=
      ((plan.meanC + plan.dailyC * Math.sin((2 * Math.PI * (hour - 9)) / 24) - celsius) * STEP) / (5 * 3600);
    const base = (plan.drawn / 24) * patternAt(plan, hour, seconds);
    const runs =
      cut !== null && awaySeconds <= 0 && (seconds + 1800) % (cut.everyHours * 3600) < 60 * cut.minutes;
    awaySeconds -= STEP;
    const load = letsOut ? base + (runs ? cut.amps : 0) : 0;

    const daylight = Math.max(0, Math.sin(((hour - 6.2) / 11.6) * Math.PI));
    const aims = plan.chargers.map((one, k) => {
      const state = states[k]!;
      const there = (hour + 24 - one.from) % 24 < one.hours;
      const able =
        one.kind === 'solar'
          ? Math.min(one.givesA, 1.2 * one.givesA * daylight * sun)
          : there
            ? one.givesA
            : 0;
      const blocked = one.blockBelowC !== undefined && celsius < one.blockBelowC;
      if (able < 0.005 * one.ratedA || blocked) {
        state.awaySeconds += STEP;
        if (state.awaySeconds > 1800) state.stage = 'Off';
        return { able: 0, target: 0 };
      }
      if (state.stage === 'Off') Object.assign(state, { stage: 'Bulk', heldSeconds: 0 });
      state.awaySeconds = 0;
      const at25 = state.stage === 'Float' ? one.floatV : one.absorptionV;
      return { able, target: at25 + (one.compensationMv * cells * (celsius - 25)) / 1000 };
    });
    const given = (volts: number) =>
      aims.map(({ able, target }, k) =>
        Math.min(able, Math.max(0, (target - volts) / (plan.chargers[k]!.ohms + 0.0005))),
      );
    const into = (volts: number) => {
      const all = given(volts).reduce((a, b) => a + b, 0);
      return (letsIn ? all : Math.min(all, load)) - load;
    };
    let [low, high] = [-load - 1, aims.reduce((sum, one) => sum + one.able, 0) + 1];
    for (let k = 0; k < 36; k++) {
      const middle = (low + high) / 2;
      if (into(battery.volts(middle, celsius)) > middle) low = middle;
      else high = middle;
    }
    const amps = (low + high) / 2;
    const volts = battery.volts(amps, celsius);
    const gives = given(volts).map((one, _, all) =>
      letsIn
        ? one
        : (one * load) /
          Math.max(
            load,
            all.reduce((a, b) => a + b, 0),
            1e-9,
          ),
    );
    battery.step(amps, STEP, celsius);

    const each = battery.cells(amps);
    if (each.length > 0) {
      const highest = Math.max(...each);
      const lowest = Math.min(...each);
      letsIn = highest > 3.65 ? false : letsIn || highest < 3.4;
      if (lowest < 2.5 && letsOut) cuts.push(ms);
      letsOut = lowest < 2.5 ? false : letsOut || lowest > 3;
    }
    plan.chargers.forEach((one, k) => {
      const state = states[k]!;
      const { able, target } = aims[k]!;
      if (able === 0) return;
      const own = volts + gives[k]! * one.ohms;
      const at = own >= target - 0.02 * plan.blocks || !letsIn;
      if (state.stage === 'Bulk' && at) state.stage = 'Absorption';
      else if (state.stage === 'Absorption') {
        if (at) state.heldSeconds += STEP;
        const tailed = one.tailA !== undefined && at && state.heldSeconds > 300 && gives[k]! < one.tailA;
        if (tailed || state.heldSeconds >= 60 * one.minutes) state.stage = 'Float';
      } else if (state.stage === 'Float') {
        state.lowSeconds = own < (lead ? 12.7 : 13.15) * plan.blocks ? state.lowSeconds + STEP : 0;
        if (state.lowSeconds > 900) Object.assign(state, { stage: 'Bulk', heldSeconds: 0, lowSeconds: 0 });
      }
    });

    const missed = plan.chargers.reduce(
      (sum, one, k) => sum + (monitor.misses.includes(one.id) ? gives[k]! : 0),
      0,
    );
    const seen =
      (amps - missed + (monitor.misses.includes('load') ? load : 0)) * monitor.gain + monitor.offsetA;
    const rate = Math.max(1, (Math.abs(seen) / (monitor.capacityAh / 20)) ** (monitor.peukert - 1));
    count += (seen * (seen > 0 ? monitor.efficiency / 100 : rate) * STEP) / 3600;
    const charged = volts > monitor.chargedV && Math.abs(seen) < counted(monitor.tailPercent);
    syncSeconds = charged ? syncSeconds + STEP : 0;
    if (syncSeconds >= 60 * monitor.minutes) count = monitor.capacityAh;
    if (monitor.byVolts)
      count = counted((100 * (volts / plan.blocks - (lead ? 11.6 : 12.8))) / (lead ? 1.3 : 0.7));
    count = Math.min(monitor.capacityAh, Math.max(0, count));
    const shown = (100 * count) / monitor.capacityAh;

    const loadVolts = volts - load * (cut?.ohms ?? 0.0005 * plan.blocks);
    if (cut && runs) {
      underSeconds = cut.volts !== undefined && loadVolts < cut.volts ? underSeconds + STEP : 0;
      if (underSeconds >= 20 || (cut.percent !== undefined && shown < cut.percent)) {
        cuts.push(ms);
        awaySeconds = cut.awaySeconds;
        underSeconds = 0;
      }
    }
    if (seconds % 600 === 0) truth.push({ ms, held: 100 * battery.charge(), shown });
    if (seconds % plan.everySeconds !== 0) continue;
    const time = new Date(ms).toISOString().replace('.000Z', 'Z');
    const { logs } = plan;
    const heat = logs.heat ? [Math.round(2 * celsius) / 2] : [];
    plan.chargers.forEach((one, k) => {
      if (!logs.charger || !one.logged) return;
      write(
        one.id,
        [
          'Timestamp',
          'Charger output voltage (V)',
          'Charger output current (A)',
          ...(one.tellsStage ? ['Charge state'] : []),
          ...heat.map(() => 'Battery temperature (°C)'),
        ],
        [
          time,
          volt(volts + gives[k]! * one.ohms),
          Math.max(0, amp(gives[k]! * gains[k]!)),
          ...(one.tellsStage ? [states[k]!.stage] : []),
          ...heat,
        ],
      );
    });
    if (logs.monitor)
      write(
        'monitor',
        [
          'Timestamp',
          'Battery voltage (V)',
          'Battery current (A)',
          ...heat.map(() => 'Battery temperature (°C)'),
          ...(logs.reading ? ['State of charge (%)'] : []),
        ],
        [time, volt(volts), amp(seen * own), ...heat, ...(logs.reading ? [Math.round(10 * shown) / 10] : [])],
      );
    if (logs.load)
      write(
        'load',
        ['Timestamp', 'Load current (A)', 'Load voltage (V)'],
        [time, amp(load), volt(loadVolts)],
      );
    if (logs.bms)
      write(
        'bms',
        [
          'Timestamp',
          'Battery voltage (V)',
          'Battery current (A)',
          'Charge allowed',
          'Discharge allowed',
          ...each.map((_, k) => `Cell ${k + 1} voltage (V)`),
          'SOC (%)',
        ],
        [
          time,
          volts,
          amp(amps),
          Number(letsIn),
          Number(letsOut),
          ...each,
          Math.round(100 * battery.charge()),
        ],
      );
  }
  return {
    job: jobSchema.parse({
      title: 'Plain',
      complaints: [plan.complaint],
      openedAt: new Date(FROM + plan.days * DAY + HOUR).toISOString(),
      notes: '',
    }),
    system: describePlain(plan, cells),
    logs: [...rows].map(([device, lines]) => ({ device, text: `${lines.join('\n')}\n` })),
    plan,
    truth,
    cuts,
  };
}
