/** Every cause of undercharging says what is done about it, with the figures of this battery, and cautions where it can hurt. */

import { demoSite } from '../simulate/demo';
import { FAULTS } from '../simulate/faults';
import type { KnownSystem } from '../system/known';
import type { Judged } from './cause';
import { CAUSES } from './index';

const { system, job } = demoSite('seismic-vault');
const seen = (of: KnownSystem): Judged => ({
  job,
  system: of,
  bank: of.bank,
  span: null,
  charging: [],
  counting: null,
  days: [],
  refusals: null,
  cutoffs: null,
  cells: null,
  rounds: [],
  visits: [],
  batteries: [],
  capacityTests: [],
});
const remedyOf = (code: string, of: KnownSystem = system) =>
  CAUSES.find((one) => one.code === code)!.remedy!(seen(of));

test.each(FAULTS.map((one) => one.code))('%s: a whole sentence, without a hole in it', (code) => {
  for (const site of [system, demoSite('weather-mast').system]) {
    const { text, caution } = remedyOf(code, site);
    expect(text).toMatch(/^[A-Z].*\.$/);
    expect(`${text} ${caution}`).not.toMatch(/NaN|undefined|Infinity/);
  }
});

test('the figures are those of the battery, at 25 °C', () => {
  const { min, max } = system.bank.chargeVolts;
  expect(remedyOf('charge-voltage-low').text).toContain(`${min.toFixed(2)} to ${max.toFixed(2)} V at 25 °C`);
  expect(remedyOf('absorption-too-short').text).toContain(
    `${(0.02 * system.bank.capacityAh).toFixed(1)} A, 2 % of capacity`,
  );
  expect(remedyOf('compensation-missing').text).toContain('−5.0 to −4.0 mV per °C per cell');
});

test('a charger across one half is told half the volts', () => {
  const halves = { ...system, sources: [{ ...system.sources[0]!, across: 'lower' as const }] };
  expect(remedyOf('charge-voltage-low', halves).text).toContain('half of that for a charger across one half');
  expect(remedyOf('charge-voltage-low').text).not.toContain('half of that');
});

test('what raises the voltage warns of gas, what opens joints of the current, what meets lithium of the cold', () => {
  expect(remedyOf('charge-voltage-low').caution).toMatch(/explosive gas/);
  expect(remedyOf('charge-path-drop').caution).toMatch(/isolate first/);
  expect(remedyOf('cold-charge-block', demoSite('weather-mast').system).caution).toMatch(/below freezing/);
  expect(remedyOf('cold-battery', demoSite('weather-mast').system).caution).toMatch(/^Never charge lithium/);
  expect(remedyOf('cold-battery').caution).toMatch(/empty lead battery freezes/);
  expect(remedyOf('cold-battery').caution).not.toMatch(/lithium/);
  expect(remedyOf('runner-stops-charge').caution).toMatch(/hide a fault/);
});
