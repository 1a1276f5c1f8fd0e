'use client';
/** The tests, the latest first; each opens to its readings. */

import type { JudgedTest } from '@/core/capacity/judge';
import type { CapacityTest } from '@/core/capacity/record';
import { ampHours, dayText, duration } from '@/core/quantity/text';
import { HOUR } from '@/core/quantity/span';
import { RecordItem } from '@/ui/records/RecordItem';

interface Props {
  tests: readonly JudgedTest[];
  /** Ids of those that wait to be sent. */
  waiting: readonly string[];
  onRemove(test: CapacityTest): void;
}

const HEADS = ['Minutes', 'V', 'A', 'Lowest cell, V', 'Cell'];

export function CapacityTable({ tests, waiting, onRemove }: Props) {
  return (
    <ul>
      {[...tests].reverse().map(({ test, drawn, percent, band, isComplete, isAtItsEnd, weak }) => (
        <RecordItem
          key={test.id}
          isWaiting={waiting.includes(test.id)}
          weak={weak}
          notes={test.notes}
          removal={`Take off the test of ${dayText(test.on)}`}
          onRemove={() => onRemove(test)}
          summary={
            <>
              <span className="font-mono">{dayText(test.on)}</span>: {isComplete ? '' : 'at least '}
              <span className="font-mono">{percent.toFixed(0)} %</span> of the rating (± {Math.round(band)}),{' '}
              {ampHours(drawn.ampHours)} in {duration(drawn.hours * HOUR)}
              {test.from === 'log' && ', from a log'}
              {isAtItsEnd && ', at its end'}
            </>
          }
          table={{
            label: `Readings of ${dayText(test.on)}`,
            heads: HEADS,
            rows: test.readings.map((one) => (
              <tr key={one.minutes} className="border-rule border-b">
                <th scope="row" className="px-2 py-1 font-normal">
                  {one.minutes.toFixed(0)}
                </th>
                <td className="px-2 py-1">{one.volts.toFixed(2)}</td>
                <td className="px-2 py-1">{one.amps.toFixed(1)}</td>
                <td className="px-2 py-1">{one.lowestCellVolts?.toFixed(2) ?? '–'}</td>
                <td className="px-2 py-1">{one.cell ?? '–'}</td>
              </tr>
            )),
          }}
        />
      ))}
    </ul>
  );
}
