'use client';
/** Opens a form with what was being typed when the tab was closed, or died; else with nothing. */

import { type ReactNode, useEffect, useState } from 'react';
import type { RecordKind } from '@/core/records/records';
import { readDraft } from './waiting';

interface Props<T> {
  systemId: string;
  kind: RecordKind;
  /** What is opened, "round". */
  noun: string;
  children(kept: T | null): ReactNode;
}

export function WithDraft<T>({ systemId, kind, noun, children }: Props<T>) {
  const [kept, setKept] = useState<{ draft: T | null } | null>(null);
  useEffect(() => {
    let current = true;
    void readDraft<T>(systemId, kind)
      .catch(() => undefined)
      .then((draft) => current && setKept({ draft: draft ?? null }));
    return () => {
      current = false;
    };
  }, [systemId, kind]);
  if (kept === null) return <p className="text-ink-soft p-4">Opening the {noun}…</p>;
  return children(kept.draft);
}
