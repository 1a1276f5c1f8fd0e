/** Chargers of a plain site: when they can give, what voltage they aim at, and how they go from stage to stage. */

import type { PlainCharger } from './plainPlan';

type Stage = 'Off' | 'Bulk' | 'Absorption' | 'Equalize' | 'Float';

/** What a charger has to do with in a step. */
export interface Surroundings {
  hour: number;
  day: number;
  celsius: number;
  daylight: number;
  seconds: number;
}

export interface RunningCharger {
  plan: PlainCharger;
  readonly stage: Stage;
  /** A that it could give, and V that it aims at; 0 where it does not run. */
  aim(at: Surroundings): { able: number; target: number };
  /** After a step: V at its terminals and A that it gave. @returns whether its bulk has ended now */
  settle(volts: number, amps: number, letsIn: boolean): boolean;
}

/** @param cells that it charges @param rebulkV under which float begins anew */
export function plainCharger(
  plan: PlainCharger,
  cells: number,
  rebulkV: number,
  slack: number,
): RunningCharger {
  let stage: Stage = 'Off';
  let held = 0;
  let low = 0;
  let away = 1e9;
  let equalised = 0;
  let now: { able: number; target: number; seconds: number; day: number } = {
    able: 0,
    target: 0,
    seconds: 0,
    day: 0,
  };
  const afterAbsorption = (): Stage =>
    plan.equalise && now.day - equalised >= plan.equalise.everyDays ? 'Equalize' : 'Float';
  return {
    plan,
    get stage() {
      return stage;
    },
    aim({ hour, day, celsius, daylight, seconds }) {
      const isThere = (hour + 24 - plan.from) % 24 < plan.hours;
      const able =
        plan.kind === 'solar'
          ? Math.min(plan.givesA, 1.2 * plan.givesA * daylight)
          : isThere
            ? plan.givesA
            : 0;
      const isBlocked = plan.blockBelowC !== undefined && celsius < plan.blockBelowC;
      if (able < 0.005 * plan.ratedA || isBlocked) {
        away += seconds;
        if (away > 1800) stage = 'Off';
        now = { able: 0, target: 0, seconds, day };
        return now;
      }
      if (stage === 'Off') [stage, held] = ['Bulk', 0];
      away = 0;
      const at25 =
        stage === 'Float' ? plan.floatV : stage === 'Equalize' ? plan.equalise!.volts : plan.absorptionV;
      now = { able, target: at25 + (plan.compensationMv * cells * (celsius - 25)) / 1000, seconds, day };
      return now;
    },
    settle(volts, amps, letsIn) {
      if (now.able === 0) return false;
      const isThere = volts >= now.target - slack || !letsIn;
      if (stage === 'Bulk' && isThere) {
        stage = 'Absorption';
        return true;
      }
      if (stage === 'Absorption') {
        if (isThere) held += now.seconds;
        const hasTailed = plan.tailA !== undefined && isThere && held > 300 && amps < plan.tailA;
        if (hasTailed || held >= 60 * plan.minutes) [stage, held] = [afterAbsorption(), 0];
      } else if (stage === 'Equalize') {
        held += now.seconds;
        if (held >= 60 * plan.equalise!.minutes) [stage, held, equalised] = ['Float', 0, now.day];
      } else if (stage === 'Float') {
        low = volts < rebulkV ? low + now.seconds : 0;
        if (low > 900) [stage, held, low] = ['Bulk', 0, 0];
      }
      return false;
    },
  };
}
