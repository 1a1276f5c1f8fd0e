/** Sends a log in parts, goes on after the connection broke, and follows what the workers do with it. */

import { type Intake, type IntakeAnswer, PART_BYTES } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import type { NewDevice } from '@/core/system/newDevice';

export interface Sending {
  /** 0 to 1 over sending and the workers' work. */
  part: number;
  what: string;
}

/** Share of the way that is sending. */
const SENDING = 0.6;

const STATES: Partial<Record<Intake['state'], Sending>> = {
  waiting: { part: 0.6, what: 'Waiting for a worker …' },
  reading: { part: 0.65, what: 'Reading the log …' },
  storing: { part: 0.8, what: 'Storing it …' },
  analysing: { part: 0.9, what: 'Weighing the job …' },
};

/** How long is waited before each further try, s; after the last it is left to the user. */
export const PATIENCE = [1, 2, 4, 8, 15, 30];
/** How often a worker's progress is asked for, ms. */
const ASK_EVERY = 400;

export interface Sent {
  cancel: () => void;
  /** The intake when it is over or asks something. @throws Error with a sentence; an AbortError after cancel */
  finished: Promise<Intake>;
}

export interface ToSend {
  jobId: string;
  file: File;
  description: LogDescription;
  /** Kind of the device, when the system has none such yet. */
  newDevice?: NewDevice | undefined;
  /** What the reading is kept under. */
  recipeKey?: string | undefined;
}

/** An answer that trying again will not change. */
class Refused extends Error {}

/** @param onBegun told the intake's id as soon as it is known */
export const sendLog = (
  log: ToSend,
  onProgress: (sending: Sending) => void,
  onBegun: (id: string) => void,
): Sent => cancellable((signal, begun) => send(log, signal, onProgress, begun), onBegun);

/** Answers what a log asks. @returns whether the answer was taken */
export const answerIntake = async (id: string, answer: IntakeAnswer): Promise<boolean> =>
  (
    await fetch(`/api/intakes/${id}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ answer }),
    }).catch(() => null)
  )?.ok === true;

/** Follows a log that was sent before, such as one that has asked something and was answered. */
export const followLog = (
  id: string,
  onProgress: (sending: Sending) => void,
  onBegun: (id: string) => void,
): Sent =>
  cancellable(async (signal, begun) => {
    begun(id);
    return follow(id, signal, onProgress);
  }, onBegun);

function cancellable(
  work: (signal: AbortSignal, onBegun: (id: string) => void) => Promise<Intake>,
  onBegun: (id: string) => void,
): Sent {
  const control = new AbortController();
  let id: string | null = null;
  const begun = (of: string) => onBegun((id = of));
  const finished = work(control.signal, begun).catch(async (error: unknown) => {
    if (!control.signal.aborted) throw error;
    // Over only when the server has let go of it, should the page be left at once.
    if (id) await fetch(`/api/intakes/${id}`, { method: 'DELETE', keepalive: true }).catch(() => null);
    throw new DOMException('Cancelled', 'AbortError');
  });
  return { cancel: () => control.abort(), finished };
}

async function send(
  { jobId, file, description, newDevice, recipeKey }: ToSend,
  signal: AbortSignal,
  onProgress: (sending: Sending) => void,
  onBegun: (id: string) => void,
): Promise<Intake> {
  const persistently = <T>(work: () => Promise<T>, kept: string) => tryAgain(work, signal, onProgress, kept);
  onProgress({ part: 0, what: 'Sending …' });
  const begun = await persistently(
    () =>
      answerOf<Intake>(
        // Not broken off by a cancel: without the id of what was begun it could not be taken back.
        fetch(`/api/jobs/${jobId}/intakes`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({
            fileName: file.name,
            size: file.size,
            modified: file.lastModified,
            description,
            newDevice,
            recipeKey,
          }),
        }),
      ),
    'Nothing was stored; try again.',
  );
  onBegun(begun.id);
  signal.throwIfAborted();
  for (let received = begun.received; received < file.size;) {
    const at = received;
    const sent = await persistently(
      async () => {
        const part = await readPart(file, at);
        signal.throwIfAborted();
        return putPart(begun.id, at, part, signal, (loaded) =>
          onProgress({
            part: (SENDING * (at + loaded)) / file.size,
            what: `Sending, ${Math.round((100 * (at + loaded)) / file.size)} % …`,
          }),
        );
      },
      `${Math.round((100 * at) / file.size)} % of it was stored: take it in again and it goes on from there.`,
    );
    received = sent.received;
  }
  return follow(begun.id, signal, onProgress);
}

/** Waits until the workers are done with it. */
async function follow(
  id: string,
  signal: AbortSignal,
  onProgress: (sending: Sending) => void,
): Promise<Intake> {
  for (;;) {
    const now = await tryAgain(
      () => answerOf<Intake>(fetch(`/api/intakes/${id}`, { signal })),
      signal,
      onProgress,
      'Upload complete; import continues in the background.',
    );
    if (['done', 'failed', 'asking'].includes(now.state)) return now;
    onProgress(STATES[now.state] ?? { part: SENDING, what: 'Waiting …' });
    await pause(ASK_EVERY, signal);
  }
}

async function readPart(file: File, at: number): Promise<ArrayBuffer> {
  try {
    return await file.slice(at, at + PART_BYTES).arrayBuffer();
  } catch {
    throw new Refused(
      'The file cannot be read any more: it was moved, changed or taken out. Choose it again.',
    );
  }
}

/** XMLHttpRequest, because fetch tells no progress of what it sends. */
function putPart(
  id: string,
  at: number,
  part: ArrayBuffer,
  signal: AbortSignal,
  onLoaded: (bytes: number) => void,
): Promise<{ received: number }> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const abort = () => request.abort();
    signal.addEventListener('abort', abort, { once: true });
    request.open('PUT', `/api/intakes/${id}?at=${at}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded }) => onLoaded(loaded);
    request.onloadend = () => {
      signal.removeEventListener('abort', abort);
      const answer = request.response as { received?: number; error?: string } | null;
      // 409: it has another part already than we thought, and says which.
      if ([200, 409].includes(request.status) && answer?.received !== undefined)
        resolve({ received: answer.received });
      else if (request.status >= 400 && request.status < 500)
        reject(new Refused(answer?.error ?? 'The server refused the file.'));
      else reject(new Error('The connection broke'));
    };
    request.send(part);
  });
}

async function answerOf<T>(asked: Promise<Response>): Promise<T> {
  const response = await asked;
  if (response.ok) return (await response.json()) as T;
  if (response.status >= 500) throw new Error(`The server answered ${response.status}`);
  const answer = (await response.json().catch(() => ({}))) as { error?: string };
  throw new Refused(answer.error ?? 'The server refused the file.');
}

/** Does it again while the connection breaks, with growing pauses. @param kept what has become of the file, for the last sentence */
async function tryAgain<T>(
  work: () => Promise<T>,
  signal: AbortSignal,
  onProgress: (sending: Sending) => void,
  kept: string,
): Promise<T> {
  for (const seconds of [...PATIENCE, null]) {
    try {
      return await work();
    } catch (error) {
      signal.throwIfAborted();
      if (error instanceof Refused) throw error;
      if (seconds === null) throw new Error(`The connection broke while sending. ${kept}`);
      onProgress({ part: 0, what: `The connection broke: trying again in ${seconds} s …` });
      await pause(seconds * 1000, signal);
    }
  }
  throw new Error('Unreachable');
}

const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener(
      'abort',
      () => {
        clearTimeout(timer);
        reject(new DOMException('Cancelled', 'AbortError'));
      },
      { once: true },
    );
  });
