/** The settings bench in its worker: one log, many replays. The newest settings are tried; those that were overtaken are not. */

import { useCallback, useEffect, useRef, useState } from 'react';
import type { BenchLog, Preset, Trial } from '@/core/count/bench';
import type { CounterKind } from '@/core/count/kinds';
import type { CounterSettings } from '@/core/count/settings';
import type { KnownBank } from '@/core/system/known';
import type { BenchAnswer, BenchTask } from '@/workers/counterBench';

export interface Replayed {
  at: Float64Array;
  reading: Float32Array;
  trial: Trial;
}

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
  start: Pick<BenchLog, 'truth' | 'fulls' | 'start'> & { url: string; by: CounterKind },
  settings: CounterSettings,
  presets: readonly Preset[],
  onFitted: (settings: CounterSettings) => void,
): Bench {
  const worker = useRef<Worker | null>(null);
  const waiting = useRef<CounterSettings | null>(null);
  const busy = useRef(false);
  const fitted = useRef(onFitted);
  useEffect(() => {
    fitted.current = onFitted;
  });
  const [ready, setReady] = useState(false);
  const [replayed, setReplayed] = useState<Replayed | null>(null);
  const [trials, setTrials] = useState<Trial[]>([]);
  const [fitting, setFitting] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = useState(() => ({ start, presets }));

  const send = useCallback((task: BenchTask) => worker.current?.postMessage(task), []);
  const next = useCallback(() => {
    if (busy.current || !waiting.current) return;
    busy.current = true;
    send({ kind: 'try', settings: waiting.current, points: POINTS });
    waiting.current = null;
  }, [send]);

  useEffect(() => {
    const bench = new Worker(new URL('../../workers/counterBench.ts', import.meta.url), { type: 'module' });
    worker.current = bench;
    busy.current = true;
    bench.onmessage = ({ data }: MessageEvent<BenchAnswer>) => {
      if (data.kind === 'loaded') {
        setReady(true);
        bench.postMessage({ kind: 'presets', presets: [...first.presets] } satisfies BenchTask);
        busy.current = false;
        next();
      } else if (data.kind === 'tried') {
        busy.current = false;
        setReplayed(data);
        next();
      } else if (data.kind === 'presets') setTrials(data.trials);
      else if (data.kind === 'fitting') setFitting(data.done);
      else if (data.kind === 'fitted') {
        setFitting(null);
        fitted.current(data.settings);
      } else {
        setFitting(null);
        setProblem(data.problem);
      }
    };
    bench.onerror = () => setProblem('The bench stopped: load the page anew.');
    bench.postMessage({ kind: 'load', ...first.start } satisfies BenchTask);
    return () => bench.terminate();
  }, [first, next]);

  useEffect(() => {
    waiting.current = settings;
    next();
  }, [settings, next]);

  return {
    ready,
    replayed,
    trials,
    fitting,
    problem,
    fit(bank, from) {
      setFitting(0);
      send({ kind: 'fit', bank, from });
    },
  };
}
