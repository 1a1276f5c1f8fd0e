/** What is done and accepted on a visit: each with what is wrong and what is in order. Limits are common practice, no source. */

import { DEMO_SLUGS, demoSystem, ON_SITE_DEMOS } from '../simulate/demo';
import { diagnose } from '../diagnosis/diagnose';
import { noRecords } from '../records/records';
import type { System } from '../system/schema';
import { judgeAcceptance, stillToSee } from './acceptance';
import { bestDriver, judgeDrives } from './drives';
import { equaliseSteps, judgeEqualise, minutesBetween, notEligible } from './equaliseRun';
import { fedBy, fedParts, isBegun, judgeVisit, stopsOf } from './judge';
import type { Said } from './said';
import { waysToSet } from './setRight';
import { shuntSteps } from './shuntRun';
import { intoHalves, shuntShows, splitWays } from './splitBank';
import { GATES, type Visit } from './visit';

const demo = ON_SITE_DEMOS[0]!;
const pumps = demo.system;
const counted: System = {
  ...pumps,
  sources: pumps.sources.map((one) => ({ ...one, counted: true })),
  loads: pumps.loads.map((one) => ({ ...one, counted: true })),
};
const vault = demoSystem('seismic-vault').system;
const faults = (said: readonly Said[]) => said.filter((one) => one.weight === 'fault').map((one) => one.text);
const texts = (said: readonly Said[]) => said.map((one) => one.text).join(' ');

test('one percentage alone drives everything, by the order of trust', () => {
  const pump = { what: 'Pump', kind: 'cutoff' as const };
  expect(bestDriver(counted)).toBe('bms');
  expect(judgeDrives(counted, [{ ...pump, by: 'bms' }]).map((one) => one.weight)).toEqual(['fine']);
  expect(texts(judgeDrives(counted, [{ ...pump, by: 'monitor' }]))).toMatch(
    /^The monitor drives Pump; the BMS can be trusted/,
  );
  expect(
    texts(
      judgeDrives(counted, [
        { ...pump, by: 'monitor' },
        { what: 'Lamp', kind: 'alarm', by: 'bms' },
      ]),
    ),
  ).toMatch(/^Two percentages drive things here/);
  expect(judgeDrives(counted, [{ ...pump, by: 'volts' }])).toEqual([]);
  const blind: System = { ...counted, monitor: { method: 'voltage' } };
  delete blind.bms;
  expect(faults(judgeDrives(blind, [{ ...pump, by: 'monitor' }]))[0]).toContain('none here can be trusted');
});

describe('setting the reading right', () => {
  const fits = (system: System, displays?: Parameters<typeof waysToSet>[1]) =>
    waysToSet(system, displays)
      .filter((one) => one.not === null)
      .map((one) => one.id);
  test('until the charger says float, with the fastest source; a timer’s float is a claim', () => {
    expect(fits(counted)).toEqual(['float', 'delivery']);
    const [float] = waysToSet(counted);
    expect(float!.title).toContain('Mains charger');
    const timed = structuredClone(counted);
    delete timed.sources[0]!.profile.tailA;
    expect(waysToSet(timed)[0]!.steps.join(' ')).toContain('a claim and no proof');
    expect(float!.steps.join(' ')).not.toContain('a claim and no proof');
  });
  test('by hand only from counts that agree', () => {
    const at = (first: number, second: number) => ({
      shown: { 'battery-1': { percent: first }, 'battery-2': { percent: second } },
    });
    expect(fits(counted, at(86, 88))).toContain('by-hand');
    expect(fits(counted, at(60, 88))).not.toContain('by-hand');
    expect(fits(counted, { shown: { 'battery-1': { percent: 86 } } })).not.toContain('by-hand');
  });
  test('a charger that leaves its voltage at once has a way that can happen', () => {
    const hasty = structuredClone(counted);
    hasty.sources[0]!.profile.absorptionMinutes = 0;
    delete hasty.sources[0]!.profile.floatV;
    expect(fits(hasty)).toContain('at-voltage');
    expect(fits(hasty)).not.toContain('float');
    expect(fits(counted)).not.toContain('at-voltage');
  });
});

