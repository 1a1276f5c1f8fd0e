'use client';
/** Over the lanes: the cursor, the caliper, and every way of pointing at them, by mouse, by finger and by key. */

import type { ScaleTime } from 'd3-scale';
import { type KeyboardEvent, type PointerEvent, type RefObject, useRef } from 'react';
import type { Span } from '@/core/quantity/span';
import { type Cursor, useCursorAt } from './cursor';
import { GUTTER } from './lanes';

/** Two moments; the second is null until it is set. */
export interface Marks {
  a: number;
  b: number | null;
}

interface Props {
  plot: RefObject<HTMLDivElement | null>;
  cursor: Cursor;
  x: ScaleTime<number, number>;
  width: number;
  height: number;
  marks: Marks | null;
  isMeasuring: boolean;
  onMarks(marks: Marks | null): void;
  /** Both marks are set, or the first by a finger: what lies between is to be shown. */
  onMeasured(): void;
  /** A finger has moved the strips by so many ms. */
  onPan(ms: number): void;
  onKeyDown(event: KeyboardEvent): void;
}

/** A finger that rests so long sets a mark, ms; one that has moved so far does not, px. */
const LONG_PRESS = 550;
const MOVED = 8;

export function Overlay({
  plot,
  cursor,
  x,
  width,
  height,
  marks,
  isMeasuring,
  onMarks,
  onMeasured,
  onPan,
  onKeyDown,
}: Props) {
  const held = useRef<{ x: number; timer?: ReturnType<typeof setTimeout>; pans: boolean } | null>(null);
  const dragging = useRef(false);
  const at = (event: PointerEvent) =>
    x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left).getTime();

  function onPointerDown(event: PointerEvent<HTMLDivElement>) {
    if (event.pointerType === 'touch') {
      const moment = at(event);
      held.current = {
        x: event.clientX,
        pans: false,
        timer: setTimeout(() => {
          held.current = null;
          onMarks(marks && marks.b === null ? { ...marks, b: moment } : { a: moment, b: null });
          onMeasured();
        }, LONG_PRESS),
      };
      return;
    }
    if (event.button !== 0 || !(isMeasuring || event.shiftKey)) return;
    dragging.current = true;
    event.currentTarget.setPointerCapture(event.pointerId);
    onMarks({ a: at(event), b: null });
  }
  function onPointerMove(event: PointerEvent<HTMLDivElement>) {
    const moment = at(event);
    cursor.set(moment);
    if (dragging.current && marks) onMarks({ a: marks.a, b: moment });
    const finger = held.current;
    if (event.pointerType !== 'touch' || !finger) return;
    const moved = event.clientX - finger.x;
    if (!finger.pans && Math.abs(moved) < MOVED) return;
    clearTimeout(finger.timer);
    finger.pans = true;
    finger.x = event.clientX;
    onPan(x.invert(0).getTime() - x.invert(moved).getTime());
  }
  function onPointerEnd(event: PointerEvent<HTMLDivElement>) {
    clearTimeout(held.current?.timer);
    held.current = null;
    if (dragging.current) onMeasured();
    dragging.current = false;
    if (event.pointerType === 'touch') cursor.set(null);
  }

  return (
    <div
      ref={plot}
      tabIndex={0}
      role="application"
      aria-label="Strips of the log. Arrow keys move, plus and minus zoom, n and p go to the next and previous event, c measures, question mark lists the keys."
      className="absolute top-0 cursor-crosshair touch-pan-y"
      style={{ left: GUTTER, width, height }}
      onKeyDown={onKeyDown}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerEnd}
      onPointerCancel={onPointerEnd}
      onPointerLeave={() => cursor.set(null)}
    >
      <svg width={width} height={height} className="pointer-events-none absolute inset-0" aria-hidden>
        {marks && <Caliper marks={marks} x={x} width={width} height={height} />}
        <CursorLine cursor={cursor} x={x} height={height} />
      </svg>
    </div>
  );
}

function CursorLine({ cursor, x, height }: Pick<Props, 'cursor' | 'x' | 'height'>) {
  const at = useCursorAt(cursor);
  return at === null ? null : <line x1={x(at)} x2={x(at)} y1={0} y2={height} stroke="var(--accent)" />;
}

/** The span between two marks, in order. */
export const spanOfMarks = ({ a, b }: Marks): Span | null =>
  b === null || a === b ? null : { from: Math.min(a, b), to: Math.max(a, b) };

function Caliper({ marks, x, width, height }: { marks: Marks } & Pick<Props, 'x' | 'width' | 'height'>) {
  const span = spanOfMarks(marks);
  const left = span ? Math.max(0, x(span.from)) : 0;
  return (
    <g>
      {span && (
        <rect
          x={left}
          width={Math.max(0, Math.min(width, x(span.to)) - left)}
          y={0}
          height={height}
          fill="var(--accent)"
          fillOpacity={0.1}
        />
      )}
      {[marks.a, marks.b].map((one, i) =>
        one === null ? null : (
          <line
            key={i}
            x1={x(one)}
            x2={x(one)}
            y1={0}
            y2={height}
            stroke="var(--accent)"
            strokeWidth={2}
            strokeDasharray={i === 0 ? undefined : '6 3'}
          />
        ),
      )}
    </g>
  );
}
