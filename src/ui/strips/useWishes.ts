'use client';
/** Which lanes a technician wants to see of a job, kept in this browser. */

import { useState } from 'react';
import { LANE_IDS, type LaneWishes, NO_WISHES } from './lanes';

const keyOf = (jobId: string) => `pazienza lanes ${jobId}`;

function read(jobId: string): LaneWishes {
  try {
    const kept = JSON.parse(window.localStorage.getItem(keyOf(jobId)) ?? 'null') as LaneWishes | null;
    if (!kept) return NO_WISHES;
    // Of an older version lanes may be named that there are no more.
    return { ...NO_WISHES, ...kept, order: (kept.order ?? []).filter((one) => LANE_IDS.includes(one)) };
  } catch {
    return NO_WISHES;
  }
}

export function useWishes(jobId: string): [LaneWishes, (some: Partial<LaneWishes>) => void] {
  const [wishes, setWishes] = useState<LaneWishes>(() =>
    typeof window === 'undefined' ? NO_WISHES : read(jobId),
  );
  return [
    wishes,
    (some) => {
      const next = { ...wishes, ...some };
      setWishes(next);
      try {
        window.localStorage.setItem(keyOf(jobId), JSON.stringify(next));
      } catch {
        // Private windows keep nothing: the lanes stay as wished until it closes.
      }
    },
  ];
}
