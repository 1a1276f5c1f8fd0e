'use client';
/** Settings that were changed for the record: they are events on the strips. */

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { ask } from '@/ui/primitives/ask';

const changesSchema = z.array(z.object({ on: z.string(), label: z.string() }));
export type SettingEvent = z.infer<typeof changesSchema>[number];

/** Empty until they have come; without them the strips are as good as before. */
export function useChanges(systemId: string): readonly SettingEvent[] {
  const [changes, setChanges] = useState<readonly SettingEvent[]>([]);
  useEffect(() => {
    let stale = false;
    void ask(`/api/systems/${systemId}/changes`, changesSchema).then((answer) => {
      if (!stale && answer.ok) setChanges(answer.value);
    });
    return () => {
      stale = true;
    };
  }, [systemId]);
  return changes;
}
