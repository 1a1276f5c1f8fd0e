/** The settings sheet as text, for the screen and for paper. */

import type { SheetRow } from '@/core/system/review/review';
import { PRESET_WORDS } from '@/core/system/words';

/** "14.4 V", "off", "not known". */
export function figure(value: number | string | null, unit: string): string {
  if (value === null) return 'not known';
  if (typeof value === 'string') return PRESET_WORDS[value as keyof typeof PRESET_WORDS] ?? value;
  return unit ? `${value} ${unit}` : String(value);
}

/** Rows by device: those with something to change first, else in the order of the sheet. */
export function groupedByDevice(sheet: readonly SheetRow[]): [string, SheetRow[]][] {
  const groups = new Map<string, SheetRow[]>();
  for (const row of sheet) groups.set(row.ofName, [...(groups.get(row.ofName) ?? []), row]);
  const changes = ([, rows]: [string, SheetRow[]]) => (rows.some((row) => row.verdict === 'change') ? 0 : 1);
  return [...groups].sort((a, b) => changes(a) - changes(b));
}
