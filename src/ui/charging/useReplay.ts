/** Charging replayed in its worker: fitted once, then again by each set of settings. The newest is replayed; what was overtaken is not. */

import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { KnownSystem } from '@/core/system/known';
import type { Outcome } from '@/core/whatif/replay';
import type { ChargerSettings } from '@/core/whatif/settings';
import type { ReplayFacts } from '@/core/whatif/recorded';
import type { Prepared } from '@/core/whatif/whatIf';
import { newestOnly } from '@/ui/primitives/newestOnly';
import { type OpenWorker, openWorker, sentenceOf } from '@/ui/primitives/openWorker';
import type { Replayer } from '@/workers/chargingReplay';

export interface Replay {
  prepared: Prepared | null;
  outcome: Outcome | null;
  /** Part of the fit that is done, 0 to 1. */
  fitted: number;
  problem: string | null;
  /** Ends the fit while it runs. */
  cancel(): void;
  replay(settings: ChargerSettings[]): void;
}

export function useReplay(jobId: string, system: KnownSystem, facts: ReplayFacts): Replay {
  const worker = useRef<OpenWorker<Replayer> | null>(null);
  const again = useRef<(settings: ChargerSettings[]) => void>(() => {});
  const [prepared, setPrepared] = useState<Prepared | null>(null);
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const [fitted, setFitted] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = useState(() => ({ jobId, system, facts }));

  useEffect(() => {
    let stale = false;
    const opened = openWorker<Replayer>(
      new Worker(new URL('../../workers/chargingReplay.ts', import.meta.url), { type: 'module' }),
    );
    worker.current = opened;
    const fail = (error: unknown) => {
      if (!stale) setProblem(sentenceOf(error));
    };
    again.current = newestOnly((settings) =>
      opened
        .call((api) => api.replay(settings))
        .then((found) => {
          if (!stale) setOutcome(found);
        })
        .catch(fail),
    );
    const onDone = (part: number) => {
      if (!stale) setFitted(part);
    };
    const { charges, charging, counting, setpoints, soc } = first.facts;
    opened
      .call((api) =>
        api.prepare(
          `/api/jobs/${first.jobId}/minutes`,
          first.system,
          { charges, charging, counting, setpoints, soc },
          proxy(onDone),
        ),
      )
      .then((found) => {
        if (!stale) setPrepared(found);
      })
      .catch(fail);
    return () => {
      stale = true;
      opened.close();
    };
  }, [first]);

  return {
    prepared,
    outcome,
    fitted,
    problem,
    cancel() {
      worker.current?.close();
      worker.current = null;
      setProblem('The fit was cancelled. Open this view again to start it anew.');
    },
    replay: (settings) => again.current(settings),
  };
}
