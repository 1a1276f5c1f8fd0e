/** Why a plain site is not charged. */

import { isLeadPlan, type PlainCharger } from '../plainPlan';
import { busy, cutsOften, dailyPeak, neverFull, type PlainFault } from './fault';

/** Hours about noon, from when. */
const DAYTIME = { from: 9.5, hours: 4 };

export const UNDERCHARGING: readonly PlainFault[] = [
  {
    code: 'charge-voltage-low',
    complaint: 'undercharging',
    patch(plan, random) {
      busy(plan, random);
      const by = plan.blocks * random.uniform(0.45, 0.8);
      for (const one of plan.chargers) {
        one.absorptionV -= by;
        one.floatV = Math.min(one.floatV, one.absorptionV - 0.1 * plan.blocks);
      }
    },
    hurts: (site) => !isLeadPlan(site.plan) || neverFull(site),
  },
  {
    code: 'charge-voltage-high',
    complaint: 'undercharging',
    patch(plan, random) {
      for (const one of plan.chargers) one.absorptionV += plan.blocks * random.uniform(0.5, 0.9);
    },
  },
  {
    code: 'absorption-too-short',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      for (const one of plan.chargers)
        Object.assign(one, { minutes: random.pick([15, 20, 30, 45]), tailA: undefined });
    },
    hurts: neverFull,
  },
  {
    code: 'tail-threshold-high',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      for (const one of plan.chargers)
        one.tailA = plan.capacityAh * random.uniform(0.07, 0.12) + plan.drawn / 24;
    },
    hurts: neverFull,
  },
  {
    code: 'source-too-small',
    complaint: 'undercharging',
    also: ['full-too-rarely', 'never-started'],
    patch(plan, random) {
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
      plan.start = random.uniform(0.5, 0.9);
      const given = plan.drawn * random.uniform(0.65, 0.9);
      for (const one of plan.chargers) {
        const hours = one.kind === 'solar' ? 5.5 : one.hours;
        one.ratedA = Number((given / hours / plan.chargers.length).toFixed(1));
        one.givesA = one.ratedA;
      }
    },
    hurts: neverFull,
  },
  {
    code: 'source-derated',
    complaint: 'undercharging',
    fits: ({ chargers }) => chargers.every((one) => one.kind !== 'solar'),
    patch(plan, random) {
      busy(plan, random);
      plan.logs.charger = true;
      for (const one of plan.chargers) {
        one.givesA *= random.uniform(0.35, 0.55);
        one.logged = true;
      }
    },
    hurts: neverFull,
  },
  {
    code: 'premature-float',
    complaint: 'undercharging',
    fits: (plan) =>
      isLeadPlan(plan) &&
      plan.chargers.length === 2 &&
      plan.chargers.filter((one) => one.kind === 'solar').length === 1,
    patch(plan, random) {
      const [sun, mains] = [...plan.chargers].sort(
        (a, b) => Number(b.kind === 'solar') - Number(a.kind === 'solar'),
      ) as [PlainCharger, PlainCharger];
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
      plan.start = random.uniform(0.5, 0.8);
      plan.clear = 0.9;
      // The sun alone does not fill it, and holds the voltage above what the mains charger aims at.
      sun.ratedA = sun.givesA = Number(((plan.drawn / 5.5) * random.uniform(0.45, 0.7)).toFixed(1));
      sun.absorptionV += random.uniform(0.2, 0.4) * plan.blocks;
      Object.assign(sun, { tailA: undefined, minutes: 600, logged: true });
      Object.assign(mains, { ...DAYTIME, tailA: 0.03 * plan.capacityAh, logged: true });
      plan.logs = { ...plan.logs, charger: true, monitor: true };
    },
    // Nearly full is no harm.
    hurts: (site) => dailyPeak(site) < 93,
  },
  {
    code: 'charge-path-drop',
    complaint: 'undercharging',
    patch(plan, random) {
      busy(plan, random);
      plan.logs = { ...plan.logs, charger: true, monitor: true };
      for (const one of plan.chargers) {
        one.logged = true;
        one.ohms = (plan.blocks * random.uniform(0.5, 0.9)) / one.ratedA;
      }
    },
  },
  {
    code: 'compensation-missing',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      Object.assign(plan, { meanC: random.uniform(-2, 6), dailyC: random.uniform(4, 8) });
      plan.logs.heat = true;
      for (const one of plan.chargers) one.compensationMv = 0;
    },
  },
  {
    code: 'compensation-wrong',
    complaint: 'undercharging',
    patch(plan, random) {
      plan.logs = { ...plan.logs, heat: true, charger: true };
      const isWarm = isLeadPlan(plan) || random.next() < 0.5;
      Object.assign(plan, {
        meanC: isWarm ? random.uniform(30, 36) : random.uniform(4, 10),
        dailyC: random.uniform(5, 9),
      });
      for (const one of plan.chargers)
        one.compensationMv = isLeadPlan(plan) ? random.uniform(-10, -8) : random.uniform(-6, -3);
    },
  },
  {
    code: 'cold-charge-block',
    complaint: 'undercharging',
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      Object.assign(plan, { meanC: random.uniform(1, 5), dailyC: random.uniform(5, 8) });
      plan.logs = { ...plan.logs, charger: true, monitor: true, heat: true };
      for (const one of plan.chargers) Object.assign(one, { blockBelowC: 5, logged: true });
    },
    hurts: neverFull,
  },
  {
    code: 'float-unsuited',
    complaint: 'undercharging',
    // To stay above a high float absorption goes up with it.
    also: ['charge-voltage-high'],
    patch(plan, random) {
      const volts = isLeadPlan(plan)
        ? random.pick([random.uniform(12.9, 13.2), random.uniform(14.1, 14.3)])
        : random.uniform(13.85, 14.1);
      // Long enough in float that it is seen.
      plan.drawn = plan.capacityAh * random.uniform(0.1, 0.2);
      for (const one of plan.chargers) {
        one.floatV = volts * plan.blocks;
        one.absorptionV = Math.max(one.absorptionV, one.floatV + 0.2 * plan.blocks);
        one.minutes = Math.min(one.minutes, 120);
      }
    },
  },
  {
    code: 'equalisation-overdue',
    complaint: 'undercharging',
    fits: ({ chemistry }) => chemistry === 'flooded',
    patch(plan, random) {
      const volts = 15.5 * plan.blocks;
      plan.equalise = { volts, minutes: 60, everyDays: 30, lastOn: '2025-10-18' };
      if (random.next() < 0.5)
        for (const one of plan.chargers) one.equalise = { volts, minutes: 60, everyDays: 4 };
    },
    hurts: (site) => dailyPeak(site) > 94,
  },
  {
    code: 'fake-full',
    complaint: 'undercharging',
    also: ['capacity-lost', 'capacity-wrong', 'battery-resistance'],
    fits: isLeadPlan,
    patch(plan, random) {
      plan.holdsAh = plan.capacityAh * random.uniform(0.3, 0.5);
      plan.resistance = random.uniform(2, 3);
      plan.drawn = plan.holdsAh * random.uniform(0.3, 0.55);
      plan.logs = { ...plan.logs, charger: true, monitor: true };
    },
    hurts: (site) => dailyPeak(site) > 96,
  },
  {
    code: 'runner-stops-charge',
    complaint: 'undercharging',
    also: ['cell-imbalance'],
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      plan.logs.bms = true;
      plan.bleedA = 0.02;
      plan.start = Math.min(plan.start, 0.8);
      plan.cellCharge[Math.floor(random.next() * plan.cellCharge.length)] = random.uniform(0.05, 0.13);
    },
    hurts: (site) => dailyPeak(site) < 98 && !cutsOften(site),
  },
  {
    code: 'load-through-absorption',
    complaint: 'undercharging',
    fits: (plan) => isLeadPlan(plan) && plan.chargers.length === 1 && plan.chargers[0]!.kind !== 'solar',
    patch(plan, random) {
      const [one] = plan.chargers as [PlainCharger];
      plan.pattern = random.pick(['even', 'cycling']);
      one.tailA = plan.capacityAh * random.uniform(0.01, 0.015);
      // The loads alone hold its current up.
      plan.drawn = 24 * plan.capacityAh * random.uniform(0.03, 0.05);
      one.hours = random.uniform(12, 16);
      one.ratedA = Math.ceil(Math.max(one.ratedA, (2.2 * plan.drawn) / one.hours));
      one.givesA = one.ratedA;
      one.minutes = random.pick([480, 600, 720]);
      plan.logs = { ...plan.logs, charger: true, monitor: true };
    },
    hurts: (site) => dailyPeak(site) > 94,
  },
];
