/** How far the stages that were found agree with what the simulated chargers were doing, minute by minute. */

import { REPORTED_STAGES } from '@/core/log/channels';
import { gapsIn } from '@/core/log/grid';
import type { Series } from '@/core/log/channels';
import type { SourceCharging } from '@/core/charge/types';
import type { Truth } from '@/core/simulate/site';

export interface TrueStages {
  /** Epoch ms, a minute apart. */
  time: Float64Array;
  /** Number in REPORTED_STAGES; whether it held its voltage; whether it gave anything. */
  stage: Uint8Array;
  holding: Uint8Array;
  gives: Uint8Array;
}

/** What a charger did, by the minute. @param ratedA under a hundredth of it, it gives nothing */
export function trueStages(truth: Truth, charger: string, ratedA: number): TrueStages {
  const { time } = truth.series;
  const stride = Math.max(1, Math.round(60_000 / (time[1]! - time[0]!)));
  const columns = truth.of[charger]!;
  const at = Float64Array.from({ length: Math.floor(time.length / stride) }, (_, i) => time[i * stride]!);
  const take = (of: (i: number) => number) => Uint8Array.from(at, (_, k) => of(k * stride));
  return {
    time: at,
    stage: take((i) => columns.source_stage![i]!),
    holding: take((i) => truth.holding[charger]![i]!),
    gives: take((i) => (columns.source_current![i]! > 0.01 * ratedA ? 1 : 0)),
  };
}

/** An absence shorter than this does not end what the charger was doing, minutes. */
const SHORT_ABSENCE = 30;

export interface Agreement {
  minutes: number;
  /** Minutes that agree; a stage whose supply falls short of its voltage may be called bulk, one that gives nothing hold or off. */
  agreed: number;
  /** Minutes in which the very word agrees. */
  strictly: number;
  /** Minutes by what was true and what was found. */
  confused: Map<string, number>;
}

export function agreementOf(truth: TrueStages, found: SourceCharging, log: Series): Agreement {
  const names = truth.time.length;
  const judged: string[] = Array<string>(names).fill('off');
  const minuteOf = (ms: number) => Math.round((ms - truth.time[0]!) / 60_000);
  for (const charge of found.charges)
    for (const { stage, from, to } of charge.stages)
      for (let k = Math.max(0, minuteOf(from)); k < Math.min(names, minuteOf(to)); k++) judged[k] = stage;
  const silent = new Uint8Array(names);
  const mute = (from: number, to: number) => {
    for (let k = Math.max(0, minuteOf(from)); k < Math.min(names, minuteOf(to)); k++) silent[k] = 1;
  };
  for (const { from, to } of gapsIn(log.time)) mute(from, to);
  mute(truth.time[0]!, log.time[0]!);
  mute(log.time.at(-1)!, truth.time.at(-1)! + 60_000);
  const away = absences(truth.stage);
  const result: Agreement = { minutes: 0, agreed: 0, strictly: 0, confused: new Map() };
  for (let k = 0; k < names; k++) {
    if (silent[k]) continue;
    const stage = REPORTED_STAGES[truth.stage[k]!]!;
    const word = judged[k]!;
    const gives = truth.gives[k] === 1;
    const holds = truth.holding[k] === 1;
    const may =
      stage === word ||
      (stage === 'off' && (word === 'hold' || away[k]! < SHORT_ABSENCE)) ||
      (!gives && (word === 'hold' || word === 'off')) ||
      (!holds && word === 'bulk' && gives);
    result.minutes++;
    if (stage === word) result.strictly++;
    else {
      const key = `= ${stage}${holds ? '' : gives ? ' (short)' : ' (idle)'} → ${word}`;
      result.confused.set(key, (result.confused.get(key) ?? 0) + 1);
    }
    if (may) result.agreed++;
    else {
      const key = `${stage}${holds ? '' : gives ? ' (short)' : ' (idle)'} → ${word}`;
      result.confused.set(key, (result.confused.get(key) ?? 0) + 1);
    }
  }
  return result;
}

/** For each minute how long the absence that it lies in lasts; Infinity at the ends of the log. */
function absences(stage: Uint8Array): Float64Array {
  const lengths = new Float64Array(stage.length);
  for (let k = 0; k < stage.length;) {
    let end = k;
    while (end < stage.length && stage[end] === 0) end++;
    lengths.fill(k === 0 || end === stage.length ? Infinity : end - k, k, end);
    k = Math.max(end, k + 1);
  }
  return lengths;
}
