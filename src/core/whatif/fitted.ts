/**
 * A battery of the simulation fitted to this log: what it holds is taken from counting, and its resistances and side reaction are searched
 * until the voltage under the currents of the logged charges comes out as it was.
 */

import { clamp } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import type { Battery } from '../simulate/battery';
import { leadBattery, type LeadBatterySpec, usualLeadBattery } from '../simulate/leadBattery';
import { type Bms, evenCells, lithiumBattery } from '../simulate/lithiumBattery';
import { type CellModel, creepingCells, hysteresisCells } from '../simulate/lithiumCells';
import { isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Recorded } from './recorded';

export interface Fitted {
  /** A battery that holds so much, 0 to 1, at a temperature. */
  at(charge: number, celsius: number): Battery & { gassedAh?(): number };
  /** V by which the voltage under charge comes out wrong, mean over the charges that it was fitted to. */
  offVolts: number;
  charges: number;
}

/** Parameters that are searched: multiples of what a good battery has. */
type Factors = Readonly<Record<'resistance' | 'chargeResistance' | 'gassing', number>>;

const START: Factors = { resistance: 1, chargeResistance: 1, gassing: 1 };
const BOUNDS: Record<keyof Factors, [number, number]> = {
  resistance: [0.3, 6],
  chargeResistance: [0.25, 5],
  gassing: [0.2, 12],
};
/** Steps of the search, from coarse to fine, and how often each is gone round with. */
const STEPS = [2, 1.5, 1.25, 1.12, 1.06];
const ROUNDS = 2;

/** Charges that are compared at most, and for how long each, h. */
const MOST_CHARGES = 24;
const MOST_HOURS = 12;
/** Of a charge so many moments are compared at most. */
const MOST_MOMENTS = 160;
/** Error of the voltage, V a cell, and of the current, as a part of the capacity and of itself, that count as one. */
const VOLTS_OFF = 0.03;
const AMPS_OFF = { ofCapacity: 0.002, ofItself: 0.12 };
/** The charge at the end of each, points, and how many moments it weighs as much as. */
const POINTS_OFF = 1.5;
const END_WEIGHT = 25;
/** What is usual of each parameter: one standard deviation of its natural logarithm, and how many moments it weighs as much as. */
const USUAL = { resistance: 0.7, chargeResistance: 0.5, gassing: 0.7, weight: 30 };
/** A moment that is further off than this counts no more. */
const FURTHEST = 4;

/** Null where the log holds no charge from a known state. @param onDone part of the search that is done, 0 to 1 */
export function fitBattery(
  system: KnownSystem,
  recorded: Recorded,
  onDone: (part: number) => void = () => {},
): Fitted | null {
  const charges = chargesToFit(recorded);
  if (charges.length === 0) return null;
  const make = makerOf(system, recorded.capacityAh);
  const trial = trialOf(system.bank.cellsInSeries, recorded, charges, make);
  const { factors, model } = search(make, trial.error, onDone);
  return {
    at: (charge, celsius) => make.battery(factors, model, charge, celsius),
    offVolts: trial.offVolts(factors, model),
    charges: charges.length,
  };
}

/** The best of each parameter in turn, up and down by smaller and smaller steps, for each model of a cell. */
function search(
  { names, models }: Maker,
  errorOf: (factors: Factors, model: CellModel) => number,
  onDone: (part: number) => void,
): { factors: Factors; model: CellModel } {
  let best = { factors: START, model: models[0]!, error: Infinity };
  const total = models.length * (1 + STEPS.length * ROUNDS);
  let done = 0;
  for (const model of models) {
    let here = START;
    let error = errorOf(here, model);
    onDone(++done / total);
    for (const step of STEPS)
      for (let round = 0; round < ROUNDS; round++) {
        for (const name of names)
          for (const factor of [step, 1 / step]) {
            const value = clamp(here[name] * factor, ...BOUNDS[name]);
            if (value === here[name]) continue;
            const tried = { ...here, [name]: value };
            const now = errorOf(tried, model);
            if (now < error) [here, error] = [tried, now];
          }
        onDone(++done / total);
      }
    if (error < best.error) best = { factors: here, model, error };
  }
  return best;
}

