'use client';
/** Records of one kind: what the server has with what waits to be sent; kept, taken off, put back. */

import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import { capital } from '@/core/quantity/text';
import { type RecordKind, type RecordOf, recordsSchema } from '@/core/records/records';
import { keepThisPage } from '@/workers/offlinePages';
import { ask } from '@/ui/primitives/ask';
import { useToast } from '@/ui/primitives/Toasts';
import { useRemoval } from '@/ui/primitives/useRemoval';
import { recordAddress, recordsAddress, useWaiting } from './waiting';

/** Whether this page opens without the network. */
export type OfflineState = 'unknown' | 'kept' | 'not';

/** @param kept what the server had when the page was made, the oldest first. @param nameOf a record in words, "the round of 14 Oct 2026" */
export function useRecords<K extends RecordKind>(
  systemId: string,
  kind: K,
  kept: readonly RecordOf<K>[],
  nameOf: (record: RecordOf<K>) => string,
) {
  const router = useRouter();
  const tell = useToast();
  const removal = useRemoval();
  /** What the server has taken stays in the list until the server's own list shows it. */
  const [taken, setTaken] = useState<RecordOf<K>[]>([]);
  const onSent = useCallback(
    (records: RecordOf<K>[]) => {
      setTaken((before) => [...before, ...records]);
      router.refresh();
    },
    [router],
  );
  const { waiting, off, isOnline, keep, drop } = useWaiting(systemId, kind, onSent);
  /** A page that opened from its copy is as old as the copy: the server is asked, and again when the network is back. */
  const [asked, setAsked] = useState<{ since: typeof kept; records: readonly RecordOf<K>[] }>();
  useEffect(() => {
    const look = () =>
      void ask(recordsAddress(systemId), recordsSchema).then((answer) => {
        if (answer.ok) setAsked({ since: kept, records: answer.value[kind] });
      });
    look();
    window.addEventListener('online', look);
    return () => window.removeEventListener('online', look);
  }, [systemId, kind, kept]);
  const served = asked?.since === kept ? asked.records : kept;
  const [offline, setOffline] = useState<OfflineState>('unknown');
  useEffect(() => {
    keepThisPage()
      .then((can) => setOffline(can ? 'kept' : 'not'))
      .catch(() => setOffline('not'));
  }, []);

  async function remove(record: RecordOf<K>): Promise<void> {
    const name = nameOf(record);
    const isNotIt = ({ id }: { id: string }) => id !== record.id;
    if (await drop(record.id)) {
      setTaken((before) => before.filter(isNotIt));
      tell(`Taken off: ${name}.`, () => void keep(record));
      return;
    }
    await removal({
      address: recordAddress(systemId, record.id),
      what: capital(name),
      onGone() {
        setTaken((before) => before.filter(isNotIt));
        router.refresh();
      },
      onBack: () => router.refresh(),
    });
  }

  const here = [
    ...taken.filter(({ id }) => !served.some((one) => one.id === id)),
    ...waiting.map((one) => one.record),
  ];
  return {
    /** What waits is shown with what the server has; a record that is sent again stands once. */
    all: [...new Map([...served, ...here].map((one) => [one.id, one])).values()].filter(
      ({ id }) => !off.includes(id),
    ),
    waiting,
    isOnline,
    offline,
    keep,
    remove,
  };
}
