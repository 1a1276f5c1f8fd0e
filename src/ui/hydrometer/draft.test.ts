import type { Round } from '@/core/hydrometer/round';
import { demoSystem } from '@/core/simulate/demo';
import { cellNames, type Draft, newDraft, roundOf } from './draft';

const { system, records } = demoSystem('seismic-vault');
const rounds = records!['hydrometer-round']!;
const draft = (some: Partial<Draft> = {}): Draft => ({
  ...newDraft(system, rounds),
  readings: [
    { cell: '1', gravity: '1,249', celsius: '' },
    { cell: '2', gravity: '1250', celsius: '18' },
    { cell: '3', gravity: '', celsius: '' },
  ],
  ...some,
});
const made = (some: Partial<Draft> = {}): Round => {
  const found = roundOf(draft(some));
  if ('problem' in found) throw new Error(found.problem);
  return found.round;
};
const problem = (some: Partial<Draft>) => roundOf(draft(some));

test('batteries by number, cells by letter', () => {
  expect(cellNames(7, 6)).toEqual(['1A', '1B', '1C', '1D', '1E', '1F', '2A']);
  expect(cellNames(4, 3)).toEqual(['1A', '1B', '1C', '2A']);
  expect(cellNames(3, 1)).toEqual(['1', '2', '3']);
});

test('a new round has the cells and the instrument of those before, and none of their readings', () => {
  const fresh = newDraft(system, rounds);
  expect(fresh.readings).toHaveLength(12);
  expect(fresh.readings.every((one) => one.gravity === '')).toBe(true);
  expect(fresh).toMatchObject({ instrument: 'Glass with the blue bulb', compensates: 'no', celsius: '' });
  expect(rounds.map((one) => one.id)).not.toContain(fresh.id);
});

test('a hasty round of two cells does not take the others away', () => {
  const hasty = { ...rounds[0]!, on: '2026-11-01', readings: rounds[0]!.readings.slice(0, 2) };
  expect(newDraft(system, [...rounds, hasty]).readings).toHaveLength(12);
});

test('without a round before, the cells of the bank', () => {
  expect(
    newDraft(system, [])
      .readings.map((one) => one.cell)
      .slice(-1),
  ).toEqual(['2F']);
});

test('what is typed as a person types it: commas, thousandths, empty cells left out', () => {
  expect(made().readings).toEqual([
    { cell: '1', gravity: 1.249, celsius: undefined },
    { cell: '2', gravity: 1.25, celsius: 18 },
  ]);
});

test('yes, no and not known are three things', () => {
  expect(made({ afterFullCharge: 'yes', compensates: '' })).toMatchObject({
    afterFullCharge: true,
    compensates: undefined,
  });
  expect(made({ afterFullCharge: 'no' }).afterFullCharge).toBe(false);
});

test('of what a temperature was taken is kept only with a temperature', () => {
  expect(made({ celsius: '', takenOf: 'case' }).takenOf).toBeUndefined();
  expect(made({ celsius: '17,5', takenOf: 'case' })).toMatchObject({ celsius: 17.5, takenOf: 'case' });
});

test.each([
  [{ readings: [{ cell: '1', gravity: '2.4', celsius: '' }] }, /^Cell 1: .*between 1 and 1\.4/, '1'],
  [{ readings: [{ cell: '1', gravity: 'heavy', celsius: '' }] }, /^Cell 1: /, '1'],
  [{ readings: [{ cell: '1', gravity: '', celsius: '' }] }, /one cell at least/, undefined],
  [{ celsius: 'warm' }, /not a number/, undefined],
  [{ on: '' }, /year-month-day/, undefined],
] as [Partial<Draft>, RegExp, string | undefined][])('%j is refused with a sentence', (some, text, cell) => {
  const found = problem(some);
  expect(found).toMatchObject({ problem: expect.stringMatching(text) });
  expect('cell' in found ? found.cell : undefined).toBe(cell);
});
