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
  /** When it was put here, ms: what is put here again while it is on its way is not the one that arrives. */
  since: number;
  /** It was taken off here; whether the server has it by now is not known, so it is taken off there as well. */
  isOff?: boolean;
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

/** Null when the server has it no more, or never had it. */
async function takeOff({ systemId, record }: WaitingRecord): Promise<'unreached' | null> {
  try {
    const response = await fetch(recordAddress(systemId, record.id), {
      method: 'DELETE',
      signal: AbortSignal.timeout(GIVE_UP_MS),
    });
    return response.status >= 500 ? 'unreached' : null;
  } catch {
    return 'unreached';
  }
}

/** Puts what is to be sent in the place of what waits of the same record. */
const put = (one: WaitingRecord): Promise<void> =>
  changeWaiting((was) => [...was.filter(({ record }) => record.id !== one.record.id), one]);

/** What has been answered is off the list, or stays with why it was refused. @returns false when another was put in its place meanwhile */
async function settle(sent: WaitingRecord, refused: string | null): Promise<boolean> {
  const isSent = (one: WaitingRecord) => one.record.id === sent.record.id && one.since === sent.since;
  let stood = false;
  await changeWaiting((was) => {
    stood = was.some(isSent);
    return refused === null
      ? was.filter((one) => !isSent(one))
      : was.map((one) => (isSent(one) ? { ...one, refused } : one));
  });
  return stood;
}

const TRY_AGAIN_MS = 15_000;
const GIVE_UP_MS = 20_000;

let turn: Promise<unknown> = Promise.resolve();
/** One after the other: what was put here later arrives later. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const done = turn.then(work);
  turn = done.catch(() => undefined);
  return done;
}

/** Sends what waits, now and whenever the network is back. @param onSent what the server has just taken; none where it only took some off */
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
    let isChanged = false;
    for (const one of await readWaiting()) {
      if (one.refused) continue;
      const answer = one.isOff ? await takeOff(one) : await send(one);
      if (answer === 'unreached') break;
      const stood = await settle(one, answer);
      if (answer !== null) continue;
      isChanged = true;
      if (stood && !one.isOff) sent.push(one);
    }
    setWaiting(await readWaiting());
    if (isChanged) onSent(sent.filter(isOurs).map(({ record }) => record));
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

  /** Done when it is kept on this device: the server may be slow, or away. */
  const keep = useCallback(
    async (record: RecordOf<K>) => {
      await put({ systemId, kind, record, since: Date.now() });
      setWaiting(await readWaiting());
      void flush();
    },
    [systemId, kind, flush],
  );
  /** @returns false when it does not wait: the server has it */
  const drop = useCallback(
    async (id: string) => {
      const one = (await readWaiting()).find(({ record, isOff }) => record.id === id && !isOff);
      if (!one) return false;
      if (one.refused) await settle(one, null);
      else await put({ ...one, since: Date.now(), isOff: true });
      setWaiting(await readWaiting());
      void flush();
      return true;
    },
    [flush],
  );
  const ours = waiting.filter(isOurs);
  return {
    waiting: ours.filter((one) => !one.isOff),
    /** Taken off here, and on the server as soon as it is reached. */
    off: ours.filter((one) => one.isOff).map((one) => one.record.id),
    isOnline,
    keep,
    drop,
  };
}
