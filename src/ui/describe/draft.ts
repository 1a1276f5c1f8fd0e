/** What was typed and is not on the server yet, kept in the browser so that a reload or a restart loses nothing. */

import type { Conflict } from '@/core/system/merge';

export type Doc = 'system' | 'job';

export interface DocDraft {
  /** Version and value that the typing began with. */
  version: number;
  saved: unknown;
  typed: unknown;
}

export interface Draft {
  system?: DocDraft;
  job?: DocDraft;
  conflicts: DocConflict[];
}

export interface DocConflict extends Conflict {
  doc: Doc;
}

const keyOf = (jobId: string) => `pazienza/draft/${jobId}`;

export function readDraft(jobId: string): Draft | null {
  try {
    const text = localStorage.getItem(keyOf(jobId));
    return text ? (JSON.parse(text) as Draft) : null;
  } catch {
    return null;
  }
}

/** Null forgets it. */
export function writeDraft(jobId: string, draft: Draft | null): void {
  try {
    if (draft) localStorage.setItem(keyOf(jobId), JSON.stringify(draft));
    else localStorage.removeItem(keyOf(jobId));
  } catch {
    // Without storage the server is the only copy: saving goes on.
  }
}
