'use client';
/** The moment under the pointer, told to those who show it and to nobody else: lanes are not drawn anew for it. */

import { useState, useSyncExternalStore } from 'react';

export interface Cursor {
  get(): number | null;
  set(ms: number | null): void;
  subscribe(listener: () => void): () => void;
}

function cursor(): Cursor {
  let now: number | null = null;
  const listeners = new Set<() => void>();
  return {
    get: () => now,
    set(ms) {
      if (ms === now) return;
      now = ms;
      for (const one of listeners) one();
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
  };
}

export const useCursor = (): Cursor => useState(cursor)[0];
export const useCursorAt = ({ subscribe, get }: Cursor): number | null =>
  useSyncExternalStore(subscribe, get, () => null);