/** How a battery with some parameters does over the logged charges. */
function trialOf(
  cells: number,
  recorded: Recorded,
  charges: readonly { from: number; to: number }[],
  make: Maker,
): {
  /** Mean square of how far off it is, unusual parameters counted in. */
  error(factors: Factors, model: CellModel): number;
  /** Mean distance of the voltage, V. */
  offVolts(factors: Factors, model: CellModel): number;
} {
  /**
   * Lets each logged charge run through the battery: by its current while the source was the limit, by its voltage while that was held.
   * So a battery that starts a little too full or too empty finds its way to the tail, as a real one does.
   */
  function compare(
    factors: Factors,
    model: CellModel,
    see: (moment: { off: number; volts: number }) => void,
  ): void {
    const { minutes, celsius, percent, held, capacityAh } = recorded;
    const seconds = minutes.stepMs / 1000;
    for (const { from, to } of charges) {
      const battery = make.battery(factors, model, percent[from]! / 100, celsius[from]!);
      const every = Math.max(1, Math.floor((to - from) / MOST_MOMENTS));
      for (let cell = from; cell < to; cell++) {
        const amps = recorded.amps[cell]!;
        const logged = minutes.volts[cell]!;
        battery.state.celsius = celsius[cell]!;
        if (amps !== amps || logged !== logged) {
          battery.step(seconds, battery.voltsAt(0), 0, celsius[cell]!);
          continue;
        }
        const byVolts = held[cell] === 1 && amps > 0;
        const answer = byVolts ? battery.ampsAt(logged) : battery.voltsAt(amps);
        if ((cell - from) % every === 0 && amps > 0.002 * capacityAh) {
          const volts = byVolts ? battery.voltsAt(amps) : answer;
          const off = byVolts
            ? (answer - amps) / (AMPS_OFF.ofCapacity * capacityAh + AMPS_OFF.ofItself * amps)
            : (volts - logged) / cells / VOLTS_OFF;
          see({ off, volts: volts - logged });
        }
        if (byVolts) battery.step(seconds, logged, answer, celsius[cell]!);
        else battery.step(seconds, answer, amps, celsius[cell]!);
      }
      const apart = (100 * battery.charge() - percent[to - 1]!) / POINTS_OFF;
      if (apart === apart) for (let k = 0; k < END_WEIGHT; k++) see({ off: apart, volts: NaN });
    }
  }

  return {
    error(factors, model) {
      let sum = 0;
      let count = 0;
      compare(factors, model, ({ off }) => {
        sum += Math.min(FURTHEST, Math.abs(off)) ** 2;
        count++;
      });
      const unusual = make.names.reduce(
        (total, name) => total + (Math.log(factors[name]) / USUAL[name]) ** 2,
        0,
      );
      return count > 0 ? (sum + USUAL.weight * unusual) / count : Infinity;
    },
    offVolts(factors, model) {
      let sum = 0;
      let moments = 0;
      compare(factors, model, ({ volts }) => {
        if (volts !== volts) return;
        sum += Math.abs(volts);
        moments++;
      });
      return sum / moments;
    },
  };
}

/** Stretches in which the battery took a charge from a known state, in cells. */
function chargesToFit({ minutes, amps, percent, capacityAh }: Recorded): { from: number; to: number }[] {
  const most = Math.round((MOST_HOURS * HOUR) / minutes.stepMs);
  const pause = Math.round(HOUR / minutes.stepMs);
  const found: { from: number; to: number; ah: number }[] = [];
  let from = -1;
  let last = -1;
  let ah = 0;
  const end = () => {
    if (from >= 0 && ah > 0.03 * capacityAh) found.push({ from, to: last + 1, ah });
    from = -1;
  };
  for (let cell = 0; cell < minutes.count; cell++) {
    const one = amps[cell]!;
    if (from >= 0 && (cell - last > pause || cell - from >= most)) end();
    if (!(one > 0.01 * capacityAh)) continue;
    // Only from a charge that is known, and not one that is full already.
    if (from < 0) {
      if (!(percent[cell]! < 97)) continue;
      from = cell;
      ah = 0;
    }
    last = cell;
    ah += (one * minutes.stepMs) / HOUR;
  }
  end();
  const every = Math.max(1, found.length / MOST_CHARGES);
  return Array.from(
    { length: Math.min(found.length, MOST_CHARGES) },
    (_, k) => found[Math.floor(k * every)]!,
  );
}

interface Maker {
  names: readonly (keyof Factors)[];
  models: readonly CellModel[];
  battery(factors: Factors, model: CellModel, charge: number, celsius: number): ReturnType<Fitted['at']>;
}

function makerOf(system: KnownSystem, capacityAh: number): Maker {
  const { bank } = system;
  if (isLead(bank.chemistry))
    return {
      names: ['chargeResistance', 'resistance', 'gassing'],
      models: [hysteresisCells],
      battery: (factors, _, charge, celsius) => {
        const spec: LeadBatterySpec = { ...usualLeadBattery(capacityAh, bank.cellsInSeries), ...factors };
        return leadBattery(spec, { available: charge, bound: charge, celsius });
      },
    };
  const bms = bmsOf(system);
  return {
    names: ['resistance'],
    models: [hysteresisCells, creepingCells],
    battery: ({ resistance }, model, charge, celsius) =>
      lithiumBattery({
        kind: 'lithium',
        cells: evenCells(bank.cellsInSeries, capacityAh, charge).map((one) => ({ ...one, resistance })),
        bms,
        celsius,
        warmingHours: 8,
        model,
      }),
  };
}

/** Limits of its BMS; where they are not described, those of most (common practice, no source). */
function bmsOf({ bms = {}, bank }: KnownSystem): Bms {
  const cellHighV = bms.cellHighV ?? 3.65;
  const cellLowV = bms.cellLowV ?? 2.5;
  return {
    cellHighV,
    cellLowV,
    cellHighReleaseV: bms.cellHighReleaseV ?? cellHighV - 0.15,
    cellLowReleaseV: bms.cellLowReleaseV ?? cellLowV + 0.4,
    balanceV: bms.balanceV ?? 3.45,
    balanceA: 0,
    chargeAboveC: bms.chargeAboveC ?? bank.chargeAboveC ?? 0,
  };
}
