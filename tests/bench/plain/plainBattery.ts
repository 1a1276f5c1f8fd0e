/**
 * The plainest batteries that still charge and discharge like one, made apart from those of the core: a lead battery by a logarithmic
 * law of its charging current, lithium by a table and a steep end. What they share with a real one is the order of things, not the figures.
 */

/** What a site asks of a battery in a step. Volts are the bank's, amperes into the battery. */
export interface PlainBattery {
  /** V at a current. */
  volts(amps: number, celsius: number): number;
  step(amps: number, seconds: number, celsius: number): void;
  /** True state of charge, 0 to 1. */
  charge(): number;
  /** V of each cell at a current; empty where nobody looks at cells. */
  cells(amps: number, celsius: number): number[];
}

export interface LeadPlan {
  cells: number;
  capacityAh: number;
  ohms: number;
  start: number;
  /** How readily it takes current near full, in parts of the usual. */
  gassing: number;
  /** By how much more than 1 the exponent of Peukert's law is. */
  peukert: number;
}

/** V a cell for each e-fold of the current that a charging lead cell takes. */
const TAFEL = 0.045;

export function plainLead({ cells, capacityAh, ohms, start, gassing, peukert }: LeadPlan): PlainBattery {
  let charge = start;
  // Acid at the plates that has not spread yet, V a cell.
  let slow = 0;
  /** A at which charging begins to cost voltage: far more while the battery is empty. */
  const readily = (celsius: number) =>
    2e-5 * capacityAh * Math.exp(15 * (1 - charge)) * gassing * Math.exp((celsius - 25) / 18);
  const rest = () =>
    1.955 + 0.165 * charge - Math.max(0, 0.08 - charge) * 1.5 - Math.max(0, 0.03 - charge) * 2.5;
  return {
    volts(amps, celsius) {
      const cold = 1 + 0.02 * Math.max(0, 25 - celsius);
      const charging = amps > 0 ? TAFEL * Math.log1p(amps / readily(celsius)) : 0;
      return cells * (rest() + slow + charging) + amps * ohms * (1 + 0.4 * (1 - charge)) * cold;
    },
    step(amps, seconds, celsius) {
      const taken = charge < 0.85 ? 0.98 : Math.max(0.05, 0.98 * (1 - ((charge - 0.85) / 0.16) ** 2));
      const lost = Math.max(1, (Math.max(0, -amps) / (capacityAh / 20)) ** peukert);
      const holds = capacityAh * (amps < 0 ? 1 - 0.008 * Math.max(0, 25 - celsius) : 1);
      charge += (amps * (amps > 0 ? taken : lost) * seconds) / 3600 / holds;
      charge = Math.min(1, Math.max(0, charge));
      const towards =
        amps > 0 ? (0.01 * amps) / (amps + 0.01 * capacityAh) : (0.02 * amps) / (0.05 * capacityAh - amps);
      slow += (towards - slow) * Math.min(1, seconds / 2400);
    },
    charge: () => charge,
    cells: () => [],
  };
}

export interface LithiumPlan {
  /** Ah of each cell, and how full it is at the start. */
  cells: { capacityAh: number; charge: number }[];
  /** Of one cell. */
  ohms: number;
  /** What a high cell is bled by, A. */
  bleedA: number;
}

/** V of a rested cell against its charge; beyond full it climbs steeply. */
const REST: readonly (readonly [number, number])[] = [
  [0, 2.6],
  [0.02, 2.95],
  [0.05, 3.1],
  [0.1, 3.18],
  [0.2, 3.235],
  [0.4, 3.275],
  [0.65, 3.3],
  [0.72, 3.325],
  [0.9, 3.335],
  [0.97, 3.345],
  [1, 3.4],
];
const BEYOND = 45;

function restOf(charge: number): number {
  if (charge >= 1) return 3.4 + BEYOND * (charge - 1);
  if (charge <= 0) return 2.6 + 20 * charge;
  const k = REST.findIndex(([at]) => at > charge);
  const [from, low] = REST[k - 1]!;
  const [to, high] = REST[k]!;
  return low + ((high - low) * (charge - from)) / (to - from);
}

export function plainLithium(plan: LithiumPlan): PlainBattery {
  const cells = plan.cells.map((one) => ({ ...one }));
  let slow = 0;
  const voltsOf = (charge: number, amps: number, celsius = 25) =>
    restOf(charge) + slow + amps * plan.ohms * (1 + 0.03 * Math.max(0, 25 - celsius));
  return {
    volts: (amps, celsius) => cells.reduce((sum, one) => sum + voltsOf(one.charge, amps, celsius), 0),
    step(amps, seconds) {
      slow += (0.8 * amps * plan.ohms - slow) * Math.min(1, seconds / 600);
      for (const one of cells) {
        one.charge += (amps * (amps > 0 ? 0.995 : 1) * seconds) / 3600 / one.capacityAh;
        // What was pushed beyond full settles; high cells are bled.
        if (one.charge > 1 && amps < 0.002 * one.capacityAh)
          one.charge -= ((one.charge - 1) * seconds) / 2400;
        if (amps > 0 && voltsOf(one.charge, amps) > 3.45)
          one.charge -= (plan.bleedA * seconds) / 3600 / one.capacityAh;
      }
    },
    charge: () => Math.min(1, Math.max(0, Math.min(...cells.map((one) => one.charge)))),
    cells: (amps, celsius) => cells.map((one) => voltsOf(one.charge, amps, celsius)),
  };
}
