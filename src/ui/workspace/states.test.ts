import { demoSystem } from '@/core/simulate/demo';
import { figure, groupedByDevice } from '@/ui/describe/steps/sheetText';
import { reviewSettings } from '@/core/system/review/review';
import { stepStates } from './states';

const states = (slug: string, recordings = 0, told: Parameters<typeof stepStates>[3] = null) => {
  const { system, job } = demoSystem(slug);
  return stepStates(job, system, recordings, told);
};

test('the spine says how each step stands', () => {
  expect(
    states('harbour-office', 2, {
      charges: 27,
      syncs: null,
      cutoffs: null,
      cellsApart: null,
      hasRounds: false,
      found: 0,
    }),
  ).toEqual({
    'take-in': 'described',
    'make-safe': '0 of 9 looked at',
    wiring: 'all counted',
    settings: 'in order',
    logs: '2 taken in',
    charging: '27 charges',
    counting: 'nothing to count',
    'cut-offs': 'nothing to see',
    cells: 'nothing to see',
    weigh: 'nothing found',
  });
  expect(states('vaccine-cold-room')).toMatchObject({
    wiring: '1 not counted',
    settings: '4 to change',
    logs: 'none yet',
  });
  const told = { charges: 0, syncs: null, cutoffs: 0, cellsApart: null, hasRounds: false, found: 0 };
  expect(states('seismic-vault', 2, { ...told, hasRounds: true })).toMatchObject({
    cells: 'hydrometer rounds',
  });
  expect(states('parish-radio', 2, { ...told, cellsApart: 2 })).toMatchObject({ cells: '2 apart' });
  expect(states('weather-mast', 2, { ...told, cellsApart: 0 })).toMatchObject({ cells: 'level' });
  // Before the logs were weighed nothing is said of them.
  expect(states('vaccine-cold-room')).not.toHaveProperty('charging');
});

test('of a job of which nothing is known', () => {
  const { job } = demoSystem('harbour-office');
  const empty = { name: 'X', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
  expect(stepStates(job, empty, 0, null)).toMatchObject({
    'take-in': '3 basics missing',
    wiring: 'nothing described',
    settings: 'too little known',
  });
});

test('figures as text, devices with something to change first', () => {
  expect([
    figure(14.4, 'V'),
    figure(null, 'V'),
    figure('off', 'V'),
    figure('agm', ''),
    figure(1.25, ''),
  ]).toEqual(['14.4 V', 'not known', 'off', 'AGM preset', '1.25']);
  const { system, job } = demoSystem('vaccine-cold-room');
  const devices = groupedByDevice(reviewSettings(system, job).sheet).map(([device]) => device);
  expect(devices).toEqual(['Second charger', 'Cold room inverter', 'Mains charger', 'Monitor', 'BMS']);
});
