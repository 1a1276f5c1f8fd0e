import { demoSystem } from '../simulate/demo';
import { likeEarlier } from './likeEarlier';
import { systemSchema } from './schema';

const { system: horn } = demoSystem('fog-horn');
const earlier = systemSchema.parse({
  ...horn,
  owner: 'Harbour office',
  bank: {
    ...horn.bank,
    installedOn: '2019-03-01',
    equalise: { volts: 62, minutes: 60, everyDays: 60, lastOn: '2026-06-01' },
  },
});

test('devices and settings are those of the earlier system; site, owner and dates are not', () => {
  const like = likeEarlier(earlier, 'Fog horn, east pier', 'Europe/Athens');
  expect(like.name).toBe('Fog horn, east pier');
  expect(like.timeZone).toBe('Europe/Athens');
  expect(like.owner).toBeUndefined();
  expect(like.site).toBeUndefined();
  expect(like.bank.installedOn).toBeUndefined();
  expect(like.bank.equalise).toEqual({ volts: 62, minutes: 60, everyDays: 60 });
  expect(like.bank.capacityAh).toBe(earlier.bank.capacityAh);
  expect(like.monitor).toEqual(earlier.monitor);
  expect(like.sources.map((one) => [one.id, one.profile])).toEqual(
    earlier.sources.map((one) => [one.id, one.profile]),
  );
});

test('what has to be seen on site is open again, and the description is a whole one', () => {
  const like = likeEarlier(earlier, 'Fog horn, east pier', 'Europe/Athens');
  for (const device of [...like.sources, ...like.loads]) {
    expect(device.counted).toBeNull();
    expect(device.conductor).toBeUndefined();
  }
  expect(systemSchema.parse(like)).toEqual(like);
});

test('the earlier system stays as it was', () => {
  const before = structuredClone(earlier);
  likeEarlier(earlier, 'Another', 'UTC').bank.capacityAh = 1;
  expect(earlier).toEqual(before);
});
