/**
 * The proof of coverage: each answer with a case in which it is given and one in which it is not. What must be shown follows from Ohm and
 * Kirchhoff (watts over volts, through an inverter over its efficiency); tolerances are common practice, no source.
 */

import { ON_SITE_DEMOS } from '../simulate/demo';
import type { System } from '../system/schema';
import { judgeProof } from './judgeProof';
import { proveDevices, provenCounted } from './proof';
import type { FactCode } from './said';
import type { Proof } from './visit';

const pumps = ON_SITE_DEMOS[0]!.system;
const hall: System = { ...pumps, monitor: { ...pumps.monitor!, method: 'hall' } };
const fine: Proof = {
  offA: 0,
  devices: {
    pump: { clampA: 14.2, showsA: -14 },
    inverter: { watts: 70, efficiencyPercent: 88, showsA: -6 },
    mains: { knownA: 38, showsA: 37.5 },
    solar: { knownA: 17, showsA: 16.8 },
  },
};
const but = (device: string, proved: NonNullable<Proof['devices']>[string]): Proof => ({
  ...fine,
  devices: { ...fine.devices, [device]: proved },
});
const scaled = (by: number, offset = 0): Proof => ({
  offA: offset,
  devices: Object.fromEntries(
    Object.entries(fine.devices!).map(([id, one]) => [id, { ...one, showsA: by * one.showsA! + offset }]),
  ),
});
const facts = (proof: Proof, system = pumps) =>
  judgeProof(system, proof, 13.2).flatMap((one) => one.fact ?? []);
const answer = (proof: Proof, id: string) =>
  proveDevices(pumps, proof, 13.2).find((one) => one.id === id)!.answer;

test('all in order: nothing but what is in order is said, and each device is counted', () => {
  const said = judgeProof(pumps, fine, 13.2);
  expect(said.map((one) => one.weight)).toEqual(said.map(() => 'fine'));
  expect(facts(fine).sort()).toEqual([
    'loads-shown',
    'scale-right',
    'sign-right',
    'sources-shown',
    'zero-right',
  ]);
  expect(provenCounted(pumps, fine, 13.2)).toEqual({ pump: true, inverter: true, mains: true, solar: true });
});

test('what a device should draw: watts over volts, over the efficiency of an inverter', () => {
  const inverter = proveDevices(pumps, fine, 13.2).find((one) => one.id === 'inverter')!;
  expect(inverter.expected!.amps).toBeCloseTo(-70 / 13.2 / 0.88, 6);
  const bare = proveDevices(pumps, but('inverter', { watts: 70, showsA: -5 }), 13.2);
  expect(bare.find((one) => one.id === 'inverter')!.expected!.amps).toBeCloseTo(-70 / 13.2, 6);
});

const CASES: [what: string, fires: Proof, quiet: Proof, fact: FactCode][] = [
  ['a source that is not counted', but('solar', { knownA: 17, showsA: 0.1 }), fine, 'source-unseen'],
  ['a load that is not counted', but('pump', { clampA: 14.2, showsA: 0 }), fine, 'load-unseen'],
  ['a sensor that is turned round', scaled(-1), fine, 'sensor-turned'],
  ['a scale that is wrong', scaled(0.5), scaled(0.97), 'scale-off'],
  [
    'a zero that is off',
    { ...scaled(1, 0.6), isolatedA: 0.6 },
    { ...fine, offA: -0.6, isolatedA: 0 },
    'zero-off',
  ],
];
test.each(CASES)('%s is found, and not where it is not', (_, fires, quiet, fact) => {
  expect(facts(fires)).toContain(fact);
  expect(facts(quiet)).not.toContain(fact);
});

