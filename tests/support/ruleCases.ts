/** Systems in order, ways to put them wrong, and a runner for cases of review rules: each has one that fires and one that does not. */

import { type Job, type System, systemSchema } from '@/core/system/schema';
import { reviewSettings } from '@/core/system/review/review';
import { RULES } from '@/core/system/review/rules';

/** A 12 V AGM bank with nothing wrong. */
export const lead = (): System => ({
  name: 'Lead',
  timeZone: 'Europe/Rome',
  bank: {
    chemistry: 'agm',
    cellsInSeries: 6,
    stringsInParallel: 1,
    capacityAh: 100,
    capacityHours: 20,
    chargeVolts: { min: 14.2, max: 14.6 },
    floatVolts: { min: 13.6, max: 13.8 },
    compensationMvPerCellPerC: { min: -5, max: -3 },
    maxChargeA: 30,
  },
  sources: [
    {
      id: 'mains',
      name: 'Charger',
      kind: 'mains',
      ratedA: 20,
      profile: {
        absorptionV: 14.4,
        absorptionMinutes: 240,
        tailA: 2,
        floatV: 13.7,
        rebulkV: 12.7,
        compensationMvPerCellPerC: -4,
      },
      counted: true,
      senses: 'own-terminals',
      hoursPerDay: 12,
      conductor: { metres: 1, squareMm: 16 },
    },
  ],
  monitor: {
    method: 'shunt',
    capacityAh: 100,
    chargedV: 13.5,
    tailPercent: 4,
    detectionMinutes: 3,
    efficiencyPercent: 84,
    peukert: 1.25,
    floorPercent: 50,
    thresholdA: 0.1,
  },
  loads: [
    {
      id: 'lamp',
      name: 'Lamp',
      kind: 'dc',
      usualA: 1.5,
      hoursPerDay: 24,
      alarmV: 12.1,
      cutoffV: 11.8,
      reconnectV: 12.8,
      counted: true,
      conductor: { metres: 2, squareMm: 6 },
    },
  ],
  site: { coldestC: 5, warmestC: 32, airflow: 5 },
});

/** A 24 V lithium bank with nothing wrong. */
export const lithium = (): System => {
  const base = lead();
  const [source] = base.sources;
  const [load] = base.loads;
  return {
    ...base,
    name: 'Lithium',
    bank: {
      chemistry: 'lfp',
      cellsInSeries: 8,
      capacityAh: 200,
      chargeVolts: { min: 28, max: 29 },
      maxChargeA: 100,
      chargeAboveC: 0,
    },
    sources: [
      {
        ...source!,
        ratedA: 40,
        profile: {
          preset: 'lithium',
          absorptionV: 28.4,
          absorptionMinutes: 60,
          tailA: 8,
          floatV: 26.8,
          rebulkV: 26.4,
          compensationMvPerCellPerC: 0,
        },
      },
    ],
    monitor: {
      ...base.monitor!,
      capacityAh: 200,
      chargedV: 28,
      efficiencyPercent: 98,
      peukert: 1.05,
      floorPercent: 10,
    },
    loads: [{ ...load!, alarmV: 24.8, cutoffV: 24, reconnectV: 25.6 }],
    bms: { cellHighV: 3.65, cellLowV: 2.6, balanceV: 3.45, chargeAboveC: 0 },
    site: { coldestC: 8, warmestC: 30 },
  };
};

type Walk = NonNullable<Job['walk']>;
/** Changes the system, or says what the wiring walk found. */
export type Change = (system: System) => unknown;
export type Quiet = [rule: string, base: () => System, change: Change];
export type Case = [rule: string, base: () => System, change: Change, text: RegExp];
const walked = new Map<System, Walk>();
export const walk =
  (found: Walk): Change =>
  (system) =>
    walked.set(system, found);
export const none: Change = () => undefined;
export const source = (system: System) => system.sources[0]!;
export const profile = (system: System) => system.sources[0]!.profile;
export const monitor = (system: System) => system.monitor!;
export const load = (system: System) => system.loads[0]!;
export const second =
  (change: Change): Change =>
  (system) => {
    system.sources.push({ ...structuredClone(source(system)), id: 'second', name: 'Second' });
    change(system);
  };
export const equalise = { volts: 15.5, minutes: 60, everyDays: 30 };
export const flooded: Change = (system) => {
  system.bank.chemistry = 'flooded';
  system.bank.equalise = { ...equalise };
  profile(system).equalise = { ...equalise, retryDays: 1 };
};

/** The monitor with several shunts, and what passes each. */
export const shunts =
  (...passing: string[][]) =>
  (s: System): void => {
    monitor(s).shunts = passing.map((devices, k) => ({
      id: `shunt-${k + 1}`,
      name: `Shunt ${k + 1}`,
      devices,
    }));
  };

/** The source as a generator, started and stopped so. */
export const generator =
  (runs: NonNullable<System['sources'][number]['runs']>) =>
  (s: System): void => {
    Object.assign(source(s), { kind: 'generator', runs });
  };

export const job: Pick<Job, 'openedAt' | 'walk'> = { openedAt: '2026-04-01T08:00:00Z' };
const noted = (base: () => System, change: Change, rule: string) => {
  const system = base();
  change(system);
  // What a test describes must be a description that is accepted.
  expect(systemSchema.safeParse(system).error?.issues).toBeUndefined();
  return reviewSettings(system, { ...job, walk: walked.get(system) }).notes.filter(
    (note) => note.rule === rule,
  );
};

/** Cases that fire, with what is said, and cases that keep still, of all rules on some devices. */
export function testRules(
  devices: readonly (typeof RULES)[number]['on'][],
  fires: readonly Case[],
  quiet: readonly Quiet[],
): void {
  test.each(fires)('%s fires', (rule, base, change, text) => {
    const notes = noted(base, change, rule);
    expect(notes.map((note) => note.text).join('\n')).toMatch(text);
    for (const note of notes) expect([note.why, note.fix].every((one) => /^[A-Z].*\.$/.test(one))).toBe(true);
  });

  test.each(quiet)('%s keeps still', (rule, base, change) => {
    expect(noted(base, change, rule)).toEqual([]);
  });

  test('each rule has a case that fires and one that does not', () => {
    const codes = RULES.filter((rule) => devices.includes(rule.on))
      .map((rule) => rule.code)
      .sort();
    expect(codes.length).toBeGreaterThan(0);
    expect([...new Set(fires.map(([rule]) => rule))].sort()).toEqual(codes);
    expect([...new Set(quiet.map(([rule]) => rule))].sort()).toEqual(codes);
  });
}
