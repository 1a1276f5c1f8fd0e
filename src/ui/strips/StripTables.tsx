'use client';
/** The strips in view as tables, for screen readers: made when the view has come to rest. */

import { useEffect, useState } from 'react';
import { HeadCells } from '@/ui/primitives/HeadCells';
import type { Span } from '@/core/quantity/span';
import type { StripEvent } from './events';
import type { Lane } from './lanes';
import { momentText } from './momentText';
import { eventRows, MOST_EVENTS, traceRows } from './tableRows';
import type { TileSource } from './tileSource';

interface Props {
  lanes: readonly Lane[];
  source: TileSource;
  view: Span;
  zone: string;
  events: readonly StripEvent[];
  /** Says that the source has more. */
  tick: string;
}

const RESTS = 600;

export function StripTables({ lanes, source, view, zone, events, tick }: Props) {
  const [rested, setRested] = useState<Span | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setRested({ ...view }), RESTS);
    return () => clearTimeout(timer);
  }, [view, tick]);
  if (!rested) return null;
  const inView = eventRows(events, rested, zone);
  const range = `${momentText(rested.from, zone)} to ${momentText(rested.to, zone)}`;
  return (
    <section className="sr-only" aria-label="The strips as tables">
      {lanes.map((lane) => (
        <table key={lane.key}>
          <caption>
            {lane.name ?? lane.title}, {range}
          </caption>
          <thead>
            <tr>
              <HeadCells names={['Trace', 'At the start', 'At the end', 'Lowest', 'Highest']} />
            </tr>
          </thead>
          <tbody>
            {traceRows(lane, source, rested, zone).map((row) => (
              <tr key={row.name}>
                <th scope="row">{row.name}</th>
                <td>{row.start}</td>
                <td>{row.end}</td>
                <td>{row.lowest}</td>
                <td>{row.highest}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
      <table>
        <caption>
          Stages and events, {range}
          {inView.length === MOST_EVENTS ? `, the first ${MOST_EVENTS}` : ''}
        </caption>
        <thead>
          <tr>
            <HeadCells names={['What', 'Which', 'From', 'To']} />
          </tr>
        </thead>
        <tbody>
          {inView.map((row, i) => (
            <tr key={i}>
              <th scope="row">{row.what}</th>
              <td>{row.text}</td>
              <td>{row.from}</td>
              <td>{row.to}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
