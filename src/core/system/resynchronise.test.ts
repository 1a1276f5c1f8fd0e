import { DEMO_SLUGS, demoSystem } from '../simulate/demo';
import { resynchronise } from './resynchronise';

const steps = (slug: string, from?: number) => resynchronise(demoSystem(slug).system, from).steps.join('\n');

test('the figures are this system’s', () => {
  const text = steps('harbour-office', 60);
  expect(text).toMatch(/Charge with Mains charger to 28\.20 V; from 60 % that takes about \d+ h/);
  expect(text).toMatch(/fallen to 2\.4 A \(2\.0 % of capacity\)/);
  expect(text).toMatch(/above 27\.20 V and the current below 4\.8 A for 3 min/);
  expect(text).toMatch(/Do it again every fortnight: enough where currents are steady/);
  expect(text).not.toMatch(/First set/);
});

test('settings that keep it from happening come first, and what is not counted is switched off', () => {
  expect(steps('parish-radio')).toMatch(/^First set in the monitor: charged voltage 51\.65 V \(now 53\.9\)/);
  expect(steps('vaccine-cold-room')).toMatch(/Switch off what the monitor does not count.*Second charger/);
});

test('a nearly empty battery takes longer', () => {
  const hours = (from: number) => Number(/takes about (\d+) h/.exec(steps('harbour-office', from))![1]);
  expect(hours(20)).toBeGreaterThan(hours(70));
});

test.each(DEMO_SLUGS)('%s: cautions fit the chemistry, and nothing is left blank', (slug) => {
  const { system } = demoSystem(slug);
  const { steps: all, cautions } = resynchronise(system);
  expect(all.length).toBeGreaterThanOrEqual(4);
  expect(all.join(' ')).not.toMatch(/undefined|NaN|null/);
  expect(cautions.join(' ')).toMatch(system.bank.chemistry === 'lfp' ? /below freezing/ : /explosive gas/);
});

test('of a system of which nothing is known it still says how', () => {
  const { steps: all } = resynchronise({ name: 'X', timeZone: 'UTC', bank: {}, sources: [], loads: [] });
  expect(all.join(' ')).toMatch(
    /Charge with the charger\. Keep the loads small\..*Read off when a monitor calls the battery full/,
  );
});
