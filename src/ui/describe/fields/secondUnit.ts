/** The same figure in another unit, typed either way: per cell, per cent of capacity, °F, American gauge. */

import { CHEMISTRY } from '@/core/system/chemistry';
import { awgToSquareMm, squareMmToAwg } from '@/core/system/conductor';
import type { Unit } from '@/core/system/fields';
import type { System } from '@/core/system/schema';

export interface SecondUnit {
  unit: string;
  to(value: number): number;
  from(shown: number): number;
  digits: number;
}

/** What volts of the whole bank are shown as beside. */
export const VOLT_VIEWS = ['cell', '12', '24', '48'] as const;
export type VoltView = (typeof VOLT_VIEWS)[number];
export const VOLT_VIEW_NAMES: Record<VoltView, string> = {
  cell: 'per cell',
  '12': 'at 12 V',
  '24': 'at 24 V',
  '48': 'at 48 V',
};

const factor = (unit: string, per: number, digits: number): SecondUnit => ({
  unit,
  to: (value) => value * per,
  from: (shown) => shown / per,
  digits,
});

/** Fields in V that are of one cell already. */
const isCellVolts = (path: string) => path.startsWith('bms.');

/** Null where there is no other unit, or too much is unknown. @param path within the system */
export function secondUnit(
  path: string,
  unit: Unit,
  { bank, monitor }: System,
  view: VoltView,
): SecondUnit | null {
  const { chemistry, cellsInSeries: cells, capacityAh } = bank;
  switch (unit) {
    case 'V': {
      if (!cells) return null;
      if (isCellVolts(path)) return factor('V bank', cells, 2);
      if (view === 'cell') return factor('V/cell', 1 / cells, 3);
      if (!chemistry) return null;
      return factor(`V at ${view} V`, ((Number(view) / 12) * CHEMISTRY[chemistry].cellsPerBlock) / cells, 2);
    }
    case 'A':
      return capacityAh ? factor('% of C', 100 / capacityAh, 1) : null;
    case '%': {
      const counted = monitor?.capacityAh ?? capacityAh;
      return path === 'monitor.tailPercent' && counted ? factor('A', counted / 100, 2) : null;
    }
    case '°C':
      return { unit: '°F', to: (c) => 1.8 * c + 32, from: (f) => (f - 32) / 1.8, digits: 0 };
    case 'mV/°C':
      return cells ? factor('mV/°C bank', cells, 1) : null;
    case 'mm²':
      return { unit: 'AWG', to: squareMmToAwg, from: awgToSquareMm, digits: 0 };
    default:
      return null;
  }
}

/** A number as it was typed, comma or point; the text itself when it is none, undefined when nothing was typed. */
export function readNumber(text: string): number | string | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const value = Number(trimmed.replace(',', '.').replace('−', '-'));
  return Number.isFinite(value) ? value : trimmed;
}

/** A converted figure with no more digits than make sense. */
export const tidy = (value: number, digits: number): number => Number(value.toFixed(digits));
