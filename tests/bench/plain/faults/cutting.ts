/** Why loads of a plain site are cut off. */

import { isLeadPlan } from '../plainPlan';
import { cutsOften, heavy, type PlainFault } from './fault';

export const CUTTING: readonly PlainFault[] = [
  {
    code: 'really-empty',
    complaint: 'premature-cutoff',
    also: ['source-too-small', 'full-too-rarely', 'never-started'],
    patch(plan, random) {
      heavy(plan, random);
      plan.logs.reading = true;
      const given = plan.capacityAh * random.uniform(0.3, 0.5);
      for (const one of plan.chargers) {
        const hours = one.kind === 'solar' ? 5.5 : one.hours;
        one.ratedA = one.givesA = Number((given / hours / plan.chargers.length).toFixed(1));
      }
      const { amps, minutes, everyHours } = plan.cut!;
      plan.drawn = Math.max(
        0.1 * plan.capacityAh,
        1.15 * given - ((amps * minutes) / 60) * (24 / everyHours),
      );
    },
    hurts: (site) => cutsOften(site, 0, 15) && !cutsOften(site, 25),
  },
  {
    code: 'capacity-lost',
    complaint: 'premature-cutoff',
    also: ['fake-full', 'capacity-wrong'],
    patch(plan, random) {
      heavy(plan, random);
      plan.holdsAh = plan.capacityAh * random.uniform(0.4, 0.62);
      plan.drawn = plan.capacityAh * random.uniform(0.2, 0.3);
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'battery-resistance',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      plan.resistance = random.uniform(5, 9);
      cut.amps = plan.capacityAh * random.uniform(0.25, 0.4);
      cut.volts = (isLeadPlan(plan) ? random.uniform(11, 11.4) : random.uniform(11.8, 12.2)) * plan.blocks;
      plan.drawn = 0.12 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site, 45),
  },
  {
    code: 'load-path-drop',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      plan.logs.load = true;
      cut.ohms = (plan.blocks * random.uniform(0.9, 1.5)) / cut.amps;
      plan.drawn = 0.12 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'cutoff-set-high',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      cut.volts = (isLeadPlan(plan) ? random.uniform(12.2, 12.4) : random.uniform(13, 13.1)) * plan.blocks;
      plan.drawn = 0.15 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'weak-cell',
    complaint: 'premature-cutoff',
    also: ['capacity-lost', 'runner-stops-charge', 'cell-imbalance'],
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      heavy(plan, random).volts = undefined;
      plan.logs.bms = true;
      plan.cellAh[Math.floor(random.next() * plan.cellAh.length)] = random.uniform(0.5, 0.7);
      plan.drawn = 0.45 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'cell-imbalance',
    complaint: 'premature-cutoff',
    also: ['runner-stops-charge'],
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      heavy(plan, random).volts = undefined;
      plan.logs.bms = true;
      plan.bleedA = 0.02;
      plan.start = Math.max(plan.start, 0.8);
      plan.cellCharge[Math.floor(random.next() * plan.cellCharge.length)] = -random.uniform(0.35, 0.5);
      plan.drawn = 0.55 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'cold-battery',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      Object.assign(plan, { meanC: random.uniform(-12, -3), dailyC: random.uniform(3, 8) });
      plan.logs.heat = true;
      cut.volts = (isLeadPlan(plan) ? 11.6 : 12.2) * plan.blocks;
      cut.amps = plan.capacityAh * random.uniform(0.4, 0.6);
      plan.drawn = 0.2 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site, 20),
  },
  {
    code: 'percentage-cutoff',
    complaint: 'premature-cutoff',
    also: ['capacity-wrong'],
    patch(plan, random) {
      const cut = heavy(plan, random);
      Object.assign(cut, { volts: undefined, percent: Math.round(random.uniform(30, 45)) });
      plan.logs.reading = true;
      plan.monitor.capacityAh = Math.round(0.5 * plan.capacityAh);
      plan.drawn = 0.25 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site),
  },
  {
    code: 'surge-trip',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      plan.everySeconds = plan.monitorEverySeconds = 10;
      plan.days = Math.min(plan.days, 10);
      plan.logs.load = true;
      plan.outage = undefined;
      const tripA = plan.capacityAh * random.uniform(0.5, 0.9);
      cut.surge = { amps: tripA * random.uniform(1.1, 1.5), tripA };
      cut.amps = plan.capacityAh * random.uniform(0.08, 0.15);
      cut.volts = (isLeadPlan(plan) ? 10.5 : 11) * plan.blocks;
      plan.drawn = 0.12 * plan.capacityAh;
    },
    hurts: (site) => cutsOften(site, 45),
  },
  {
    code: 'rate-expected',
    complaint: 'premature-cutoff',
    also: ['really-empty'],
    fits: isLeadPlan,
    patch(plan, random) {
      const cut = heavy(plan, random);
      plan.peukert = random.uniform(0.2, 0.3);
      plan.monitor.peukert = 1 + plan.peukert;
      cut.amps = plan.capacityAh * random.uniform(0.35, 0.6);
      // Run until it is down.
      Object.assign(cut, { minutes: 240, everyHours: 24, awaySeconds: 5 * 3600, volts: 10.5 * plan.blocks });
      plan.drawn = 0.06 * plan.capacityAh;
      for (const one of plan.chargers) {
        const hours = one.kind === 'solar' ? 5 : one.hours;
        one.ratedA = one.givesA = Math.ceil(Math.max(one.ratedA, (1.3 * plan.capacityAh) / hours));
      }
    },
    hurts: (site) => cutsOften(site, 0, 35),
  },
];
