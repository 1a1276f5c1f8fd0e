/** A whole site simulated: battery, charger, weather, loads and monitor on one clock. What comes out is the truth, noiseless. */

import type { KnownMonitor } from '../system/known';
import { REPORTED_STAGES, type Series } from '../log/channels';
import { runCharger, restingCharger, type ChargerSpec } from './charger';
import { leadBattery, type LeadBatterySpec } from './leadBattery';
import { countStep } from './monitor';
import type { Random } from './random';
import { weather, type Climate } from './weather';

export interface SiteSpec {
  from: number;
  days: number;
  /** Step of the simulation, s. */
  stepSeconds: number;
  battery: LeadBatterySpec;
  startCharge: number;
  charger: ChargerSpec;
  climate: Climate;
  /** Most that the source could give at a moment, A, from the sun (0 to 1). */
  capableAmps(ms: number, sun: number): number;
  loadAmps(ms: number, random: Random): number;
  monitor?: KnownMonitor | undefined;
  startReading?: number | undefined;
  /** V behind the source when it is there: panel or mains. */
  inputVolts(ms: number, sun: number, amps: number): number;
}

/** Every channel of the site at every step, exact. `soc` is what the monitor reads; `true_soc` what the battery holds, %. */
export interface Truth {
  series: Series;
  trueCharge: Float32Array;
}

export function runSite(spec: SiteSpec, random: Random): Truth {
  const count = Math.floor((spec.days * 86_400) / spec.stepSeconds);
  const sky = weather(spec.climate, random);
  const battery = leadBattery(spec.battery, {
    available: spec.startCharge,
    bound: spec.startCharge,
    celsius: sky.airC(spec.from),
  });
  const charger = restingCharger();
  const reading = { percent: spec.startReading ?? 100 * spec.startCharge, heldSeconds: 0 };
  const column = () => new Float32Array(count);
  const time = new Float64Array(count);
  const channels = {
    battery_voltage: column(),
    battery_current: column(),
    battery_temperature: column(),
    ambient_temperature: column(),
    soc: column(),
    source_voltage: column(),
    source_current: column(),
    source_stage: column(),
    source_input_voltage: column(),
    load_current: column(),
  };
  const trueCharge = column();

  for (let i = 0; i < count; i++) {
    const ms = spec.from + i * spec.stepSeconds * 1000;
    const sun = sky.sun(ms);
    const ambient = sky.airC(ms);
    const loadAmps = spec.loadAmps(ms, random);
    const output = runCharger(
      spec.charger,
      charger,
      spec.stepSeconds,
      spec.capableAmps(ms, sun),
      battery.state.celsius,
      { loadAmps, ampsAt: battery.ampsAt, voltsAt: battery.voltsAt },
    );
    const batteryAmps = output.amps - loadAmps;
    time[i] = ms;
    channels.battery_voltage[i] = output.batteryVolts;
    channels.battery_current[i] = batteryAmps;
    channels.battery_temperature[i] = battery.state.celsius;
    channels.ambient_temperature[i] = ambient;
    channels.source_voltage[i] = output.terminalVolts;
    channels.source_current[i] = output.amps;
    channels.source_stage[i] = REPORTED_STAGES.indexOf(charger.stage);
    channels.source_input_voltage[i] = spec.inputVolts(ms, sun, output.amps);
    channels.load_current[i] = loadAmps;
    if (spec.monitor) countStep(spec.monitor, reading, spec.stepSeconds, output.batteryVolts, batteryAmps);
    channels.soc[i] = reading.percent;
    battery.step(spec.stepSeconds, output.batteryVolts, batteryAmps, ambient);
    trueCharge[i] = 100 * battery.charge();
  }
  return { series: { device: 'truth', time, channels }, trueCharge };
}
