'use client';
/** The whole log in one narrow strip, with a brush over the part that is in view. */

import { brushX, type BrushBehavior } from 'd3-brush';
import { scaleLinear, scaleTime } from 'd3-scale';
import { select } from 'd3-selection';
import { useEffect, useRef } from 'react';
import type { Span } from '@/core/quantity/span';
import { drawLane, extentOf } from './draw';
import type { Lane } from './lanes';
import type { TileSource } from './tileSource';

interface Props {
  lane: Lane;
  source: TileSource;
  full: Span;
  view: Span;
  width: number;
  /** Changes when new tiles have come or the theme has changed. */
  tick: unknown;
  onView: (view: Span) => void;
}

const HEIGHT = 48;

export function Overview({ lane, source, full, view, width, tick, onView }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const group = useRef<SVGGElement>(null);
  const brush = useRef<BrushBehavior<unknown>>(null);

  useEffect(() => {
    if (!canvas.current || width <= 0) return;
    const extent = extentOf(lane, source, full, width, lane.id === 'volts' ? 0.6 : null) ?? [0, 1];
    const y = scaleLinear(extent, [HEIGHT - 4, 4]);
    drawLane(canvas.current, { ...lane, traces: lane.traces.slice(0, 1) }, source, {
      view: full,
      width,
      height: HEIGHT,
      y,
    });
  }, [lane, source, full, width, tick]);

  useEffect(() => {
    const x = scaleTime([full.from, full.to], [0, width]);
    brush.current = brushX<unknown>()
      .extent([
        [0, 0],
        [width, HEIGHT],
      ])
      .on('brush', (event: { sourceEvent: Event | null; selection: [number, number] | null }) => {
        if (!event.sourceEvent || !event.selection) return;
        const [from, to] = event.selection.map((at) => x.invert(at).getTime()) as [number, number];
        if (to - from > 60_000) onView({ from, to });
      });
    select(group.current!).call(brush.current as never);
  }, [full, width, onView]);

  useEffect(() => {
    if (!brush.current || width <= 0) return;
    const perMs = width / (full.to - full.from);
    const at = (ms: number) => Math.min(width, Math.max(0, (ms - full.from) * perMs));
    select(group.current!).call(brush.current.move as never, [
      at(view.from),
      Math.max(at(view.from) + 2, at(view.to)),
    ]);
  }, [view, full, width]);

  return (
    <div className="border-rule-strong bg-sheet relative border" style={{ height: HEIGHT, width }}>
      <canvas ref={canvas} className="absolute inset-0" style={{ width, height: HEIGHT }} aria-hidden />
      <svg width={width} height={HEIGHT} className="absolute inset-0" aria-hidden>
        <g ref={group} className="overview-brush" />
      </svg>
    </div>
  );
}
