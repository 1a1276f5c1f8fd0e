/** The battery of a system in a few words. */

import { CHEMISTRY } from './chemistry';
import type { System } from './schema';

export function inShort({ bank }: System): string {
  const parts = [
    bank.chemistry && CHEMISTRY[bank.chemistry].name,
    bank.cellsInSeries && `${bank.cellsInSeries} cells`,
    bank.capacityAh && `${bank.capacityAh} Ah`,
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(', ') : 'not described yet';
}
