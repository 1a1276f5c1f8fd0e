/** A whole site simulated: battery, chargers, weather, loads and monitor on one clock. What comes out is the truth, noiseless. */

import type { KnownMonitor } from '../system/known';
import { type Channel, REPORTED_STAGES, type Series } from '../log/channels';
import type { Battery } from './battery';
import { aim, type ChargerSpec, driveTogether, restingCharger, settle } from './charger';
import { leadBattery, type LeadBatterySpec } from './leadBattery';
import { lithiumBattery, type LithiumBatterySpec } from './lithiumBattery';
import { countStep, type Meter, voltsStep } from './monitor';
import { stratifiedLead, type StratifiedLeadSpec } from './stratifiedLead';
import type { Random } from './random';
import { weather, type Climate } from './weather';

export interface SiteCharger extends ChargerSpec {
  /** Most that the source could give at a moment, A, from the sun (0 to 1) and the air, °C. */
  capableAmps(ms: number, sun: number, airC: number): number;
  /** How far its temperature sensor is off, °C. */
  sensorOffC?: number;
  /** V behind the source when it is there: panel or mains. */
  inputVolts(ms: number, sun: number, amps: number): number;
}

export interface SiteLoad {
  id: string;
  /** What it draws while it is on, A. */
  amps(ms: number, random: Random): number;
  /** Between battery and load. */
  pathOhms?: number;
  /** It drops out below this, at its own terminals, and comes back when the battery is above the other. */
  cutoffV?: number;
  /** After it has been below for so long in all, s, without a minute above. */
  cutoffSeconds?: number;
  reconnectV?: number;
  /** It drops out and comes back by the monitor's reading. */
  cutoffPercent?: number;
  reconnectPercent?: number;
  /** It drops out at once above this current, A. */
  tripA?: number;
  /** However it dropped out, it stays away so long, s; a minute where nothing is said. */
  awaySeconds?: number;
}

/** A load that was switched off by itself, or a battery by its BMS. */
export interface Cut {
  at: number;
  /** Id of the load, or `bms`. */
  by: string;
  why: 'volts' | 'percent' | 'surge' | 'cell-low';
}

export interface SiteSpec {
  from: number;
  days: number;
  /** Step of the simulation, s. */
  stepSeconds: number;
  battery: LeadBatterySpec | StratifiedLeadSpec | LithiumBatterySpec;
  startCharge: number;
  chargers: readonly SiteCharger[];
  climate: Climate;
  loads: readonly SiteLoad[];
  monitor?: KnownMonitor | undefined;
  startReading?: number | undefined;
  /** What the monitor does otherwise than a good one. */
  meter?: Meter | undefined;
  /** Chargers and loads that bypass the monitor. */
  uncounted?: readonly string[];
}

type Columns = Partial<Record<Channel, Float32Array>>;

/** Every channel of the site at every step, exact. `soc` is what the monitor reads; `trueCharge` what the battery holds, %. */
export interface Truth {
  /** The battery, the first charger, all loads together. */
  series: Series;
  /** What each device sees where that is something else: chargers and loads their own, the monitor what passes it, the BMS its cells. */
  of: Record<string, Columns>;
  trueCharge: Float32Array;
  /** Of each charger: 1 where it held its voltage, 0 where it gave what it had or nothing. */
  holding: Record<string, Uint8Array>;
  cuts: Cut[];
}

/** The truth as one device could log it. */
export const seenBy = ({ series, of }: Truth, device: string): Series => ({
  ...series,
  channels: { ...series.channels, ...of[device] },
});

