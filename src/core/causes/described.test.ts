/** Causes that description, wiring walk and checklists speak for, before any log. */

import { demoSystem } from '../simulate/demo';
import { diagnose } from '../diagnosis/diagnose';
import type { Job, System } from '../system/schema';
import type { CauseCode } from './codes';

const findings = (system: System, job: Job) =>
  new Map(diagnose({ job, system, series: [] }).findings.map((one) => [one.cause, one]));

const harbour = demoSystem('harbour-office');

test('the harbour office, checked and fine: nothing is brought up', () => {
  const checks = Object.fromEntries(
    ['joints', 'cables', 'case', 'battery-post'].map((id) => [id, { answer: 'fine' as const }]),
  );
  const found = findings(harbour.system, { ...harbour.job, checks });
  expect([...found.values()].map((one) => one.standing)).toEqual(Array.from(found, () => 'cannot-tell'));
  // Nobody said that a device bypasses the sensor, or that a path drops: that is not brought up.
  for (const code of ['charge-path-drop', 'source-not-counted', 'load-not-counted', 'half-bank', 'fake-full'])
    expect(found.has(code as CauseCode)).toBe(false);
  expect(found.has('absorption-too-short')).toBe(true);
});

test('a corroded joint speaks for resistance, with the technician’s note, but does not prove it', () => {
  const job: Job = {
    ...harbour.job,
    complaints: ['undercharging'],
    checks: { joints: { answer: 'found', note: 'green crust on the positive lug' } },
  };
  const cause = findings(harbour.system, job).get('charge-path-drop')!;
  expect(cause.evidence.map((item) => item.text)).toContain(
    'A corroded or loose joint was found. Noted: green crust on the positive lug.',
  );
  expect(['possible', 'unlikely']).toContain(cause.standing);
  const measured = findings(harbour.system, {
    ...job,
    walk: { joints: [{ what: 'Positive lug', millivolts: 120, amps: 40 }] },
  }).get('charge-path-drop')!;
  // 120 mV at 40 A is 3 mΩ: worked by hand.
  expect(measured.evidence.map((item) => item.text)).toContain('Positive lug: 120 mV at 40.0 A is 3.00 mΩ.');
  expect(measured.decibans).toBeGreaterThan(cause.decibans);
});

test('an answer of “not checked” says nothing', () => {
  const job: Job = { ...harbour.job, checks: { joints: { answer: 'not-checked', note: 'no time' } } };
  expect(findings(harbour.system, job).has('charge-path-drop')).toBe(false);
});

test('low electrolyte speaks for lost capacity of a flooded battery, not of a gel one', () => {
  const { system, job } = demoSystem('seismic-vault');
  const checks = { electrolyte: { answer: 'found' as const } };
  expect(findings(system, { ...job, checks }).get('fake-full')!.evidence[0]!.text).toMatch(
    /^Electrolyte was found low/,
  );
  expect(findings(system, job).has('fake-full')).toBe(false);
});

test('the cold room: the second charger is not counted, and that is likely from the wiring alone', () => {
  const { system, job } = demoSystem('vaccine-cold-room');
  const found = findings(system, job);
  expect(found.get('source-not-counted')).toMatchObject({ standing: 'likely' });
  expect(found.get('source-not-counted')!.evidence[0]!.text).toMatch(/^Second charger is wired so/);
  expect(found.has('load-not-counted')).toBe(false);
});

test('an unknown conductor on the battery post speaks for both, and is a hazard', () => {
  const { system } = harbour;
  const job: Job = {
    ...harbour.job,
    complaints: ['drifting-soc'],
    walk: { others: [{ what: 'A thin red and black pair', amps: 1.4 }] },
  };
  const diagnosis = diagnose({ job, system, series: [] });
  expect(diagnosis.hazards.map((one) => one.code)).toEqual(['uncounted-conductor-on-battery-post']);
  for (const code of ['source-not-counted', 'load-not-counted'])
    expect(diagnosis.findings.find((one) => one.cause === code)!.evidence.map((item) => item.text)).toContain(
      'On the battery post: A thin red and black pair, carrying 1.4 A.',
    );
});

test('the fog horn: the cable alone makes resistance to the load likely enough to look at', () => {
  const { system, job } = demoSystem('fog-horn');
  const cause = findings(system, job).get('load-path-drop')!;
  expect(cause.evidence[0]!.text).toMatch(/45 m of 25 mm² to Fog horn lose 4\.76 V at 70\.0 A/);
  expect(cause.standing).toBe('possible');
});

test('age speaks for lost capacity only when a battery is old', () => {
  const { system } = harbour;
  const old = { ...system, bank: { ...system.bank, installedOn: '2014-10-02' } };
  expect(findings(old, harbour.job).get('capacity-lost')!.evidence[0]!.text).toMatch(/for 12 years/);
  expect(findings(system, harbour.job).has('capacity-lost')).toBe(false);
});
