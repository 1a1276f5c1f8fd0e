/**
 * What a review rule sees: a description in which every fact is asked for. Asking for one that is not known ends the rule there, and
 * the fact is put on the list of what to find out: so no rule guesses, and none has to look out for holes.
 */

import {
  blocksInSeries,
  CHEMISTRY,
  type ChemistryFigures,
  compensationOf,
  isLead,
  type Range,
} from '../chemistry';
import { presetVolts } from '../known';
import { capacityAtRate } from '../peukert';
import type { Bank, Bms, Chemistry, Job, Load, Monitor, Profile, Site, Source, System } from '../schema';
import { type Schools, schoolsOf } from '../schools';

/** A fact that a rule needs and the description lacks. */
export class NotKnown extends Error {
  constructor(readonly path: string) {
    super(`${path} is not known`);
  }
}

/** Answers a fact, or ends the rule with NotKnown. */
export type Ask<T> = <K extends keyof T & string>(key: K) => NonNullable<T[K]>;

const asker =
  <T extends object>(thing: T | undefined, path: string): Ask<T> =>
  (key) => {
    const value = thing?.[key];
    if (value === undefined || value === null) throw new NotKnown(`${path}.${key}`);
    return value as NonNullable<T[typeof key]>;
  };

export interface SourceView {
  id: string;
  name: string;
  /** As it is described, holes included. */
  raw: Source;
  ask: Ask<Source>;
  profile: Ask<Profile>;
}

export interface LoadView {
  id: string;
  name: string;
  raw: Load;
  ask: Ask<Load>;
}

/** The bank, or one half of two blocks in series. */
export type Part = 'bank' | 'lower' | 'upper';

export interface Subject {
  /** What is judged: cells, voltages and the maker's figures are those of this part. */
  part: Part;
  system: System;
  job: Pick<Job, 'openedAt' | 'walk' | 'reading'> | null;
  schools: Schools;
  sources: SourceView[];
  loads: LoadView[];
  bank: Ask<Bank>;
  monitor: Ask<Monitor>;
  bms: Ask<Bms>;
  site: Ask<Site>;
  chemistry(): Chemistry;
  lead(): boolean;
  figures(): ChemistryFigures;
  cells(): number;
  /** 12 V blocks in series. */
  blocks(): number;
  /** V at 25 °C, the maker's or else the chemistry's. */
  chargeVolts(): Range;
  floatVolts(): Range;
  /** mV per °C per cell. */
  compensation(): Range;
  /** Capacity as a monitor needs it: at 20 h for lead-acid, as labelled for lithium. */
  countedCapacity(): number;
}

export function subjectOf(system: System, job: Subject['job'] = null, part: Part = 'bank'): Subject {
  const bank = asker<Bank>(system.bank, 'bank');
  const chemistry = () => bank('chemistry');
  const cells = () => bank('cellsInSeries');
  const preset = () => presetVolts(chemistry(), cells());
  return {
    part,
    system,
    job,
    schools: schoolsOf(system),
    sources: system.sources.map((raw, i) => ({
      id: raw.id,
      name: raw.name,
      raw,
      ask: asker<Source>(raw, `sources.${i}`),
      profile: asker<Profile>(raw.profile, `sources.${i}.profile`),
    })),
    loads: system.loads.map((raw, i) => ({
      id: raw.id,
      name: raw.name,
      raw,
      ask: asker<Load>(raw, `loads.${i}`),
    })),
    bank,
    monitor: asker<Monitor>(system.monitor, 'monitor'),
    bms: asker<Bms>(system.bms, 'bms'),
    site: asker<Site>(system.site, 'site'),
    chemistry,
    cells,
    lead: () => isLead(chemistry()),
    figures: () => CHEMISTRY[chemistry()],
    blocks: () => blocksInSeries({ chemistry: chemistry(), cellsInSeries: cells() }),
    chargeVolts: () => system.bank.chargeVolts ?? preset().charge,
    floatVolts: () => system.bank.floatVolts ?? preset().float,
    compensation: () => compensationOf({ ...system.bank, chemistry: chemistry() }),
    countedCapacity: () => {
      const capacityAh = bank('capacityAh');
      const hours = system.bank.capacityHours ?? 20;
      return isLead(chemistry()) ? capacityAtRate({ capacityAh, hours }, 20, 1.25) : capacityAh;
    },
  };
}

/** The bank's basics, asked for together. */
export const basics = (s: Subject) => ({
  chemistry: s.chemistry(),
  cellsInSeries: s.cells(),
  capacityAh: s.bank('capacityAh'),
});

/**
 * V that a source holds at a temperature with its own compensation; the setting holds at 25 °C.
 * An unknown compensation is taken as the battery's own, so that it hides nothing and accuses nobody.
 */
export function heldAt(s: Subject, source: SourceView, volts: number, celsius: number): number {
  const { min, max } = s.compensation();
  const mv = source.raw.profile.compensationMvPerCellPerC ?? (min + max) / 2;
  return volts + (mv * s.cells() * (celsius - 25)) / 1000;
}

/** Sources that charge what is judged: the bank as a whole, or the half that it is. */
export const chargingSources = (s: Subject): SourceView[] =>
  s.sources.filter((one) => (one.raw.across ?? 'bank') === s.part);

const halved = ({ min, max }: Range): Range => ({ min: min / 2, max: max / 2 });

/** The same description with one half of its bank as the battery: half the cells, half the voltages. */
export function halfOf({ system, job }: Subject, part: Part): Subject {
  const { bank } = system;
  const half: Bank = {
    ...bank,
    ...(bank.cellsInSeries ? { cellsInSeries: bank.cellsInSeries / 2 } : {}),
    ...(bank.chargeVolts ? { chargeVolts: halved(bank.chargeVolts) } : {}),
    ...(bank.floatVolts ? { floatVolts: halved(bank.floatVolts) } : {}),
    ...(bank.equalise ? { equalise: { ...bank.equalise, volts: bank.equalise.volts / 2 } } : {}),
  };
  return part === 'bank' ? subjectOf(system, job) : subjectOf({ ...system, bank: half }, job, part);
}

/** What a source charges, as the battery that its profile is judged by. */
export const batteryOf = (s: Subject, { raw }: SourceView): Subject =>
  raw.across && raw.across !== 'bank' ? halfOf(s, raw.across) : s;

/**
 * V to which each source brings what is judged; where only the halves have chargers, what they bring the bank to together. Empty when
 * nothing charges all of it.
 * @param volts of a source, by the battery that it charges
 */
export function reached(s: Subject, volts: (source: SourceView, of: Subject) => number): number[] {
  const whole = chargingSources(s).map((one) => volts(one, s));
  if (whole.length > 0 || s.part !== 'bank') return whole;
  const halves = (['lower', 'upper'] as const).map((part) => {
    const half = halfOf(s, part);
    return chargingSources(half).map((one) => volts(one, half));
  });
  if (halves.some((one) => one.length === 0)) return [];
  return [halves.reduce((sum, one) => sum + Math.min(...one), 0)];
}
