/** A battery monitor: what comes out of it is the reading, right or wrong, that the technician finds. */

import type { KnownMonitor } from '../system/known';
import { restPercent } from '../system/restVoltage';
import type { Chemistry } from '../system/schema';

export interface MonitorState {
  /** Reading, %. */
  percent: number;
  heldSeconds: number;
}

/** How the device differs from a counter that sees everything rightly; nothing of it is a good one. */
export interface Meter {
  /** Shown over true current, and what it shows when none flows, A. */
  gain?: number;
  offsetA?: number;
  /** When it lost its supply, and what it read when it came back, %. */
  restarts?: readonly { at: number; percent: number }[];
  /** It counts the current of its own source alone, less the loads, and takes this for the charge at each end of its bulk, %. */
  bulkEnd?: { source: string; percent: number };
  /** It counts nothing: its reading is made from the voltage of so many 12 V blocks. */
  volts?: { chemistry: Chemistry; blocks: number };
}

/** Smoothing of a reading that is made from voltage, s. */
const SLOWED = 120;

/** A step of a reading that follows the voltage. */
export function voltsStep(
  { chemistry, blocks }: NonNullable<Meter['volts']>,
  state: MonitorState,
  seconds: number,
  volts: number,
): void {
  const share = Math.min(1, seconds / SLOWED);
  state.percent += share * (restPercent(chemistry, volts / blocks) - state.percent);
}

/**
 * Counts one step. Current positive into the battery.
 * @param amps as the monitor sees it, offset and missing devices included. @param volts at the monitor.
 */
export function countStep(
  monitor: KnownMonitor,
  state: MonitorState,
  seconds: number,
  volts: number,
  amps: number,
): void {
  const counted = Math.abs(amps) < (monitor.thresholdA ?? 0) ? 0 : amps;
  const hours = seconds / 3600;
  const ratedAmps = monitor.capacityAh / 20;
  const faster = Math.abs(counted) / ratedAmps;
  const weight =
    counted > 0
      ? monitor.efficiencyPercent / 100
      : faster > 1 || monitor.peukertBelowRate
        ? Math.max(faster, 0.01) ** (monitor.peukert - 1)
        : 1;
  state.percent += (100 * counted * weight * hours) / monitor.capacityAh;
  state.percent = Math.min(100, Math.max(0, state.percent));
  const tail = (monitor.tailPercent / 100) * monitor.capacityAh;
  state.heldSeconds = volts >= monitor.chargedV && Math.abs(amps) < tail ? state.heldSeconds + seconds : 0;
  if (state.heldSeconds > monitor.detectionMinutes * 60) state.percent = 100;
}
