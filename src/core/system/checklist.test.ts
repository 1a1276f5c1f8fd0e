import { DEMO_SLUGS, demoSystem } from '../simulate/demo';
import { CHECKLIST, checklistFor } from './checklist';
import { WORKS, type System } from './schema';

const ids = (system: System, works: Parameters<typeof checklistFor>[1] = []) =>
  checklistFor(system, works).map((one) => one.id);

test('cautions fit the chemistry', () => {
  const flooded = ids(demoSystem('seismic-vault').system);
  expect(flooded).toEqual(expect.arrayContaining(['ventilation', 'acid', 'electrolyte', 'tools']));
  expect(flooded).not.toContain('cold');
  const lithium = ids(demoSystem('weather-mast').system);
  expect(lithium).toEqual(expect.arrayContaining(['cold', 'bms-intact', 'tools', 'panels']));
  expect(lithium).not.toContain('acid');
  const gel = ids(demoSystem('harbour-office').system);
  expect(gel).toContain('ventilation');
  expect(gel).not.toContain('electrolyte');
});

test('of an unknown battery every caution is shown', () => {
  const unknown: System = { name: 'X', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
  expect(ids(unknown)).toEqual(expect.arrayContaining(['ventilation', 'acid', 'cold', 'tools', 'mains']));
});

test('the maker’s sheet comes before water and equalisation', () => {
  const { system } = demoSystem('seismic-vault');
  expect(ids(system)).not.toContain('maker-sheet');
  expect(ids(system, ['water'])).toContain('maker-sheet');
  expect(ids(system, ['equalise'])).toEqual(expect.arrayContaining(['maker-sheet', 'equalise-watch']));
  expect(ids(system, ['capacity-test'])).toContain('capacity-watch');
});

test('ids are unique, every item is shown somewhere', () => {
  expect(new Set(CHECKLIST.map((one) => one.id)).size).toBe(CHECKLIST.length);
  const shown = new Set(DEMO_SLUGS.flatMap((slug) => ids(demoSystem(slug).system, WORKS)));
  expect(CHECKLIST.filter((one) => !shown.has(one.id))).toEqual([]);
});
