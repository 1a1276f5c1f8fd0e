/** Every fact that a visit can give: a visit that gives it, and the causes that it speaks for or against. */

import { CAUSES } from '../causes';
import { diagnose } from '../diagnosis/diagnose';
import { noRecords } from '../records/records';
import { demoSystem, ON_SITE_DEMOS } from '../simulate/demo';
import type { System } from '../system/schema';
import { judgeVisit } from './judge';
import { FACTS, type FactCode } from './said';
import type { Visit } from './visit';

const [{ system: pumps, job }] = ON_SITE_DEMOS as [(typeof ON_SITE_DEMOS)[number]];
const vault = demoSystem('seismic-vault').system;
const right = {
  pump: { clampA: 14, showsA: -14 },
  inverter: { clampA: 6, showsA: -6 },
  mains: { knownA: 38, showsA: 38 },
  solar: { knownA: 17, showsA: 17 },
};
const proof = (some: NonNullable<NonNullable<Visit['proof']>['devices']>) => ({
  proof: { devices: { ...right, ...some } },
});
const turned = Object.fromEntries(
  Object.entries(right).map(([id, one]) => [id, { ...one, showsA: -one.showsA }]),
);
const halved = Object.fromEntries(
  Object.entries(right).map(([id, one]) => [id, { ...one, showsA: one.showsA / 2 }]),
);
const lost = (volts: number, id: 'mains' | 'inverter') => ({
  displays: { postsV: 13.2, shown: { [id]: { volts, amps: 30 } } },
});

const VISITS: Record<FactCode, Partial<Visit>> = {
  'source-unseen': proof({ solar: { knownA: 17, showsA: 0 } }),
  'sources-shown': proof({}),
  'load-unseen': proof({ pump: { clampA: 14, showsA: 0 } }),
  'loads-shown': proof({}),
  'sensor-turned': proof(turned),
  'sign-right': proof({}),
  'scale-off': proof(halved),
  'scale-right': proof({}),
  'zero-off': { proof: { offA: 0.8, isolatedA: 0.8 } },
  'zero-right': { proof: { offA: 0 } },
  'count-lost': { displays: { shown: { monitor: { noPercent: true } } } },
  'never-synced': { memory: { syncs: 0 } },
  'has-synced': { memory: { syncs: 7 } },
  'charged-voltage-above-highest': { memory: { highestV: 13.5 } },
  'long-since-full': { memory: { daysSinceFull: 60 } },
  'lately-full': { memory: { daysSinceFull: 2 } },
  'deeper-than-capacity': { memory: { deepestAh: 260 } },
  emptied: { memory: { lowestV: 10 } },
  'charged-too-high': { memory: { highestV: 15.2 } },
  'charge-path-loses': lost(13.9, 'mains'),
  'charge-path-sound': lost(13.3, 'mains'),
  'load-path-loses': lost(12.5, 'inverter'),
  'load-path-sound': lost(13.1, 'inverter'),
  'halves-apart': { displays: { lowerV: 12.1, upperV: 12.7 } },
};
/** Halves are of the vault's bank. */
const systemOf = (fact: FactCode): System => (fact === 'halves-apart' ? vault : pumps);
const visitOf = (some: Partial<Visit>): Visit => ({
  id: '00000000-0000-4000-8000-000000000031',
  job: '00000000-0000-4000-8000-000000000030',
  on: '2026-10-21',
  ...some,
});
const factsOf = (system: System, some: Partial<Visit>) =>
  Object.values(judgeVisit(system, visitOf(some)))
    .flat()
    .flatMap((one) => one.fact ?? []);

test.each(FACTS)('%s is given by a visit, and not by an empty one', (fact) => {
  expect(factsOf(systemOf(fact), VISITS[fact])).toContain(fact);
  expect(factsOf(systemOf(fact), {})).not.toContain(fact);
});

test('every fact is weighed by a cause, and every cause that is weighed by facts knows them', () => {
  const weighed = new Set(CAUSES.flatMap((one) => Object.keys(one.onSite ?? {})));
  expect([...weighed].sort()).toEqual([...FACTS].sort());
});

const WEIGHED = CAUSES.flatMap(({ code, onSite = {} }) =>
  (Object.entries(onSite) as [FactCode, number][]).map(([fact, decibans]) => [fact, code, decibans] as const),
);
test.each(WEIGHED)('%s stands in the evidence of %s, with %d', (fact, code, decibans) => {
  const of = (some: Partial<Visit>) =>
    diagnose({
      job: { ...job, complaints: ['undercharging', 'drifting-soc', 'premature-cutoff'] },
      system: systemOf(fact),
      series: [],
      records: { ...noRecords(), visit: [visitOf(some)] },
    }).findings.find((one) => one.cause === code);
  const found = of(VISITS[fact])?.evidence.filter((one) => one.text.startsWith('On site:')) ?? [];
  // A cause that nothing speaks for is not brought up at all: then what speaks against it has nothing to stand in.
  if (decibans > 0) expect(found.map((one) => one.decibans)).toContain(decibans);
  else expect(found.every((one) => one.decibans <= 0)).toBe(true);
  expect(of({})?.evidence.some((one) => one.text.startsWith('On site:')) ?? false).toBe(false);
});

test('of each stop the last visit that was there speaks', () => {
  const unseen = visitOf(VISITS['source-unseen']);
  const mended = { ...visitOf(proof({})), id: '00000000-0000-4000-8000-000000000032', on: '2026-11-04' };
  const looked = {
    ...visitOf(VISITS['has-synced']),
    id: '00000000-0000-4000-8000-000000000033',
    on: '2026-11-05',
  };
  const standing = (visits: Visit[]) =>
    diagnose({ job, system: pumps, series: [], records: { ...noRecords(), visit: visits } }).findings.find(
      (one) => one.cause === 'source-not-counted',
    )?.standing;
  expect(standing([unseen])).toMatch(/likely|strong/);
  // A later visit that proved nothing leaves it as it was.
  expect(standing([unseen, looked])).toMatch(/likely|strong/);
  expect(standing([unseen, mended]) ?? 'not brought up').not.toMatch(/likely|strong/);
});
