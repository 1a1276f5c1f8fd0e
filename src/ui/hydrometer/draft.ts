/** A round while it is typed: everything as text, as it stands in the fields. */

import { type Round, roundSchema, type TakenOf } from '@/core/hydrometer/round';
import { issuesOf } from '@/core/system/refusals';
import type { System } from '@/core/system/schema';
import { today } from '@/ui/primitives/today';
import { typedNumber, typedYesNo, type YesNo } from '@/ui/records/typed';

export interface Draft {
  id: string;
  on: string;
  afterFullCharge: YesNo;
  wateredOn: string;
  celsius: string;
  takenOf: TakenOf;
  instrument: string;
  compensates: YesNo;
  notes: string;
  readings: { cell: string; gravity: string; celsius: string }[];
}

export type CellsPerBlock = 1 | 3 | 6;
export const BLOCKS: readonly { cells: CellsPerBlock; name: string }[] = [
  { cells: 1, name: '2 V cells: 1, 2, 3 …' },
  { cells: 3, name: '6 V batteries: 1A, 1B, 1C, 2A …' },
  { cells: 6, name: '12 V batteries: 1A to 1F, 2A …' },
];

/** Batteries by number, their cells by letter. */
export const cellNames = (count: number, perBlock: CellsPerBlock): string[] =>
  Array.from({ length: count }, (_, k) =>
    perBlock === 1
      ? String(k + 1)
      : `${Math.floor(k / perBlock) + 1}${String.fromCharCode(65 + (k % perBlock))}`,
  );

/** A new round, with the instrument of the last one and the cells of the fullest: a hasty round leaves some out. */
export function newDraft({ bank }: System, rounds: readonly Round[]): Draft {
  const last = rounds.at(-1);
  const fullest = rounds.reduce<Round | undefined>(
    (most, one) => (one.readings.length >= (most?.readings.length ?? 0) ? one : most),
    undefined,
  );
  const names = fullest?.readings.map((one) => one.cell) ?? cellNames(bank.cellsInSeries ?? 6, 6);
  return {
    id: crypto.randomUUID(),
    on: today(),
    afterFullCharge: '',
    wateredOn: last?.wateredOn ?? '',
    celsius: '',
    takenOf: last?.takenOf ?? 'electrolyte',
    instrument: last?.instrument ?? '',
    compensates: last?.compensates === undefined ? '' : last.compensates ? 'yes' : 'no',
    notes: '',
    readings: names.map((cell) => ({ cell, gravity: '', celsius: '' })),
  };
}

/** The round, or what is wrong with it: a sentence, with the cell where it is one's. */
export function roundOf(draft: Draft): { round: Round } | { problem: string; cell?: string } {
  const typed = draft.readings.filter((one) => one.gravity.trim() !== '');
  const value = {
    id: draft.id,
    on: draft.on,
    afterFullCharge: typedYesNo(draft.afterFullCharge),
    wateredOn: draft.wateredOn || undefined,
    celsius: typedNumber(draft.celsius),
    takenOf: draft.celsius.trim() === '' ? undefined : draft.takenOf,
    instrument: draft.instrument.trim() || undefined,
    compensates: typedYesNo(draft.compensates),
    notes: draft.notes.trim() || undefined,
    readings: typed.map(({ cell, gravity, celsius }) => ({
      cell: cell.trim(),
      gravity: typedNumber(gravity),
      celsius: typedNumber(celsius),
    })),
  };
  const parsed = roundSchema.safeParse(value);
  if (parsed.success) return { round: parsed.data };
  const issue = issuesOf(parsed.error)[0]!;
  const cell = issue.path[0] === 'readings' ? typed[Number(issue.path[1])]?.cell : undefined;
  return cell === undefined
    ? { problem: issue.message }
    : { problem: `Cell ${cell || 'without a name'}: ${issue.message}`, cell };
}
