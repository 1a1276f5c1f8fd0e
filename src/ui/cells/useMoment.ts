'use client';
/** The step of a picture over time that the pointer, or the arrow keys, are on. */

import { type KeyboardEvent, type PointerEvent, useState } from 'react';

export function useMoment(count: number) {
  const [at, setAt] = useState<number | null>(null);
  const bounded = (to: number) => Math.min(count - 1, Math.max(0, to));
  return {
    at,
    handlers: {
      tabIndex: 0,
      onPointerMove(event: PointerEvent) {
        const box = event.currentTarget.getBoundingClientRect();
        setAt(bounded(Math.floor(((event.clientX - box.left) / box.width) * count)));
      },
      onPointerLeave: () => setAt(null),
      onKeyDown(event: KeyboardEvent) {
        const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (step === 0) return;
        event.preventDefault();
        setAt((was) => bounded((was ?? (step > 0 ? -1 : count)) + step));
      },
      onBlur: () => setAt(null),
    },
  };
}
