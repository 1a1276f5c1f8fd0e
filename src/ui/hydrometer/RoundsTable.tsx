'use client';
/** The rounds, the latest first; each opens to its readings. */

import type { JudgedRound } from '@/core/hydrometer/judge';
import type { Round } from '@/core/hydrometer/round';
import { counted } from '@/core/quantity/text';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  rounds: readonly JudgedRound[];
  /** Ids of those that wait to be sent. */
  waiting: readonly string[];
  onRemove(round: Round): void;
}

export function RoundsTable({ rounds, waiting, onRemove }: Props) {
  return (
    <ul>
      {[...rounds].reverse().map(({ round, readings, mean, spread, low, weak }) => (
        <li key={round.id} className="border-rule-strong bg-sheet mb-2 border">
          <details>
            <summary className="cursor-pointer px-3 py-2 text-sm">
              <span className="font-mono">{round.on}</span>: {counted(readings.length, 'cell')}, mean{' '}
              <span className="font-mono">{mean.toFixed(3)}</span>, {Math.round(1000 * spread)} points apart
              {low.length > 0 && `, low: ${low.map((one) => one.cell).join(', ')}`}
              {waiting.includes(round.id) && ' (waiting to be sent)'}
            </summary>
            <div className="px-3 pb-3">
              {weak.map((one) => (
                <p key={one} className="text-ink-soft text-sm">
                  {one}
                </p>
              ))}
              {round.notes && <p className="text-sm whitespace-pre-line">{round.notes}</p>}
              <TableFrame label={`Readings of ${round.on}`}>
                <table className="w-full border-collapse text-right text-xs">
                  <thead>
                    <tr className="text-ink-soft border-rule-strong border-b">
                      {['Cell', 'Read', 'At 25 °C', 'State, %', 'From the mean, points'].map((one) => (
                        <th key={one} scope="col" className="px-2 py-1 font-normal">
                          {one}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody className="font-mono">
                    {readings.map((one) => (
                      <tr
                        key={one.cell}
                        className={`border-rule border-b ${one.isLow ? 'font-semibold' : ''}`}
                      >
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
                    ))}
                  </tbody>
                </table>
              </TableFrame>
              <button
                type="button"
                className="text-accent mt-2 text-sm underline"
                onClick={() => onRemove(round)}
              >
                Take off the round of {round.on}
              </button>
            </div>
          </details>
        </li>
      ))}
    </ul>
  );
}
