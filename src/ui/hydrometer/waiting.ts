'use client';
/**
 * Rounds on their way to the server. What is typed is put into the browser's own database at every change, what is finished waits there
 * until the server has it: neither a dead tab nor a dead network loses a reading.
 */

import { createStore, del, get, set, update, type UseStore } from 'idb-keyval';
import { useCallback, useEffect, useState } from 'react';
import type { Round } from '@/core/hydrometer/round';

export interface WaitingRound {
  systemId: string;
  round: Round;
  /** Why the server will not have it; absent while it only has not been reached. */
  refused?: string;
}

let opened: UseStore | null = null;
/** Opened when first used: there is none on the server. */
const rounds = (): UseStore => (opened ??= createStore('pazienza-rounds', 'rounds'));

const WAITING = 'waiting';
const draftKey = (systemId: string) => `draft ${systemId}`;

export const readDraft = <T>(systemId: string): Promise<T | undefined> =>
  get<T>(draftKey(systemId), rounds());
export const keepDraft = (systemId: string, draft: unknown): Promise<void> =>
  set(draftKey(systemId), draft, rounds());
export const dropDraft = (systemId: string): Promise<void> => del(draftKey(systemId), rounds());

const readWaiting = async (): Promise<WaitingRound[]> => (await get<WaitingRound[]>(WAITING, rounds())) ?? [];
const changeWaiting = (to: (was: WaitingRound[]) => WaitingRound[]): Promise<void> =>
  update<WaitingRound[]>(WAITING, (was) => to(was ?? []), rounds());

/** Null when the server has it, a sentence when it will not have it, 'unreached' when it could not be asked. */
async function send({ systemId, round }: WaitingRound): Promise<string | null> {
  try {
    const response = await fetch(`/api/systems/${systemId}/rounds/${round.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(round),
    });
    if (response.ok) return null;
    if (response.status >= 500) return 'unreached';
    const answer = (await response.json()) as { error?: string };
    return answer.error ?? 'The server does not take this round.';
  } catch {
    return 'unreached';
  }
}

const TRY_AGAIN_MS = 15_000;

/** Sends what waits, now and whenever the network is back. @param onSent after the server has taken something */
export function useWaiting(systemId: string, onSent: () => void) {
  const [waiting, setWaiting] = useState<WaitingRound[]>([]);
  const [isOnline, setOnline] = useState(true);

  const flush = useCallback(async () => {
    let sent = 0;
    for (const one of await readWaiting()) {
      if (one.refused) continue;
      const answer = await send(one);
      if (answer === 'unreached') break;
      await changeWaiting((was) =>
        answer === null
          ? was.filter(({ round }) => round.id !== one.round.id)
          : was.map((each) => (each.round.id === one.round.id ? { ...each, refused: answer } : each)),
      );
      if (answer === null) sent++;
    }
    setWaiting(await readWaiting());
    if (sent > 0) onSent();
  }, [onSent]);

  useEffect(() => {
    const look = () => {
      setOnline(navigator.onLine);
      void flush();
    };
    look();
    const timer = setInterval(() => void flush(), TRY_AGAIN_MS);
    window.addEventListener('online', look);
    window.addEventListener('offline', look);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', look);
      window.removeEventListener('offline', look);
    };
  }, [flush]);

  const keep = useCallback(
    async (round: Round) => {
      await changeWaiting((was) => [...was.filter((one) => one.round.id !== round.id), { systemId, round }]);
      setWaiting(await readWaiting());
      await flush();
    },
    [systemId, flush],
  );
  const drop = useCallback(async (id: string) => {
    await changeWaiting((was) => was.filter(({ round }) => round.id !== id));
    setWaiting(await readWaiting());
  }, []);
  return { waiting: waiting.filter((one) => one.systemId === systemId), isOnline, keep, drop };
}
