/** What was, what the replay makes of the settings as they were, and what it makes of those that are tried. */

import type { Outcome } from '@/core/whatif/replay';
import { chargeText } from '@/core/whatif/text';
import { HeadCells } from '@/ui/primitives/HeadCells';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  was: Outcome;
  now: Outcome;
  /** Sources by their ids. */
  nameOf(id: string): string;
}

interface Line {
  what: string;
  of(one: Outcome): string;
}

const HEADS = ['', 'As it was set', 'As tried'];

const hours = (value: number): string => (value === value ? `${value.toFixed(1)} h` : 'never');

const linesOf = (was: Outcome, nameOf: Props['nameOf']): Line[] => [
  { what: 'Days that end full', of: (one) => `${one.fullDays} of ${one.days}` },
  { what: 'Hours to full', of: (one) => hours(one.hoursToFull) },
  { what: 'Highest charge of a day, mean', of: (one) => chargeText(one.topPercent) },
  { what: 'Lowest charge', of: (one) => chargeText(one.lowestPercent) },
  { what: 'Into the battery', of: (one) => `${one.ampHoursIn.toFixed(0)} Ah` },
  ...(was.gassedAh === was.gassedAh
    ? [{ what: 'Lost to gassing', of: (one: Outcome) => `${one.gassedAh.toFixed(0)} Ah` }]
    : []),
  ...was.fromSources.map(({ id }, k) => ({
    what: `From ${nameOf(id)}`,
    of: (one: Outcome) => `${one.fromSources[k]!.ampHours.toFixed(0)} Ah`,
  })),
];

export function OutcomeTable({ was, now, nameOf }: Props) {
  return (
    <TableFrame label="What the replay comes to">
      <table className="w-full border-collapse text-left text-sm">
        <thead>
          <tr className="border-rule-strong text-ink-soft border-b text-xs">
            <HeadCells names={HEADS} className="px-2 py-1 text-right font-normal" />
          </tr>
        </thead>
        <tbody>
          {linesOf(was, nameOf).map(({ what, of }) => (
            <tr key={what} className="border-rule border-b">
              <th scope="row" className="px-2 py-1 font-normal">
                {what}
              </th>
              <td className="px-2 py-1 text-right font-mono">{of(was)}</td>
              <td className="px-2 py-1 text-right font-mono">{of(now)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </TableFrame>
  );
}