export function runSite(spec: SiteSpec, random: Random): Truth {
  const count = Math.floor((spec.days * 86_400) / spec.stepSeconds);
  const sky = weather(spec.climate, random);
  const battery = batteryOf(spec, sky.airC(spec.from));
  const chargers = spec.chargers.map((charger) => ({ spec: charger, state: restingCharger() }));
  const loads = spec.loads.map((load) => ({ ...load, on: true, low: 0, fine: 0 }));
  const reading = { percent: spec.startReading ?? 100 * spec.startCharge, heldSeconds: 0 };
  const passes = (id: string) => !(spec.uncounted ?? []).includes(id);
  const column = () => new Float32Array(count);
  const time = new Float64Array(count);
  const channels = {
    battery_voltage: column(),
    battery_current: column(),
    battery_temperature: column(),
    ambient_temperature: column(),
    soc: column(),
    load_current: column(),
  };
  const ofCharger = chargers.map(() => ({
    source_voltage: column(),
    source_current: column(),
    source_stage: column(),
    source_input_voltage: column(),
    source_available: column(),
  }));
  const holding: Truth['holding'] = {};
  for (const { id } of spec.chargers) holding[id] = new Uint8Array(count);
  const ofLoad = loads.map(() => ({ load_voltage: column(), load_current: column() }));
  const ofMonitor = { battery_current: column() };
  const ofBms = bmsColumns(battery, count);
  const trueCharge = column();
  const cuts: Cut[] = [];
  let allowed = true;
  let ownStage = '';

  for (let i = 0; i < count; i++) {
    const ms = spec.from + i * spec.stepSeconds * 1000;
    const sun = sky.sun(ms);
    const ambient = sky.airC(ms);
    const drawn = loads.map((load) => (load.on ? load.amps(ms, random) : 0));
    const loadAmps = drawn.reduce((a, b) => a + b, 0);
    const aims = chargers.map(({ spec: charger, state }) =>
      aim(
        charger,
        state,
        spec.stepSeconds,
        charger.capableAmps(ms, sun, ambient),
        battery.state.celsius + (charger.sensorOffC ?? 0),
        ms,
      ),
    );
    const outputs = driveTogether(aims, { loadAmps, ampsAt: battery.ampsAt, voltsAt: battery.voltsAt });
    outputs.forEach((output, k) => settle(aims[k]!, chargers[k]!.state, spec.stepSeconds, output));
    const volts = outputs[0]!.batteryVolts;
    const given = outputs.reduce((sum, output) => sum + output.amps, 0);
    // A battery that is switched off gives nothing: what is on is then fed by the chargers alone, or not at all.
    const dead = volts <= 0;
    const batteryAmps = dead ? 0 : given - loadAmps;
    time[i] = ms;
    channels.battery_voltage[i] = volts;
    channels.battery_current[i] = batteryAmps;
    channels.battery_temperature[i] = battery.state.celsius;
    channels.ambient_temperature[i] = ambient;
    channels.load_current[i] = dead ? 0 : loadAmps;
    outputs.forEach((output, k) => {
      const columns = ofCharger[k]!;
      columns.source_voltage[i] = output.terminalVolts;
      columns.source_current[i] = output.amps;
      columns.source_stage[i] = REPORTED_STAGES.indexOf(chargers[k]!.state.stage);
      columns.source_input_voltage[i] = spec.chargers[k]!.inputVolts(ms, sun, output.amps);
      columns.source_available[i] = spec.chargers[k]!.capableAmps(ms, sun, ambient) > 0 ? 1 : 0;
      holding[spec.chargers[k]!.id]![i] = output.regulating ? 1 : 0;
    });
    loads.forEach((load, k) => {
      const amps = dead ? 0 : drawn[k]!;
      const atLoad = volts - amps * (load.pathOhms ?? 0);
      ofLoad[k]!.load_voltage[i] = Math.max(0, atLoad);
      ofLoad[k]!.load_current[i] = amps;
      const why = switchLoad(load, spec.stepSeconds, { atLoad, volts, amps, percent: reading.percent });
      if (why) cuts.push({ at: ms, by: load.id, why });
    });
    const bypass =
      outputs.reduce((sum, output, k) => sum + (passes(spec.chargers[k]!.id) ? 0 : output.amps), 0) -
      loads.reduce((sum, load, k) => sum + (passes(load.id) || dead ? 0 : drawn[k]!), 0);
    const { gain = 1, offsetA = 0, restarts, bulkEnd } = spec.meter ?? {};
    const own = bulkEnd ? chargers.findIndex((one) => one.spec.id === bulkEnd.source) : -1;
    const passing = own < 0 ? batteryAmps - bypass : outputs[own]!.amps - (dead ? 0 : loadAmps);
    const seen = gain * passing + offsetA;
    ofMonitor.battery_current[i] = seen;
    if (spec.meter?.volts) voltsStep(spec.meter.volts, reading, spec.stepSeconds, volts);
    else if (spec.monitor) {
      countStep(spec.monitor, reading, spec.stepSeconds, volts, seen);
      if (own >= 0) {
        const { stage } = chargers[own]!.state;
        if (stage === 'absorption' && ownStage === 'bulk') reading.percent = bulkEnd!.percent;
        ownStage = stage;
      }
    }
    const restart = restarts?.find(({ at }) => ms - spec.stepSeconds * 1000 < at && at <= ms);
    if (restart) Object.assign(reading, { percent: restart.percent, heldSeconds: 0 });
    channels.soc[i] = reading.percent;
    ofBms?.take(i, batteryAmps);
    battery.step(spec.stepSeconds, volts, batteryAmps, ambient);
    trueCharge[i] = 100 * battery.charge();
    const allows = battery.state.dischargeAllowed ?? true;
    if (allowed && !allows) cuts.push({ at: ms, by: 'bms', why: 'cell-low' });
    allowed = allows;
  }
  const of: Truth['of'] = { monitor: ofMonitor };
  chargers.forEach(({ spec: { id } }, k) => (of[id] = ofCharger[k]!));
  loads.forEach(({ id }, k) => (of[id] = ofLoad[k]!));
  if (ofBms) of.bms = { ...ofBms.columns, soc: trueCharge };
  return {
    series: { device: 'truth', time, channels: { ...channels, ...ofCharger[0] } },
    of,
    trueCharge,
    holding,
    cuts,
  };
}

