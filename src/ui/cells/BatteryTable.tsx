'use client';
/** Batteries in parallel beside each other. */

import { trueMinus } from '@/core/quantity/text';
import { BATTERY_WORDS, parallelText } from '@/core/diagnosis/parallelOut';
import type { BatteryOut } from '@/core/diagnosis/result';
import { TableFrame } from '@/ui/primitives/TableFrame';

const figure = (value: number | null, digits: number, signed = false): string =>
  value === null ? '–' : `${signed && value > 0 ? '+' : ''}${trueMinus(value.toFixed(digits))}`;

const COLUMNS: readonly { name: string; unit: string; of(one: BatteryOut): string }[] = [
  { name: 'Its part', unit: '%', of: (one) => figure(one.partPercent, 0) },
  { name: 'Gives', unit: '%', of: (one) => figure(one.givenPercent, 0) },
  { name: 'Takes', unit: '%', of: (one) => figure(one.takenPercent, 0) },
  { name: 'Own percentage', unit: 'points', of: (one) => figure(one.percentApart, 0, true) },
  { name: 'Voltage', unit: 'mV', of: (one) => figure(one.millivoltsApart, 0, true) },
  { name: 'Stood out', unit: 'h', of: (one) => figure(one.hoursOut, 1) },
];

export function BatteryTable({ batteries }: { batteries: readonly BatteryOut[] }) {
  if (batteries.length === 0) return null;
  return (
    <section aria-label="Batteries in parallel" className="mb-4">
      <h2 className="mb-1 font-semibold">Batteries in parallel</h2>
      <ul className="mb-2 flex max-w-3xl list-disc flex-col gap-1 pl-5 text-sm">
        {parallelText(batteries).map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <TableFrame label="Table of batteries">
        <table className="w-full border-collapse text-left text-xs">
          <thead>
            <tr className="border-rule-strong text-ink-soft border-b align-bottom">
              <th scope="col" className="px-2 py-1 font-normal">
                Battery
              </th>
              <th scope="col" className="px-2 py-1 font-normal">
                What it does
              </th>
              {COLUMNS.map(({ name, unit }) => (
                <th key={name} scope="col" className="px-2 py-1 text-right font-normal">
                  {name}, {unit}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {batteries.map((one) => (
              <tr key={one.battery} className="border-rule border-b">
                <th scope="row" className="px-2 py-1 font-normal">
                  {one.name}
                </th>
                <td className={`px-2 py-1 ${one.verdict === 'shares' ? '' : 'font-semibold'}`}>
                  {BATTERY_WORDS[one.verdict]}
                </td>
                {COLUMNS.map(({ name, of }) => (
                  <td key={name} className="px-2 py-1 text-right font-mono whitespace-nowrap">
                    {of(one)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </TableFrame>
      <p className="text-ink-soft mt-1 max-w-3xl text-xs">
        Own percentage and voltage are over or under the middle of the others, the voltage where little flows.
      </p>
    </section>
  );
}
