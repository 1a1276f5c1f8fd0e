/** A web worker whose functions are called like any other (comlink); when it stops, whoever still waits for it is told. */

import { releaseProxy, type Remote, wrap } from 'comlink';

export interface OpenWorker<T> {
  /** Calls into the worker. Rejects with the worker's own error, or with a sentence when it has stopped. */
  call<R>(work: (api: Remote<T>) => Promise<R>): Promise<R>;
  /** Ends it; what was asked and not answered is never answered. */
  close(): void;
}

/** What a worker rejects with, as a sentence. */
export const sentenceOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error);

/** @param worker freshly made: `new Worker(new URL(…))` must stand where it is made, so that it is bundled */
export function openWorker<T>(worker: Worker): OpenWorker<T> {
  const api = wrap<T>(worker);
  const stopped = new Promise<never>((_, reject) => {
    worker.onerror = () => reject(new Error('The computation stopped: load the page anew.'));
  });
  // Nobody may be waiting when it stops.
  stopped.catch(() => {});
  return {
    call: (work) => Promise.race([work(api), stopped]),
    close() {
      api[releaseProxy]();
      worker.terminate();
    },
  };
}