test('a standing load is told from a zero error by the isolator, and asked for until it was opened', () => {
  const off = (isolatedA?: number) =>
    judgeProof(pumps, { offA: -0.8, ...(isolatedA === undefined ? {} : { isolatedA }) }, 13.2);
  expect(off()[0]).toMatchObject({ weight: 'open', follows: expect.stringContaining('isolator') as string });
  expect(off(0).map((one) => one.text)).toContain('With everything off 0.8 A still flow out.');
  expect(off(-0.8)[0]).toMatchObject({ weight: 'fault', fact: 'zero-off' });
});

test('what flowed with everything off is taken from what each device shows', () => {
  const proof = { ...scaled(1, -0.8), isolatedA: 0 };
  expect(facts(proof)).toEqual(expect.arrayContaining(['loads-shown', 'sources-shown', 'scale-right']));
});

test('one device turned round is no turned sensor', () => {
  const proof = but('pump', { clampA: 14.2, showsA: 14 });
  expect(facts(proof)).not.toContain('sensor-turned');
  expect(judgeProof(pumps, proof, 13.2).map((one) => one.text)).toContain(
    'Cistern pump reads with the wrong sign, others do not.',
  );
  // Turned round it is counted all the same.
  expect(provenCounted(pumps, proof, 13.2).pump).toBe(true);
});

test('part of a device, measured by clamp meter, is said; by its plate alone it is not', () => {
  const half = { clampA: 14.2, showsA: -7 };
  expect(answer(but('pump', half), 'pump')).toBe('fraction');
  expect(facts(but('pump', half))).not.toContain('scale-off');
  const inverter = (showsA: number) =>
    answer(but('inverter', { watts: 70, efficiencyPercent: 88, showsA }), 'inverter');
  expect(inverter(-3.5)).toBe('shown');
  expect(inverter(-1.8)).toBe('fraction');
});

test('what is too small, or of which nobody knows what it gives, settles nothing', () => {
  expect(answer(but('pump', { clampA: 0.3, showsA: 0 }), 'pump')).toBe('too-small');
  expect(answer(but('solar', { showsA: 0.1 }), 'solar')).toBe('open');
  expect(answer(but('solar', { showsA: 5 }), 'solar')).toBe('shown');
  expect(provenCounted(pumps, but('solar', { showsA: 0.1 }), 13.2)).not.toHaveProperty('solar');
  expect(facts(but('solar', { showsA: 0.1 }))).not.toContain('source-unseen');
});

test('a clip-on sensor has its own wording', () => {
  const said = (proof: Proof) =>
    judgeProof(hall, proof, 13.2)
      .map((one) => one.follows ?? '')
      .join(' ');
  expect(said(scaled(-1))).toMatch(/clip-on sensor is turned round/);
  expect(said(but('solar', { knownA: 17, showsA: 0 }))).toMatch(/through the clip-on sensor/);
  expect(said(scaled(0.5))).toMatch(/sensor’s rating/);
  expect(
    judgeProof(pumps, scaled(-1), 13.2)
      .map((one) => one.follows ?? '')
      .join(' '),
  ).not.toMatch(/clip-on/);
});

test('of several shunts: two devices on one are said, and one that is described elsewhere', () => {
  const system: System = {
    ...pumps,
    monitor: {
      ...pumps.monitor!,
      shunts: [
        { id: 'a', name: 'Shunt A', devices: ['mains', 'pump'] },
        { id: 'b', name: 'Shunt B', devices: ['solar', 'inverter'] },
      ],
    },
  };
  const on = (solar: string) =>
    judgeProof(
      system,
      {
        ...fine,
        devices: {
          ...fine.devices,
          mains: { ...fine.devices!.mains!, shunt: 'a' },
          solar: { ...fine.devices!.solar!, shunt: solar },
        },
      },
      13.2,
    ).map((one) => one.text);
  expect(on('a')).toContain('Mains charger and Solar controller pass Shunt A together.');
  expect(on('a')).toContain('Solar controller moves Shunt A, and is described on Shunt B.');
  expect(on('b').join(' ')).not.toMatch(/together|described on/);
});