describe('equalisation as a run sheet', () => {
  const on = '2026-10-21';
  const done = {
    gates: [...GATES],
    startedAt: '09:00',
    reachedAt: '10:10',
    stoppedAt: '11:10',
    ended: 'held' as const,
  };
  test('only time held counts', () => {
    expect(minutesBetween('23:30', '00:45')).toBe(75);
    const needs = vault.bank.equalise!.minutes;
    const held = `${String(10 + Math.floor((10 + needs) / 60)).padStart(2, '0')}:${String((10 + needs) % 60).padStart(2, '0')}`;
    expect(judgeEqualise(vault, { ...done, stoppedAt: held }, on).map((one) => one.weight)).toEqual(['fine']);
    expect(texts(judgeEqualise(vault, { ...done, stoppedAt: '10:20' }, on))).toMatch(
      /^It held for 10 min of/,
    );
    expect(texts(judgeEqualise(vault, { ...done, reachedAt: undefined }, on))).toContain('never reached');
  });
  test('days and tries since the last that held', () => {
    const since = (lastOn: string) => judgeEqualise(vault, { gates: [...GATES], lastOn, triesSince: 2 }, on);
    const { everyDays } = vault.bank.equalise!;
    expect(since('2026-01-20')[0]).toMatchObject({ weight: 'caution' });
    expect(since('2026-01-20')[0]!.text).toContain(
      `with 2 tries since; it is asked for every ${everyDays} days`,
    );
    expect(since('2026-10-20')[0]!.weight).toBe('fine');
  });
  test('gates come first, and what the checklist found shuts one', () => {
    expect(faults(judgeEqualise(vault, { ...done, gates: [] }, on))[0]).toMatch(/^Not yet:/);
    const found = { electrolyte: { answer: 'found' as const } };
    expect(faults(judgeEqualise(vault, done, on, found))[0]).toMatch(/electrolyte covers the plates/);
    expect(faults(judgeEqualise(vault, done, on))).toEqual([]);
  });
  test('never lithium, and no bank whose maker is not known to allow it', () => {
    expect(notEligible(vault)).toBeNull();
    expect(notEligible(pumps)).toMatch(/^Never equalise lithium/);
    expect(faults(judgeEqualise(pumps, done, on))[0]).toMatch(/^Never equalise lithium/);
    expect(
      equaliseSteps(vault)
        .map((one) => one.text)
        .join(' '),
    ).toContain('Only this counts');
  });
});

test('a split bank: what a shunt shows by each way, against Kirchhoff', () => {
  // The lower charger alone: its current goes into the lower half only.
  const currents = { lowerA: 8, upperA: 0, loadA: 3 };
  expect(intoHalves(currents)).toEqual({ lower: 5, upper: -3 });
  expect(shuntShows('half', currents)).toBe(intoHalves(currents).lower);
  // A shunt that passes the loads alone is right only while nothing charges.
  expect(shuntShows('whole', currents)).toBe(-3);
  expect(shuntShows('whole', { lowerA: 0, upperA: 0, loadA: 3 })).toBe(
    intoHalves({ lowerA: 0, upperA: 0, loadA: 3 }).lower,
  );
  // Between the halves both charge loops pass: with both at work it shows more than either half gets.
  const both = { lowerA: 8, upperA: 8, loadA: 3 };
  expect(shuntShows('between-halves', both)).toBe(13);
  expect(intoHalves(both)).toEqual({ lower: 5, upper: 5 });
  const half: System = { ...vault, monitor: { ...vault.monitor!, sees: 'lower' } };
  expect(
    splitWays(half)
      .filter((one) => one.isHere)
      .map((one) => one.id),
  ).toEqual(['half']);
});

