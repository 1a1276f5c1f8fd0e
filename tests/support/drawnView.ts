/** A view of a source drawn minute by minute, for tests whose answer is known. */

import type { ChargeView } from '@/core/charge/view';
import { REPORTED_STAGES, type ReportedStage } from '@/core/log/channels';
import { MINUTE } from '@/core/quantity/span';
import { seededRandom } from '@/core/simulate/random';

export interface Drawing {
  minutes: number;
  volts: (minute: number) => number;
  amps: (minute: number) => number;
  /** Into the battery, where a monitor logs it beside the source. */
  battery?: (minute: number) => number;
  /** At the battery, where another than the source logs it. */
  batteryVolts?: (minute: number) => number;
  celsius?: (minute: number) => number;
  /** Of the other sources, where they are logged. */
  others?: (minute: number) => number;
  /** Whether these are mains or engines alone. */
  othersConstant?: boolean;
  blocks?: number;
  /** Noise and quantum of the voltage meter, V a 12 V block and V. */
  noise?: number;
  quantum?: number;
  /** Loads are inside what is seen: only the battery's current is logged. */
  seenByBattery?: boolean;
  /** What the charger says of itself. */
  reported?: (minute: number) => ReportedStage;
  step?: number;
}

const AMP_NOISE = 0.03;

export function drawnView({
  minutes,
  volts,
  amps,
  battery,
  batteryVolts,
  celsius,
  others,
  othersConstant = false,
  blocks = 1,
  noise = 0.004,
  quantum = 0.01,
  seenByBattery = false,
  reported,
  step = MINUTE,
}: Drawing): ChargeView {
  const random = seededRandom(17);
  const count = Math.floor((minutes * MINUTE) / step);
  const column = (value: (minute: number) => number, spread: number, rounded: number) =>
    Float32Array.from(
      { length: count },
      (_, i) => Math.round((value((i * step) / MINUTE) + random.normal(0, spread)) / rounded) * rounded,
    );
  const drawnVolts = column(volts, noise * blocks, quantum);
  const drawnAmps = column(amps, AMP_NOISE, 0.1);
  return {
    source: 'charger',
    grid: { from: 0, step, count, cuts: [] },
    volts: drawnVolts,
    amps: drawnAmps,
    ampsAreBattery: seenByBattery,
    batteryAmps: seenByBattery ? drawnAmps : battery ? column(battery, AMP_NOISE, 0.1) : null,
    batteryNoise: 2 * AMP_NOISE,
    batteryVolts: batteryVolts ? column(batteryVolts, noise * blocks, quantum) : null,
    celsius: celsius ? column(celsius, 0, 0.001) : null,
    drift: null,
    allowed: null,
    reported: reported
      ? Float32Array.from({ length: count }, (_, i) => REPORTED_STAGES.indexOf(reported((i * step) / MINUTE)))
      : null,
    blocks,
    others: others
      ? { amps: column(others, AMP_NOISE, 0.1), noise: 2 * AMP_NOISE, constant: othersConstant }
      : null,
    voltNoise: Math.max(noise * blocks, quantum / Math.sqrt(12)),
    ampNoise: 2 * AMP_NOISE,
    voltQuantum: quantum,
    log: {
      time: Float64Array.from({ length: count }, (_, i) => i * step),
      volts: drawnVolts,
      amps: drawnAmps,
    },
  };
}
