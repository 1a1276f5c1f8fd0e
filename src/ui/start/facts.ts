/** The few facts without which no log can be judged, as they stand in the fields, with what the logs suggest. */

import { CHEMISTRY } from '@/core/system/chemistry';
import type { BankSuggestion } from '@/core/suggest/bank';
import type { Bank, Chemistry } from '@/core/system/schema';

export interface Facts {
  /** 12 V blocks; empty while not said. */
  blocks: string;
  chemistry: Chemistry | '';
  cells: string;
  capacityAh: string;
}

export const NO_FACTS: Facts = { blocks: '', chemistry: '', cells: '', capacityAh: '' };

/** What was said goes before what is suggested. */
export function withSuggestion(said: Facts, suggested: BankSuggestion | null): Facts {
  const blocks = said.blocks || (suggested?.blocks.value ? String(suggested.blocks.value) : '');
  const chemistry = said.chemistry || (suggested?.chemistry.value ?? '');
  return {
    ...said,
    blocks,
    chemistry,
    cells: said.cells || cellsFor(blocks, chemistry, suggested?.cells ?? null),
  };
}

function cellsFor(blocks: string, chemistry: Chemistry | '', logged: number | null): string {
  if (logged !== null) return String(logged);
  return blocks && chemistry ? String(Number(blocks) * CHEMISTRY[chemistry].cellsPerBlock) : '';
}

const number = (text: string): number | undefined =>
  text.trim() === '' ? undefined : Number(text.trim().replace(',', '.'));

/** The bank, or which fact cannot be used. */
export function bankOfFacts({ chemistry, cells, capacityAh }: Facts): { bank: Bank } | { problem: string } {
  const [count, capacity] = [number(cells), number(capacityAh)];
  if (count !== undefined && !(Number.isInteger(count) && count > 0))
    return { problem: `“${cells}” is no number of cells.` };
  if (capacity !== undefined && !(capacity > 0 && capacity < 1e6))
    return { problem: `“${capacityAh}” is no capacity: write ampere-hours, such as 200.` };
  return {
    bank: {
      ...(chemistry ? { chemistry } : {}),
      ...(count === undefined ? {} : { cellsInSeries: count }),
      ...(capacity === undefined ? {} : { capacityAh: capacity }),
    },
  };
}

/** What is still open, as short phrases: the logs are taken in all the same, and cannot be judged before. */
export const openFacts = ({ chemistry, blocks, cells, capacityAh }: Facts): string[] => [
  ...(chemistry ? [] : ['the chemistry']),
  ...(cells || blocks ? [] : ['the nominal voltage']),
  ...(capacityAh.trim() ? [] : ['the capacity']),
];

/** The best of what several logs suggest: the first that tells. */
export function joinSuggestions(all: readonly BankSuggestion[]): BankSuggestion | null {
  const [first] = all;
  if (!first) return null;
  const blocks = all.find((one) => one.blocks.value !== null) ?? first;
  const chemistry =
    all.find((one) => one.chemistry.value !== null) ??
    all.find((one) => one.chemistry.isLead !== null) ??
    blocks;
  const capacity = all.find((one) => one.capacityAh.value !== null) ?? first;
  return {
    blocks: blocks.blocks,
    chemistry: chemistry.chemistry,
    cells: all.find((one) => one.cells !== null)?.cells ?? null,
    capacityAh: capacity.capacityAh,
  };
}
