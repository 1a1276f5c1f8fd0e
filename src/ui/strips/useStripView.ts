'use client';
/** What part of the log is in view: moved by wheel, drag and keys, with a way back, and kept in the address so that it can be sent. */

import { scaleTime } from 'd3-scale';
import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomBehavior } from 'd3-zoom';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { DAY, MINUTE, type Span } from '@/core/quantity/span';
import { addressOfSpan, CLOSEST, spanOfAddress } from './viewAddress';

/** A view that stood for so long is one to come back to, ms. */
const STANDS = 700;
const MOST_BACK = 50;

export interface StripView {
  view: Span;
  show(wanted: Span): void;
  /** To the view before or after; nothing where there is none. */
  go(by: -1 | 1): void;
  canGo: { back: boolean; forward: boolean };
}

/**
 * @param plot the element over the lanes that is dragged. @param width px, 0 before it is known
 * @param isMeasuring drags measure and do not move. @param beside what is laid over it, for the address
 */
export function useStripView(
  plot: RefObject<HTMLDivElement | null>,
  full: Span,
  width: number,
  isMeasuring: RefObject<boolean>,
  beside: number | null,
): StripView {
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null);
  const [view, setView] = useState<Span>(() => ({
    from: full.from,
    to: Math.min(full.to, full.from + 6 * DAY),
  }));
  const [past, setPast] = useState<{ views: Span[]; at: number }>({ views: [], at: -1 });
  const moving = useRef(false);

  useEffect(() => {
    if (width <= 0) return;
    const base = scaleTime([full.from, full.to], [0, width]);
    const selection = select(plot.current!);
    behaviour.current = zoom<HTMLDivElement, unknown>()
      .scaleExtent([1, Math.max(1, (full.to - full.from) / CLOSEST)])
      .extent([
        [0, 0],
        [width, 1],
      ])
      .translateExtent([
        [0, 0],
        [width, 1],
      ])
      .filter((event: MouseEvent & { type: string }) =>
        event.type === 'wheel' ? true : !event.button && !event.shiftKey && !isMeasuring.current,
      )
      .on('zoom', (event) => {
        const [from, to] = event.transform.rescaleX(base).domain().map(Number) as [number, number];
        setView({ from, to });
      });
    selection.call(behaviour.current).on('dblclick.zoom', null);
    return () => void selection.on('.zoom', null);
  }, [plot, full, width, isMeasuring]);

  const show = useCallback(
    (wanted: Span) => {
      if (!behaviour.current || width <= 0) return;
      const whole = full.to - full.from;
      const length = Math.min(whole, Math.max(CLOSEST, wanted.to - wanted.from));
      const from = Math.min(full.to - length, Math.max(full.from, wanted.from));
      const k = whole / length;
      const transform = zoomIdentity.scale(k).translate((-(from - full.from) / whole) * width, 0);
      select(plot.current!).call(behaviour.current.transform, transform);
    },
    [plot, full, width],
  );

  // The first view, by the address where it names one, and again when the width has changed: the zoom keeps its own state.
  const first = useRef(true);
  useEffect(() => {
    if (width <= 0) return;
    show((first.current && spanOfAddress(window.location.search, full)) || view);
    first.current = false;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new width calls for it
  }, [width]);

  // A view that stands is remembered, and put into the address.
  useEffect(() => {
    if (width <= 0) return;
    const timer = setTimeout(() => {
      window.history.replaceState(
        window.history.state,
        '',
        addressOfSpan(window.location.href, view, beside),
      );
      if (moving.current) {
        moving.current = false;
        return;
      }
      setPast(({ views, at }) => {
        const last = views[at];
        if (last && Math.abs(last.from - view.from) < MINUTE && Math.abs(last.to - view.to) < MINUTE)
          return { views, at };
        const kept = [...views.slice(0, at + 1), view].slice(-MOST_BACK);
        return { views: kept, at: kept.length - 1 };
      });
    }, STANDS);
    return () => clearTimeout(timer);
  }, [view, width, beside]);

  const go = useCallback(
    (by: -1 | 1) => {
      const wanted = past.views[past.at + by];
      if (!wanted) return;
      moving.current = true;
      setPast({ ...past, at: past.at + by });
      show(wanted);
    },
    [past, show],
  );
  return { view, show, go, canGo: { back: past.at > 0, forward: past.at < past.views.length - 1 } };
}