function batteryOf({ battery, startCharge }: SiteSpec, celsius: number): Battery {
  if (!('kind' in battery))
    return leadBattery(battery, { available: startCharge, bound: startCharge, celsius });
  return battery.kind === 'lithium' ? lithiumBattery(battery) : stratifiedLead(battery, startCharge);
}

interface SwitchedLoad extends SiteLoad {
  on: boolean;
  /** Seconds below the cut-off, and since it was last below. */
  low: number;
  fine: number;
}

/** Switches a load by what it sees. @returns why it dropped out, where it did so now */
function switchLoad(
  load: SwitchedLoad,
  seconds: number,
  { atLoad, volts, amps, percent }: { atLoad: number; volts: number; amps: number; percent: number },
): Cut['why'] | null {
  const { cutoffV, cutoffSeconds = 0, reconnectV, cutoffPercent, reconnectPercent, tripA } = load;
  if (load.on) {
    if (cutoffV !== undefined && atLoad < cutoffV) {
      load.low += seconds;
      load.fine = 0;
    } else {
      load.fine += seconds;
      if (load.fine > 60) load.low = 0;
    }
    const why =
      tripA !== undefined && amps > tripA
        ? 'surge'
        : load.low > cutoffSeconds
          ? 'volts'
          : cutoffPercent !== undefined && percent <= cutoffPercent
            ? 'percent'
            : null;
    if (why) load.on = false;
    if (why) load.fine = Math.min(load.fine, 60 - (load.awaySeconds ?? load.fine));
    return why;
  }
  load.fine += seconds;
  load.on =
    load.fine > 60 &&
    (reconnectV === undefined || volts >= reconnectV) &&
    (reconnectPercent === undefined || percent >= reconnectPercent);
  if (load.on) load.low = 0;
  return null;
}

/** What a BMS would log; null where cells are not simulated. */
function bmsColumns(battery: Battery, count: number) {
  const { cellVolts, packVolts, state } = battery;
  if (!cellVolts || !packVolts) return null;
  const cells = cellVolts(0).map(() => new Float32Array(count));
  const pack = new Float32Array(count);
  const allowed = { charge: new Float32Array(count), discharge: new Float32Array(count) };
  const columns: Columns = {
    battery_voltage: pack,
    bms_charge_allowed: allowed.charge,
    bms_discharge_allowed: allowed.discharge,
  };
  cells.forEach((values, k) => (columns[`cell_${String(k + 1).padStart(2, '0')}_voltage`] = values));
  return {
    columns,
    take(i: number, amps: number) {
      cellVolts(amps).forEach((volts, k) => (cells[k]![i] = volts));
      pack[i] = packVolts(amps);
      allowed.charge[i] = state.chargeAllowed ? 1 : 0;
      allowed.discharge[i] = state.dischargeAllowed ? 1 : 0;
    },
  };
}
