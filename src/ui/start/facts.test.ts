import type { BankSuggestion } from '@/core/suggest/bank';
import { bankOfFacts, joinSuggestions, NO_FACTS, openFacts, withSuggestion } from './facts';

const told = <T>(value: T | null) => ({ value, why: 'because' });
const suggestion = (some: Partial<BankSuggestion> = {}): BankSuggestion => ({
  blocks: told(2),
  chemistry: { ...told<'lfp'>('lfp'), isLead: false },
  cells: null,
  capacityAh: told(160),
  ...some,
});

test('voltage and chemistry are put in as suggested, the capacity never by itself', () => {
  expect(withSuggestion(NO_FACTS, suggestion())).toEqual({
    blocks: '2',
    chemistry: 'lfp',
    cells: '8',
    capacityAh: '',
  });
  expect(withSuggestion(NO_FACTS, null)).toEqual(NO_FACTS);
});

test('what was said goes before what is suggested, and the cells follow it', () => {
  const said = { ...NO_FACTS, blocks: '4', chemistry: 'agm' as const };
  expect(withSuggestion(said, suggestion())).toMatchObject({ blocks: '4', chemistry: 'agm', cells: '24' });
  expect(withSuggestion({ ...said, cells: '23' }, suggestion()).cells).toBe('23');
  // Cells that were logged are counted.
  expect(withSuggestion(NO_FACTS, suggestion({ cells: 15, blocks: told(4) })).cells).toBe('15');
});

test('the bank of the facts, or the fact that cannot be used', () => {
  expect(bankOfFacts({ blocks: '2', chemistry: 'agm', cells: '12', capacityAh: '190,5' })).toEqual({
    bank: { chemistry: 'agm', cellsInSeries: 12, capacityAh: 190.5 },
  });
  expect(bankOfFacts(NO_FACTS)).toEqual({ bank: {} });
  expect(bankOfFacts({ ...NO_FACTS, capacityAh: 'large' })).toEqual({
    problem: expect.stringContaining('“large”'),
  });
  expect(bankOfFacts({ ...NO_FACTS, cells: '6.5' })).toEqual({
    problem: expect.stringContaining('no number of cells'),
  });
  expect(openFacts(NO_FACTS)).toEqual(['the chemistry', 'the nominal voltage', 'the capacity']);
  expect(openFacts({ blocks: '1', chemistry: 'agm', cells: '6', capacityAh: '100' })).toEqual([]);
});

test('of several logs the first that tells is believed, fact by fact', () => {
  const charger = suggestion({
    chemistry: { ...told<'lfp'>(null), isLead: null },
    capacityAh: told<number>(null),
  });
  const bms = suggestion({ cells: 8, blocks: told<number>(null) });
  expect(joinSuggestions([])).toBeNull();
  expect(joinSuggestions([charger, bms])).toMatchObject({
    blocks: { value: 2 },
    chemistry: { value: 'lfp' },
    cells: 8,
    capacityAh: { value: 160 },
  });
  const onlyLead = suggestion({ chemistry: { ...told<'agm'>(null), isLead: true } });
  expect(joinSuggestions([charger, onlyLead])!.chemistry.isLead).toBe(true);
});
