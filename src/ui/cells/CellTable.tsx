'use client';
/** The cells ranked by how far they stand apart. */

import { trueMinus } from '@/core/quantity/text';
import { VERDICT_WORDS } from '@/core/diagnosis/cellsText';
import type { CellOut, CellsOut } from '@/core/diagnosis/result';
import { TableFrame } from '@/ui/primitives/TableFrame';

const signed = (value: number | null, digits = 0): string =>
  value === null ? '–' : `${value > 0 ? '+' : ''}${trueMinus(value.toFixed(digits))}`;

/** Ah: so little in the flat part is none. */
const NEXT_TO_NONE = 0.5;

const lag = (one: CellOut['behindAtTop']): string => {
  if (!one) return '–';
  if (Math.abs(one.ampHours) < NEXT_TO_NONE && one.least === 0) return '0';
  const digits = Math.abs(one.most) < 10 ? 1 : 0;
  const [low, high] = [one.least, one.most].sort((a, b) => a - b) as [number, number];
  return `${signed(one.ampHours, digits)} (${signed(low, digits)} to ${signed(high, digits)})`;
};

/** How far a cell stands apart: in ampere-hours where they are known, else by its voltage. */
const apart = ({ behindAtTop, shortAtBottom, flat }: CellOut): number =>
  Math.max(Math.abs(behindAtTop?.ampHours ?? 0), Math.abs(shortAtBottom?.ampHours ?? 0)) * 1000 +
  Math.abs(flat ?? 0);

const COLUMNS: readonly { name: string; unit: string; wide?: true; of(one: CellOut): string }[] = [
  { name: 'In the flat part', unit: 'mV', of: (one) => signed(one.flat) },
  { name: 'At the top', unit: 'mV', wide: true, of: (one) => signed(one.top) },
  { name: 'Near empty', unit: 'mV', wide: true, of: (one) => signed(one.bottom) },
  { name: 'Behind at the top', unit: 'Ah', of: (one) => lag(one.behindAtTop) },
  { name: 'Empty before the others', unit: 'Ah', of: (one) => lag(one.shortAtBottom) },
  { name: 'First full', unit: 'times', wide: true, of: (one) => String(one.firstHigh) },
  { name: 'First empty', unit: 'times', wide: true, of: (one) => String(one.firstLow) },
  {
    name: 'With its joints',
    unit: 'mΩ',
    wide: true,
    of: (one) =>
      one.milliohms === null ? '–' : `${one.milliohms.toFixed(1)} ± ${(one.milliohmsBand ?? 0).toFixed(1)}`,
  },
  { name: 'Falls behind', unit: 'Ah a day', wide: true, of: (one) => signed(one.fallsBehindAhADay, 2) },
];

export function CellTable({ cells }: { cells: CellsOut }) {
  const ranked = [...cells.cells].sort((a, b) => apart(b) - apart(a));
  const columns = COLUMNS.filter(({ of }) => cells.cells.some((one) => !/^[–0]$/.test(of(one))));
  return (
    <>
      <TableFrame label="Table of cells">
        <table className="w-full border-collapse text-left text-xs">
          <thead>
            <tr className="border-rule-strong text-ink-soft border-b align-bottom">
              <th scope="col" className="px-2 py-1 font-normal">
                {cells.kind === 'cells' ? 'Cell' : 'Half'}
              </th>
              {cells.kind === 'cells' && (
                <th scope="col" className="px-2 py-1 font-normal">
                  What it is
                </th>
              )}
              {columns.map(({ name, unit, wide }) => (
                <th
                  key={name}
                  scope="col"
                  className={`px-2 py-1 text-right font-normal ${wide ? 'max-sm:hidden' : ''}`}
                >
                  {name}, {unit}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ranked.map((one) => {
              const stands = one.verdict !== 'level' && one.verdict !== 'unknown';
              return (
                <tr key={one.cell} className="border-rule border-b align-top">
                  <th scope="row" className="px-2 py-1 font-mono font-normal">
                    {one.cell}
                  </th>
                  {cells.kind === 'cells' && (
                    <td className={`px-2 py-1 ${stands ? 'font-semibold' : 'text-ink-soft'}`}>
                      {VERDICT_WORDS[one.verdict]}
                    </td>
                  )}
                  {columns.map(({ name, of, wide }) => (
                    <td
                      key={name}
                      className={`px-2 py-1 text-right font-mono sm:whitespace-nowrap ${wide ? 'max-sm:hidden' : ''}`}
                    >
                      {of(one)}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </TableFrame>
      <p className="text-ink-soft mt-2 max-w-3xl text-xs">
        {cells.kind === 'cells'
          ? 'Millivolts and ampere-hours are against the middle of the cells, without the highest and the lowest. Behind at the top and empty before the others by about as much: the cell is out of step, and charging it up helps. Empty before the others and hardly behind at the top: it holds less, and only a new one helps. In the flat part of lithium a few millivolts stand for many ampere-hours, so a range is given.'
          : 'Millivolts are against half of the voltage of the bank. Halves of a 24 V bank should stand within about 100 mV of each other.'}
      </p>
      {cells.kind === 'cells' && (
        <p className="text-ink-soft mt-1 max-w-3xl text-xs">
          Two schools set where balancing begins: at the charge voltage a cell, so that only a cell that runs
          ahead is bled; or a little under it, so that all take part for longer. Both need hours at a low
          current.
        </p>
      )}
    </>
  );
}
