'use client';
/**
 * Records of a system on their way to the server. What is typed is put into the browser's own database at every change, what is finished
 * waits there until the server has it: neither a dead tab nor a dead network loses a reading.
 */

import { createStore, del, get, set, update, type UseStore } from 'idb-keyval';
import { useCallback, useEffect, useState } from 'react';
import type { RecordKind, RecordOf } from '@/core/records/records';

export interface WaitingRecord<K extends RecordKind = RecordKind> {
  systemId: string;
  kind: K;
  record: RecordOf<K>;
  /** Why the server will not have it; absent while it only has not been reached. */
  refused?: string;
}

let opened: UseStore | null = null;
/** Opened when first used: there is none on the server. */
const database = (): UseStore => (opened ??= createStore('pazienza-records', 'records'));

const WAITING = 'waiting';
const draftKey = (systemId: string, kind: RecordKind) => `draft ${kind} ${systemId}`;

export const readDraft = <T>(systemId: string, kind: RecordKind): Promise<T | undefined> =>
  get<T>(draftKey(systemId, kind), database());
export const keepDraft = (systemId: string, kind: RecordKind, draft: unknown): Promise<void> =>
  set(draftKey(systemId, kind), draft, database());
export const dropDraft = (systemId: string, kind: RecordKind): Promise<void> =>
  del(draftKey(systemId, kind), database());

const readWaiting = async (): Promise<WaitingRecord[]> =>
  (await get<WaitingRecord[]>(WAITING, database())) ?? [];
const changeWaiting = (to: (was: WaitingRecord[]) => WaitingRecord[]): Promise<void> =>
  update<WaitingRecord[]>(WAITING, (was) => to(was ?? []), database());

export const recordsAddress = (systemId: string): string => `/api/systems/${systemId}/records`;
export const recordAddress = (systemId: string, id: string): string => `${recordsAddress(systemId)}/${id}`;

/** Null when the server has it, a sentence when it will not have it, 'unreached' when it could not be asked. */
async function send({ systemId, kind, record }: WaitingRecord): Promise<string | null> {
  try {
    const response = await fetch(recordAddress(systemId, record.id), {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ kind, record }),
      signal: AbortSignal.timeout(GIVE_UP_MS),
    });
    if (response.ok) return null;
    if (response.status >= 500) return 'unreached';
    const answer = (await response.json()) as { error?: string };
    return answer.error ?? 'The server does not take this record.';
  } catch {
    return 'unreached';
  }
}

const TRY_AGAIN_MS = 15_000;
const GIVE_UP_MS = 20_000;

let turn: Promise<unknown> = Promise.resolve();
/** One after the other: a record is not sent twice at once, nor taken off while it is on its way. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const done = turn.then(work);
  turn = done.catch(() => undefined);
  return done;
}

/** Sends what waits, now and whenever the network is back. @param onSent what the server has just taken */
export function useWaiting<K extends RecordKind>(
  systemId: string,
  kind: K,
  onSent: (records: RecordOf<K>[]) => void,
) {
  const [waiting, setWaiting] = useState<WaitingRecord[]>([]);
  const [isOnline, setOnline] = useState(true);
  const isOurs = useCallback(
    (one: WaitingRecord): one is WaitingRecord<K> => one.systemId === systemId && one.kind === kind,
    [systemId, kind],
  );

  const sendAll = useCallback(async () => {
    const sent: WaitingRecord[] = [];
    for (const one of await readWaiting()) {
      if (one.refused) continue;
      const answer = await send(one);
      if (answer === 'unreached') break;
      await changeWaiting((was) =>
        answer === null
          ? was.filter(({ record }) => record.id !== one.record.id)
          : was.map((each) => (each.record.id === one.record.id ? { ...each, refused: answer } : each)),
      );
      if (answer === null) sent.push(one);
    }
    setWaiting(await readWaiting());
    if (sent.length > 0) onSent(sent.filter(isOurs).map(({ record }) => record));
  }, [onSent, isOurs]);
  const flush = useCallback(() => inTurn(sendAll), [sendAll]);

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
    async (record: RecordOf<K>) => {
      await changeWaiting((was) => [
        ...was.filter((one) => one.record.id !== record.id),
        { systemId, kind, record },
      ]);
      setWaiting(await readWaiting());
      await flush();
    },
    [systemId, kind, flush],
  );
  /** @returns false when it was not waiting any more: the server has it */
  const drop = useCallback(
    (id: string) =>
      inTurn(async () => {
        const isWaiting = (await readWaiting()).some(({ record }) => record.id === id);
        await changeWaiting((was) => was.filter(({ record }) => record.id !== id));
        setWaiting(await readWaiting());
        return isWaiting;
      }),
    [],
  );
  return {
    waiting: waiting.filter(isOurs),
    isOnline,
    keep,
    drop,
  };
}
