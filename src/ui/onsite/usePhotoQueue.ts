'use client';
/** Photos of a visit: those that the server has, and those that wait in this browser until it is reached. Nothing is lost when the tab dies. */

import { createStore, get, update, type UseStore } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { PhotoShown } from '@/ui/describe/DescribeWorkspace';
import { useRemoval } from '@/ui/primitives/useRemoval';

interface WaitingPhoto {
  id: string;
  item: string;
  name: string;
  file: Blob;
  /** Why the server will not have it. */
  refused?: string;
}

let opened: UseStore | null = null;
const database = (): UseStore => (opened ??= createStore('pazienza-photos', 'photos'));
const readAll = async (jobId: string): Promise<WaitingPhoto[]> =>
  (await get<WaitingPhoto[]>(jobId, database())) ?? [];
const changeAll = (jobId: string, to: (was: WaitingPhoto[]) => WaitingPhoto[]): Promise<void> =>
  update<WaitingPhoto[]>(jobId, (was) => to(was ?? []), database());

/** The server's photo, a sentence where it refuses, null where it was not reached. */
async function send(jobId: string, { id, item, file }: WaitingPhoto): Promise<PhotoShown | string | null> {
  try {
    const response = await fetch(`/api/jobs/${jobId}/photos?${new URLSearchParams({ item, photo: id })}`, {
      method: 'POST',
      headers: { 'content-type': file.type.startsWith('image/') ? file.type : 'application/octet-stream' },
      body: file,
    });
    if (response.status >= 500) return null;
    const answer = (await response.json()) as PhotoShown & { error?: string };
    return response.ok ? answer : (answer.error ?? 'The server does not take this photo.');
  } catch {
    return null;
  }
}

const TRY_AGAIN_MS = 15_000;

export function usePhotoQueue(jobId: string, start: readonly PhotoShown[]) {
  const [kept, setKept] = useState<readonly PhotoShown[]>(start);
  const [waiting, setWaiting] = useState<WaitingPhoto[]>([]);
  const removal = useRemoval();
  const running = useRef(false);

  const flush = useCallback(async () => {
    if (running.current) return;
    running.current = true;
    try {
      for (const one of await readAll(jobId)) {
        if (one.refused) continue;
        const answer = await send(jobId, one);
        if (answer === null) break;
        await changeAll(jobId, (was) =>
          typeof answer === 'string'
            ? was.map((each) => (each.id === one.id ? { ...each, refused: answer } : each))
            : was.filter((each) => each.id !== one.id),
        );
        if (typeof answer !== 'string')
          setKept((now) => [...now.filter((each) => each.id !== answer.id), answer]);
      }
    } finally {
      running.current = false;
    }
    setWaiting(await readAll(jobId));
  }, [jobId]);

  useEffect(() => {
    const look = () => void flush();
    look();
    const timer = setInterval(look, TRY_AGAIN_MS);
    window.addEventListener('online', look);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', look);
    };
  }, [flush]);

  return {
    kept,
    waiting,
    async add(item: string, files: FileList): Promise<void> {
      const added = [...files].map((file) => ({
        id: crypto.randomUUID(),
        item,
        name: file.name,
        file: file as Blob,
      }));
      await changeAll(jobId, (was) => [...was, ...added]);
      setWaiting(await readAll(jobId));
      await flush();
    },
    async drop(id: string): Promise<void> {
      await changeAll(jobId, (was) => was.filter((one) => one.id !== id));
      setWaiting(await readAll(jobId));
    },
    async remove(photo: PhotoShown): Promise<void> {
      await removal({
        address: `/api/photos/${photo.id}`,
        what: 'The photo',
        onGone: () => setKept((now) => now.filter((one) => one.id !== photo.id)),
        onBack: () => setKept((now) => [...now, photo]),
      });
    },
  };
}
export type PhotoQueue = ReturnType<typeof usePhotoQueue>;
