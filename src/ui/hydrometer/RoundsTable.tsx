'use client';
/** The rounds, the latest first; each opens to its readings. */

import type { JudgedRound } from '@/core/hydrometer/judge';
import type { Round } from '@/core/hydrometer/round';
import { counted, dayText } from '@/core/quantity/text';
import { RecordItem } from '@/ui/records/RecordItem';

interface Props {
  rounds: readonly JudgedRound[];
  /** Ids of those that wait to be sent. */
  waiting: readonly string[];
  onRemove(round: Round): void;
}

const HEADS = ['Cell', 'Read', 'At 25 °C', 'State, %', 'From the mean, points'];

export function RoundsTable({ rounds, waiting, onRemove }: Props) {
  return (
    <ul>
      {[...rounds].reverse().map(({ round, readings, mean, spread, low, weak }) => (
        <RecordItem
          key={round.id}
          isWaiting={waiting.includes(round.id)}
          weak={weak}
          notes={round.notes}
          removal={`Take off the round of ${dayText(round.on)}`}
          onRemove={() => onRemove(round)}
          summary={
            <>
              <span className="font-mono">{dayText(round.on)}</span>: {counted(readings.length, 'cell')}, mean{' '}
              <span className="font-mono">{mean.toFixed(3)}</span>, {Math.round(1000 * spread)} points apart
              {low.length > 0 && `, low: ${low.map((one) => one.cell).join(', ')}`}
            </>
          }
          table={{
            label: `Readings of ${dayText(round.on)}`,
            heads: HEADS,
            rows: readings.map((one) => (
              <tr key={one.cell} className={`border-rule border-b ${one.isLow ? 'font-semibold' : ''}`}>
                <th scope="row" className="px-2 py-1 font-normal">
                  {one.cell}
                  {one.isLow ? ' low' : ''}
                </th>
                <td className="px-2 py-1">{one.gravity.toFixed(3)}</td>
                <td className="px-2 py-1">{one.corrected.toFixed(3)}</td>
                <td className="px-2 py-1">{one.percent.toFixed(0)}</td>
                <td className="px-2 py-1">
                  {(one.under > 0 ? '−' : '+') + Math.abs(1000 * one.under).toFixed(0)}
                </td>
              </tr>
            )),
          }}
        />
      ))}
    </ul>
  );
}
