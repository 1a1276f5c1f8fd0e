import { demoSystem } from '../simulate/demo';
import { deviceName, sourceName } from './sourceName';

const { system } = demoSystem('fog-horn');

test('each device by its name; the monitor and the BMS also where nobody described them', () => {
  expect(deviceName(system, system.sources[0]!.id)).toBe(system.sources[0]!.name);
  expect(deviceName(system, system.loads[0]!.id)).toBe(system.loads[0]!.name);
  expect(deviceName({ ...system, monitor: undefined }, 'monitor')).toBe('Monitor');
  expect(deviceName(system, 'bms')).toBe('BMS');
  expect(deviceName({ ...system, batteries: [{ id: 'b2', name: 'Left row' }] }, 'b2')).toBe('Left row');
});

test('a source that is gone', () => {
  expect(sourceName(system, 'gone')).toBe('Source not known');
  expect(sourceName(system, null)).toBe('Source not known');
});
