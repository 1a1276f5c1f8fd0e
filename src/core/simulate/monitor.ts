/** A battery monitor that counts: what comes out of it is the reading, right or wrong, that the technician finds. */

import type { KnownMonitor } from '../system/known';

export interface MonitorState {
  /** Reading, %. */
  percent: number;
  heldSeconds: number;
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
