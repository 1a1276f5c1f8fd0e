/** Which settings are asked for by the way a monitor makes its reading. */

import { demoSystem } from '../../simulate/demo';
import type { Monitor, System } from '../schema';
import { isAsked } from './asked';
import { reviewSettings } from './review';

const { system: horn } = demoSystem('fog-horn');
const by = (method: Monitor['method']): System => {
  const system = structuredClone(horn);
  // Nothing else is known of it.
  system.monitor = method ? { method } : {};
  return system;
};
const asked = (system: System): string[] =>
  reviewSettings(system)
    .findOut.map((one) => one.path)
    .filter((one) => one.startsWith('monitor.'));

test('a shunt is asked for everything that it counts by', () => {
  expect(asked(by('shunt'))).toEqual(
    expect.arrayContaining(['monitor.capacityAh', 'monitor.chargedV', 'monitor.tailPercent']),
  );
  expect(asked(by(undefined))).toEqual(expect.arrayContaining(['monitor.chargedV']));
});

test('a source’s own count has no criteria of full; a voltage display has none at all', () => {
  const count = asked(by('source-count'));
  for (const setting of ['chargedV', 'tailPercent', 'detectionMinutes', 'thresholdA'])
    expect(count).not.toContain(`monitor.${setting}`);
  expect(count).toContain('monitor.capacityAh');
  // How deep one goes is a rule of the house, whatever shows it.
  expect(asked(by('voltage'))).toEqual(['monitor.floorPercent']);
});

test('nor does the sheet advise on what a device does not have', () => {
  const advised = (method: Monitor['method']) =>
    reviewSettings({ ...horn, monitor: { ...horn.monitor, method } })
      .sheet.filter((one) => one.of === 'monitor')
      .map((one) => one.setting);
  expect(advised('shunt')).toContain('tailPercent');
  expect(advised('source-count')).not.toContain('tailPercent');
  expect(advised('voltage')).not.toContain('capacityAh');
  expect(isAsked('voltage', 'floorPercent')).toBe(true);
});
