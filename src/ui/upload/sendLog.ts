/** Sends a log to the server with progress, and follows what the server does with it. */

import type { LogDescription } from '@/core/log/takeIn';

export interface Sending {
  /** 0 to 1 over sending and the server's work. */
  part: number;
  what: string;
}

const PHASES: Record<string, Sending> = {
  reading: { part: 0.6, what: 'Reading the log …' },
  storing: { part: 0.75, what: 'Storing it …' },
  analysing: { part: 0.9, what: 'Weighing the job …' },
};

export interface Sent {
  cancel: () => void;
  /** @throws Error with a sentence; an AbortError after cancel */
  finished: Promise<void>;
}

export function sendLog(
  jobId: string,
  file: File,
  description: LogDescription,
  onProgress: (sending: Sending) => void,
): Sent {
  const request = new XMLHttpRequest();
  const finished = new Promise<void>((resolve, reject) => {
    const upload = encodeURIComponent(JSON.stringify({ fileName: file.name, description }));
    request.open('POST', `/api/jobs/${jobId}/recordings?upload=${upload}`);
    request.upload.onprogress = ({ loaded, total }) =>
      onProgress({
        part: (0.5 * loaded) / Math.max(1, total),
        what: `Sending, ${Math.round((100 * loaded) / Math.max(1, total))} % …`,
      });
    const lines = () => request.responseText.split('\n').filter((line) => line !== '');
    request.onprogress = () => {
      const last = lines().at(-1);
      const phase = last ? PHASES[(JSON.parse(last) as { phase?: string }).phase ?? ''] : undefined;
      if (phase) onProgress(phase);
    };
    request.onload = () => {
      const last = lines().at(-1);
      const answer = last ? (JSON.parse(last) as { done?: string; error?: string }) : {};
      if (answer.done) resolve();
      else reject(new Error(answer.error ?? 'The server gave no answer. Nothing was changed; try again.'));
    };
    request.onerror = () =>
      reject(new Error('The connection broke while sending. Nothing was stored; try again.'));
    request.onabort = () => reject(new DOMException('Cancelled', 'AbortError'));
    onProgress({ part: 0, what: 'Sending …' });
    request.send(file);
  });
  return { cancel: () => request.abort(), finished };
}
