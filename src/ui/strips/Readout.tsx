'use client';
/** What stands under the cursor: every trace with its value, the stage, and what is doubted there; without a cursor the span in view. */

import { DateTime } from 'luxon';
import type { Span } from '@/core/quantity/span';
import { type Cursor, useCursorAt } from './cursor';
import { valueAt } from './draw';
import { eventsAt, type StripEvent } from './events';
import type { Lane, Trace } from './lanes';
import type { TileSource } from './tileSource';

interface Props {
  cursor: Cursor;
  lanes: readonly Lane[];
  source: TileSource;
  view: Span;
  width: number;
  zone: string;
  events: readonly StripEvent[];
}

const shortName = ({ channel }: Trace): string =>
  channel.replace('_', ' ').replace('voltage', '').replace('current', '').replace('temperature', '').trim();

export function Readout({ cursor, lanes, source, view, width, zone, events }: Props) {
  const at = useCursorAt(cursor);
  const text = (ms: number, format: string) => DateTime.fromMillis(ms, { zone }).toFormat(format);
  if (at === null)
    return (
      <p className="text-ink-soft h-13 font-mono text-xs" aria-live="off">
        {text(view.from, 'd LLL yyyy HH:mm')} – {text(view.to, 'd LLL HH:mm')}
      </p>
    );
  return (
    <div className="h-13 overflow-hidden text-xs" aria-live="off">
      <p className="flex flex-wrap gap-x-3 font-mono">
        <span className="text-ink-soft">{text(at, 'ccc d LLL HH:mm:ss')}</span>
        {lanes.map((lane) =>
          lane.id === 'cells' ? (
            <CellsText key={lane.key} {...{ lane, source, view, width, at }} />
          ) : (
            lane.traces.map((trace) => {
              const value = valueAt(trace, source, view, width, at);
              return (
                <span key={lane.id + trace.recording.id + trace.channel} title={trace.label}>
                  {lane.id === 'watts' ? 'power' : lane.id === 'difference' ? 'difference' : shortName(trace)}{' '}
                  {value === value ? value.toFixed(lane.digits) : '–'}{' '}
                  <span className="text-ink-soft">{lane.unit}</span>
                </span>
              );
            })
          ),
        )}
      </p>
      <p className="truncate">
        {eventsAt(events, at)
          .map((one) => (one.kind === 'doubt' ? `Doubted: ${one.text}` : one.text))
          .join('; ')}
      </p>
    </div>
  );
}

/** Sixteen figures nobody reads: the highest and the lowest, and how far apart they stand. */
function CellsText({
  lane,
  source,
  view,
  width,
  at,
}: Pick<Props, 'source' | 'view' | 'width'> & { lane: Lane; at: number }) {
  const values = lane.traces
    .map((trace) => ({
      name: /\d+/.exec(trace.channel)?.[0].replace(/^0/, '') ?? '',
      value: valueAt(trace, source, view, width, at),
    }))
    .filter(({ value }) => value === value)
    .sort((a, b) => a.value - b.value);
  const [lowest, highest] = [values[0], values.at(-1)];
  if (!lowest || !highest) return null;
  return (
    <span>
      cells {lowest.value.toFixed(3)} ({lowest.name}) to {highest.value.toFixed(3)} ({highest.name}){' '}
      <span className="text-ink-soft">V</span>, {Math.round(1000 * (highest.value - lowest.value))}{' '}
      <span className="text-ink-soft">mV</span>
    </span>
  );
}
