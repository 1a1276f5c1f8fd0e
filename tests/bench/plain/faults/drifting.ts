/** Why the percentage of a plain site drifts. */

import { isLeadPlan, type PlainCharger, splitPlan } from '../plainPlan';
import type { PlainSite } from '../plainSite';
import { counting, drifts, heavy, type PlainFault, readingOff } from './fault';

const neverSynced = (site: PlainSite): boolean => site.syncs.length === 0 && readingOff(site) > 3;

export const DRIFTING: readonly PlainFault[] = [
  {
    code: 'charged-voltage-unreached',
    complaint: 'drifting-soc',
    also: ['never-started', 'full-too-rarely'],
    patch(plan, random) {
      counting(plan);
      const highest = Math.max(...plan.chargers.map((one) => one.absorptionV));
      plan.monitor.chargedV = Number((highest + random.uniform(0.15, 0.6) * plan.blocks).toFixed(1));
      plan.monitor.efficiency -= 4;
    },
    hurts: neverSynced,
  },
  {
    code: 'tail-unreached',
    complaint: 'drifting-soc',
    also: ['never-started', 'full-too-rarely'],
    patch(plan, random) {
      counting(plan);
      if (isLeadPlan(plan)) plan.monitor.tailPercent = random.uniform(0.2, 0.6);
      else {
        plan.monitor.minutes = random.pick([120, 180, 240]);
        for (const one of plan.chargers) one.minutes = Math.min(one.minutes, 30);
      }
      plan.monitor.efficiency -= 4;
    },
    hurts: neverSynced,
  },
  {
    code: 'false-sync',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.monitor.chargedV = Number(
        ((isLeadPlan(plan) ? random.uniform(12.9, 13.3) : random.uniform(13.2, 13.4)) * plan.blocks).toFixed(
          1,
        ),
      );
      plan.monitor.tailPercent = random.pick([8, 12, 15]);
      plan.monitor.minutes = random.pick([0, 1]);
      plan.drawn = plan.capacityAh * random.uniform(0.2, 0.35);
      plan.clear = random.uniform(0.2, 0.4);
      // Chargers that give little are under the tail from the start.
      for (const one of plan.chargers) {
        one.ratedA = Math.round(
          Math.max(0.08 * plan.capacityAh, (1.3 * plan.drawn) / (one.kind === 'solar' ? 5 : one.hours)),
        );
        one.givesA = one.ratedA;
      }
    },
    hurts: ({ syncs }) => syncs.filter(({ held }) => held < 88).length >= 2,
  },
  {
    code: 'capacity-wrong',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.drawn = plan.capacityAh * random.uniform(0.3, 0.5);
      plan.monitor.capacityAh = Math.round(
        plan.capacityAh * (random.next() < 0.5 ? random.uniform(0.45, 0.62) : random.uniform(1.6, 2.2)),
      );
    },
    hurts: drifts,
  },
  {
    code: 'efficiency-wrong',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.monitor.efficiency = Math.round(random.uniform(52, 68));
      plan.drawn = plan.capacityAh * random.uniform(0.35, 0.5);
    },
    hurts: (site) => readingOff(site) > 6,
  },
  {
    code: 'peukert-wrong',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      const cut = heavy(plan, random);
      Object.assign(cut, {
        volts: undefined,
        takesAll: false,
        minutes: random.uniform(30, 60),
        everyHours: 24,
      });
      cut.amps = plan.capacityAh * random.uniform(0.25, 0.4);
      plan.drawn = 0.1 * plan.capacityAh;
      plan.peukert = 0.08;
      plan.monitor.peukert = isLeadPlan(plan) ? random.uniform(1.4, 1.55) : random.uniform(1.25, 1.4);
    },
    hurts: (site) => readingOff(site) > 8 && site.cuts.length === 0,
  },
  {
    code: 'current-offset',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.monitor.offsetA = random.pick([-1, 1]) * plan.capacityAh * random.uniform(0.006, 0.012);
    },
    hurts: (site) => readingOff(site) > 8,
  },
  {
    code: 'current-scale',
    complaint: 'drifting-soc',
    fits: ({ chargers }) => chargers.length === 1,
    patch(plan, random) {
      counting(plan);
      plan.monitor.gain = random.pick([0.5, 2, 0.67, 1.5]);
    },
  },
  {
    code: 'sensor-reversed',
    complaint: 'drifting-soc',
    patch(plan) {
      counting(plan);
      plan.monitor.gain = -1;
    },
  },
  {
    code: 'source-not-counted',
    complaint: 'drifting-soc',
    fits: ({ chargers }) => chargers.length === 2,
    patch(plan) {
      counting(plan);
      plan.monitor.misses = [plan.chargers[1]!.id];
      plan.chargers[1]!.logged = true;
    },
    hurts: drifts,
  },
  {
    code: 'load-not-counted',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
      plan.monitor.misses = ['load'];
    },
    hurts: drifts,
  },
  {
    code: 'monitor-restarted',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.monitor.restarts = Array.from({ length: random.pick([1, 2]) }, (_, k) => ({
        day: Math.round(plan.days * (0.2 + 0.4 * k)) + random.uniform(0, 0.9),
        percent: random.pick([0, 50, 100]),
        // To the step of the simulation.
        silentHours: random.uniform(0.2, 4),
      }));
    },
    hurts: ({ plan, truth }) =>
      plan.monitor.restarts.some(({ day, percent, silentHours }) => {
        const then = truth[Math.ceil(144 * (day + silentHours / 24))];
        return then !== undefined && Math.abs(then.held - percent) > 20;
      }),
  },
  {
    code: 'voltage-guess',
    complaint: 'drifting-soc',
    patch(plan) {
      counting(plan);
      plan.monitor.byVolts = true;
    },
  },
  {
    code: 'never-started',
    complaint: 'drifting-soc',
    also: ['charged-voltage-unreached', 'full-too-rarely', 'source-too-small'],
    patch(plan) {
      counting(plan);
      plan.monitor.chargedV = Number((15.5 * plan.blocks).toFixed(1));
      plan.monitor.startReading = plan.start > 0.75 ? 25 : 100;
    },
    hurts: drifts,
  },
  {
    code: 'bulk-end-reset',
    complaint: 'drifting-soc',
    fits: isLeadPlan,
    patch(plan, random) {
      counting(plan);
      plan.monitor.bulkEndPercent = random.pick([80, 85, 90, 100]);
      // The charger that counts knows nothing of the other.
      plan.monitor.misses = plan.chargers.slice(1).map((one) => one.id);
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
    },
    hurts: (site) => readingOff(site) > 8,
  },
  {
    code: 'half-bank',
    complaint: 'drifting-soc',
    fits: (plan) => isLeadPlan(plan) && plan.blocks > 1 && plan.chargers.length === 1,
    patch(plan, random) {
      counting(plan);
      splitPlan(plan);
      const upper = plan.chargers[1]!;
      upper.givesA *= random.uniform(0.3, 0.6);
      upper.absorptionV -= random.uniform(0.1, 0.4) * (plan.blocks / 2);
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
    },
    hurts: drifts,
  },
  {
    code: 'full-too-rarely',
    complaint: 'drifting-soc',
    also: ['source-too-small', 'never-started'],
    fits: ({ chargers }) => chargers.length === 1,
    patch(plan, random) {
      counting(plan);
      const [one] = plan.chargers as [PlainCharger];
      plan.days = Math.round(random.uniform(25, 40));
      plan.everySeconds = Math.max(60, plan.everySeconds);
      plan.monitorEverySeconds = plan.everySeconds;
      plan.drawn = plan.capacityAh * random.uniform(0.2, 0.35);
      plan.start = random.uniform(0.5, 0.7);
      Object.assign(one, { kind: 'mains', hours: random.uniform(5, 9) });
      one.ratedA = one.givesA = Number(((random.uniform(1.01, 1.1) * plan.drawn) / one.hours).toFixed(1));
    },
    hurts: (site) =>
      site.syncs.length === 0 && readingOff(site) > 6 && site.truth.slice(288).every(({ held }) => held < 96),
  },
];
