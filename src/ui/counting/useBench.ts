/** The settings bench in its worker: one log, many replays. The newest settings are tried; those that were overtaken are not. */

import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Preset, Trial } from '@/core/count/bench';
import type { CounterSettings } from '@/core/count/settings';
import type { KnownBank } from '@/core/system/known';
import { newestOnly } from '@/ui/primitives/newestOnly';
import { type OpenWorker, openWorker, sentenceOf } from '@/ui/primitives/openWorker';
import type { BenchStart, CounterBench, Replayed } from '@/workers/counterBench';

export interface Bench {
  ready: boolean;
  replayed: Replayed | null;
  trials: Trial[];
  /** Part of a fit that is done, 0 to 1; null while none runs. */
  fitting: number | null;
  problem: string | null;
  fit(bank: KnownBank, from: CounterSettings[]): void;
}

/** Points of a curve: as many as a wide screen has. */
const POINTS = 1500;

export function useBench(
  start: BenchStart,
  settings: CounterSettings,
  presets: readonly Preset[],
  onFitted: (settings: CounterSettings) => void,
): Bench {
  const worker = useRef<OpenWorker<CounterBench> | null>(null);
  const tryOut = useRef<(settings: CounterSettings) => void>(() => {});
  const [ready, setReady] = useState(false);
  const [replayed, setReplayed] = useState<Replayed | null>(null);
  const [trials, setTrials] = useState<Trial[]>([]);
  const [fitting, setFitting] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = useState(() => ({ start, presets }));

  useEffect(() => {
    let stale = false;
    const fail = (error: unknown) => {
      if (!stale) setProblem(sentenceOf(error));
    };
    const opened = openWorker<CounterBench>(
      new Worker(new URL('../../workers/counterBench.ts', import.meta.url), { type: 'module' }),
    );
    worker.current = opened;
    tryOut.current = newestOnly((tried) =>
      opened
        .call((bench) => bench.tryOut(tried, POINTS))
        .then((found) => {
          if (!stale) setReplayed(found);
        })
        .catch(fail),
    );
    opened
      .call((bench) => bench.load(first.start))
      .then(async () => {
        if (!stale) setReady(true);
        const found = await opened.call((bench) => bench.tryEach([...first.presets]));
        if (!stale) setTrials(found);
      })
      .catch(fail);
    return () => {
      stale = true;
      opened.close();
    };
  }, [first]);

  useEffect(() => {
    if (ready) tryOut.current(settings);
  }, [ready, settings]);

  return {
    ready,
    replayed,
    trials,
    fitting,
    problem,
    fit(bank, from) {
      setFitting(0);
      // Progress has a channel of its own: the last of it may come after the answer.
      let over = false;
      const onDone = (part: number) => {
        if (!over) setFitting(part);
      };
      worker
        .current!.call((bench) => bench.fit(bank, from, proxy(onDone)))
        .then(onFitted)
        .catch((error: unknown) => setProblem(sentenceOf(error)))
        .finally(() => {
          over = true;
          setFitting(null);
        });
    },
  };
}
