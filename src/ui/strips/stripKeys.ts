/** What each key does on the strips; the sheet of keys lists them. */

import type { Span } from '@/core/quantity/span';
import type { Marks } from './Overlay';
import type { Panel, Zoom } from './Toolbar';

export interface StripTools {
  view: Span;
  full: Span;
  marks: Marks | null;
  isMeasuring: boolean;
  show(span: Span): void;
  go(by: -1 | 1): void;
  zoomTo(zoom: Zoom): void;
  /** To the next or the previous event. */
  step(way: 'next' | 'previous'): void;
  measure(on: boolean): void;
  onMarks(marks: Marks): void;
  onPanel(panel: Panel): void;
}

export function keyActions(tools: StripTools): Record<string, () => void> {
  const { view, full, show, go, zoomTo, step, measure, onPanel } = tools;
  const length = view.to - view.from;
  const middle = (view.from + view.to) / 2;
  const move = (part: number) => show({ from: view.from + part * length, to: view.to + part * length });
  const zoom = (by: number) => show({ from: middle - (by * length) / 2, to: middle + (by * length) / 2 });
  return {
    ArrowLeft: () => move(-0.2),
    ArrowRight: () => move(0.2),
    PageUp: () => move(-0.9),
    PageDown: () => move(0.9),
    '+': () => zoom(1 / 1.6),
    '=': () => zoom(1 / 1.6),
    '-': () => zoom(1.6),
    Home: () => show({ from: full.from, to: full.from + length }),
    End: () => show({ from: full.to - length, to: full.to }),
    '0': () => show(full),
    d: () => zoomTo('day'),
    w: () => zoomTo('week'),
    g: () => zoomTo('charge'),
    s: () => zoomTo('stage'),
    n: () => step('next'),
    p: () => step('previous'),
    '<': () => go(-1),
    '>': () => go(1),
    c: () => {
      measure(!tools.isMeasuring);
      if (!tools.isMeasuring && !tools.marks)
        tools.onMarks({ a: view.from + length / 3, b: view.to - length / 3 });
    },
    Escape: () => measure(false),
    f: () => onPanel('find'),
    o: () => onPanel('compare'),
    l: () => onPanel('lanes'),
    m: () => onPanel('pins'),
  };
}

/** One mark moved by a hundredth of the view; marks that were not there begin at its thirds. */
export function movedMark({ marks, view }: StripTools, which: 'a' | 'b', way: -1 | 1): Marks {
  const length = view.to - view.from;
  const now = marks ?? { a: view.from + length / 3, b: null };
  const b = now.b ?? view.to - length / 3;
  const by = (way * length) / 100;
  return which === 'a' ? { a: now.a + by, b } : { a: now.a, b: b + by };
}
