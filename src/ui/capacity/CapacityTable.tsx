'use client';
/** The tests, the latest first; each opens to its readings. */

import type { JudgedTest } from '@/core/capacity/judge';
import type { CapacityTest } from '@/core/capacity/record';
import { ampHours, duration } from '@/core/quantity/text';
import { HOUR } from '@/core/quantity/span';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  tests: readonly JudgedTest[];
  /** Ids of those that wait to be sent. */
  waiting: readonly string[];
  onRemove(test: CapacityTest): void;
}

export function CapacityTable({ tests, waiting, onRemove }: Props) {
  return (
    <ul>
      {[...tests].reverse().map(({ test, drawn, percent, band, isComplete, isAtItsEnd, weak }) => (
        <li key={test.id} className="border-rule-strong bg-sheet mb-2 border">
          <details>
            <summary className="cursor-pointer px-3 py-2 text-sm">
              <span className="font-mono">{test.on}</span>: {isComplete ? '' : 'at least '}
              <span className="font-mono">{percent.toFixed(0)} %</span> of the rating (± {Math.round(band)}),{' '}
              {ampHours(drawn.ampHours)} in {duration(drawn.hours * HOUR)}
              {test.from === 'log' && ', from a log'}
              {isAtItsEnd && ', at its end'}
              {waiting.includes(test.id) && ' (waiting to be sent)'}
            </summary>
            <div className="px-3 pb-3">
              {weak.map((one) => (
                <p key={one} className="text-ink-soft text-sm">
                  {one}
                </p>
              ))}
              {test.notes && <p className="text-sm whitespace-pre-line">{test.notes}</p>}
              <TableFrame label={`Readings of ${test.on}`}>
                <table className="w-full border-collapse text-right text-xs">
                  <thead>
                    <tr className="text-ink-soft border-rule-strong border-b">
                      {['Minutes', 'V', 'A', 'Lowest cell, V', 'Cell'].map((one) => (
                        <th key={one} scope="col" className="px-2 py-1 font-normal">
                          {one}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody className="font-mono">
                    {test.readings.map((one) => (
                      <tr key={one.minutes} className="border-rule border-b">
                        <th scope="row" className="px-2 py-1 font-normal">
                          {one.minutes.toFixed(0)}
                        </th>
                        <td className="px-2 py-1">{one.volts.toFixed(2)}</td>
                        <td className="px-2 py-1">{one.amps.toFixed(1)}</td>
                        <td className="px-2 py-1">{one.lowestCellVolts?.toFixed(2) ?? '–'}</td>
                        <td className="px-2 py-1">{one.cell ?? '–'}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </TableFrame>
              <button
                type="button"
                className="text-accent mt-2 text-sm underline"
                onClick={() => onRemove(test)}
              >
                Take off the test of {test.on}
              </button>
            </div>
          </details>
        </li>
      ))}
    </ul>
  );
}