test('the run sheet of a shunt fits the system, and a clip-on sensor has its own', () => {
  const unseen: System = {
    ...counted,
    sources: counted.sources.map((one) => ({ ...one, counted: one.id !== 'solar' })),
  };
  const words = (system: System) =>
    shuntSteps(system)
      .map((one) => one.text)
      .join(' ');
  expect(words(unseen)).toContain('from the battery post too: Solar controller');
  expect(words(counted)).not.toContain('from the battery post too');
  const hall: System = { ...counted, monitor: { ...counted.monitor!, method: 'hall' } };
  expect(words(hall)).toContain('arrow follows the charging current');
  expect(words(hall)).not.toContain('Power lugs');
});

test('acceptance: the source carries the loads, the chargers give what is set, the readings agree', () => {
  const seen = { floatBatteryA: 0.3, floatLoadsA: 6, chargeA: 68, monitorPercent: 97, bmsPercent: 98 };
  expect(judgeAcceptance(counted, seen).map((one) => one.weight)).toEqual(['fine', 'fine', 'fine']);
  expect(faults(judgeAcceptance(counted, { ...seen, floatBatteryA: 9 }))[0]).toContain('go into the battery');
  expect(faults(judgeAcceptance(counted, { ...seen, floatBatteryA: -6 }))[0]).toContain(
    'go out of the battery',
  );
  expect(faults(judgeAcceptance(counted, { ...seen, bmsPercent: 60 }))[0]).toContain('the BMS 60 %');
  expect(judgeAcceptance(counted, { ...seen, chargeA: 30 })[1]!.weight).toBe('caution');
  expect(stillToSee(seen, counted)).toEqual(['the rest voltage']);
});

describe('a visit', () => {
  const visit = demo.records.visit![0]!;
  test('its proof feeds the description, once; the rest stays as it was', () => {
    const fed = fedBy(pumps, visit);
    expect(fed.sources.map((one) => one.counted)).toEqual([true, false]);
    expect(fed.loads.map((one) => one.counted)).toEqual([true, true]);
    expect(fed.mainPath?.fuseA).toBe(150);
    expect(fedBy(fed, visit)).toBe(fed);
    const bare: Visit = { id: visit.id, job: visit.job, on: visit.on };
    expect(fedBy(pumps, bare)).toBe(pumps);
    expect(fedParts({ ...visit, notes: 'other' })).toEqual(fedParts(visit));
    expect(fedParts({ ...visit, shuntA: 300 })).not.toEqual(fedParts(visit));
  });
  test('the fault that only the proof shows is found, with no log at all', () => {
    const of = (records: Partial<typeof demo.records>) =>
      diagnose({ job: demo.job, system: pumps, series: [], records: { ...noRecords(), ...records } })
        .findings;
    const found = of(demo.records).find((one) => one.cause === 'source-not-counted')!;
    expect(found.standing).toMatch(/likely|strong/);
    expect(found.evidence[0]!.text).toBe(
      'On site: Solar controller alone gives 17.0 A; the monitor shows 0.1 A.',
    );
    expect(of({}).map((one) => one.cause)).not.toContain('source-not-counted');
    const others = of(demo.records).filter((one) => /likely|strong/.test(one.standing));
    expect(others.map((one) => one.cause)).toEqual(['source-not-counted']);
  });
  test('of a system in order nothing is said but that, and no cause is found by it', () => {
    const { system, job, records } = demoSystem('harbour-office');
    const [seen] = records!.visit!;
    expect(faults(Object.values(judgeVisit(system, seen!)).flat())).toEqual([]);
    const { findings } = diagnose({ job, system, series: [], records: { ...noRecords(), visit: [seen!] } });
    expect(findings.filter((one) => /likely|strong/.test(one.standing))).toEqual([]);
  });
  test('the stops fit the system', () => {
    expect(stopsOf(pumps)).not.toContain('equalise');
    expect(stopsOf(vault)).toContain('equalise');
    expect(stopsOf(pumps)).not.toContain('split-bank');
    for (const slug of DEMO_SLUGS) expect(stopsOf(demoSystem(slug).system).at(-1)).toBe('sign');
    expect(isBegun({ proof: {} }, 'proof')).toBe(false);
    expect(isBegun({ proof: { offA: 0 } }, 'proof')).toBe(true);
  });
});
