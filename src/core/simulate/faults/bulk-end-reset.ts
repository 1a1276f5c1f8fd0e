/** The percentage is an inverter-charger's own: it counts its own current, and takes the end of its bulk for a fixed charge. */

import { logReading, readingOff, type Fault, type Outcome } from './fault';

export const bulkEndReset: Fault = {
  code: 'bulk-end-reset',
  complaint: 'drifting-soc',
  // It counts no source but itself.
  also: ['source-not-counted'],
  fits: ({ halves, chargers }) =>
    halves === null && chargers.length > 1 && chargers.some((one) => one.kind === 'mains'),
  patch(plan, random) {
    logReading(plan);
    const percent = random.pick([80, 80, 85]);
    const { id } = plan.chargers.find((one) => one.kind === 'mains')!;
    plan.monitor.meter.bulkEnd = { source: id, percent };
    if (random.next() < 0.7) Object.assign(plan.monitor.settings, { method: 'source-count' });
    if (random.next() < 0.5) plan.monitor.settings.bulkEndPercent = percent;
    // It knows no other full.
    plan.monitor.device.chargedV = 99 * plan.blocks;
  },
  hurts: (outcome) => readingOff(outcome) > 8 && resets(outcome) > 2,
};

/** How often the reading was set to the fixed charge. */
function resets({ truth, plan }: Outcome): number {
  const reading = truth.series.channels.soc!;
  const { percent } = plan.monitor.meter.bulkEnd!;
  return reading.reduce(
    (count, now, i) => count + (now === percent && Math.abs(now - reading[i - 1]!) > 2 ? 1 : 0),
    0,
  );
}
