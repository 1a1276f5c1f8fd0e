/** What a job's logs and its diagnosis give a replay: the weather, the loads, the temperature and the true charge, cell by cell. */

import type { Diagnosis } from '../diagnosis/result';
import { interpolateAt } from '../log/interpolateAt';
import { clamp, quantile } from '../quantity/numbers';
import { DAY, HOUR } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import { couldGive } from './could';
import type { Minutes } from './minutes';

export interface RecordedSource {
  source: Source;
  gave: Float32Array;
  /** 1 where it held a voltage: it may have had more to give. */
  heldBack: Uint8Array;
  /** A that it had to give, at least what it gave. */
  could: Float32Array;
  mostA: number;
  pathOhms: number;
}

export interface Recorded {
  minutes: Minutes;
  /** A into the battery with its zero error taken off; NaN where the log is silent. */
  amps: Float32Array;
  /** A that went past the battery: loads, less what sources without a log gave. */
  loads: Float32Array;
  /** 1 where a source held a voltage. */
  held: Uint8Array;
  /** 25 where nobody logged it. */
  celsius: Float32Array;
  /** True charge, %; NaN where not known. */
  percent: Float32Array;
  capacityAh: number;
  sources: RecordedSource[];
  /** A day of charging is counted from this hour, ms after midnight UTC: the one in which sources give least. */
  dayFromMs: number;
}

type Charge = Diagnosis['charges'][number];
type SourceFigures = Diagnosis['charging']['sources'][number];

/** What of a diagnosis a replay leans on. */
export interface ReplayFacts extends Pick<Diagnosis, 'soc' | 'setpoints'> {
  counting: Pick<NonNullable<Diagnosis['counting']>, 'capacityAh' | 'offsetA'> | null;
  charges: readonly (Pick<Charge, 'source'> & {
    stages: readonly Pick<Charge['stages'][number], 'stage' | 'from' | 'to' | 'endedBy' | 'endAmps'>[];
  })[];
  charging: { sources: readonly Pick<SourceFigures, 'source' | 'limits' | 'path' | 'compensation'>[] };
}

/** Why nothing can be replayed, as a sentence; null where it can. */
export function whyNoReplay(system: KnownSystem, facts: ReplayFacts): string | null {
  if (!facts.counting || !facts.soc)
    return 'No log shows the current into the battery, so what the loads took is not known and nothing can be replayed.';
  if (system.sources.some((one) => (one.across ?? 'bank') !== 'bank'))
    return 'With chargers across halves of the bank each half would need a battery of its own; that is not replayed.';
  if (facts.charges.length === 0) return 'No charge was found in the logs, so there is none to replay.';
  if (!facts.soc.reference.some((one) => one !== null))
    return 'The true charge is nowhere known in these logs, so a replay has nothing to start from.';
  return null;
}

/** A capacity that counting knows worse than this, in parts of it, is that of the label. */
const MOST_CAPACITY_BAND = 0.15;

export function recordedOf(system: KnownSystem, minutes: Minutes, facts: ReplayFacts): Recorded | null {
  const { soc, counting } = facts;
  if (!soc || !counting) return null;
  const { count } = minutes;
  const zero = Math.abs(counting.offsetA.value) > counting.offsetA.band ? counting.offsetA.value : 0;
  const amps = minutes.amps.map((one) => one - zero);
  const own = minutes.sources.flatMap(({ id, amps }) => {
    const source = system.sources.find((one) => one.id === id);
    return source ? [{ source, gave: amps }] : [];
  });
  // A single source without a log is seen by what the battery got.
  const only = own.length === 0 && system.sources.length === 1 ? system.sources[0]! : null;
  const seen = only ? [{ source: only, gave: amps.map((one) => Math.max(0, one)) }] : own;
  if (seen.length === 0) return null;
  const loads = new Float32Array(count);
  for (let cell = 0; cell < count; cell++) {
    let given = 0;
    for (const { gave } of seen) given += gave[cell]! > 0 ? gave[cell]! : 0;
    loads[cell] = given - amps[cell]!;
  }
  const capacity = counting.capacityAh;
  const sources = seen.map((one) => recordedSource(one.source, one.gave, minutes, facts));
  return {
    minutes,
    amps,
    loads,
    celsius: filled(minutes.celsius, count),
    percent: percentOf(soc, minutes),
    capacityAh: capacity.band < MOST_CAPACITY_BAND * capacity.value ? capacity.value : system.bank.capacityAh,
    held: Uint8Array.from({ length: count }, (_, cell) =>
      Number(sources.some((one) => one.heldBack[cell] && one.gave[cell]! > 0)),
    ),
    sources,
    dayFromMs: darkest(
      seen.map((one) => one.gave),
      minutes,
    ),
  };
}

/** Stages in which a charger may have had more to give than it gave. */
const HELD = new Set(['absorption', 'float', 'equalise', 'hold']);

function recordedSource(
  source: Source,
  gave: Float32Array,
  minutes: Minutes,
  { charges, charging }: ReplayFacts,
): RecordedSource {
  const heldBack = new Uint8Array(minutes.count);
  for (const { stages } of charges.filter((one) => one.source === source.id || one.source === null))
    for (const stage of stages)
      if (HELD.has(stage.stage)) {
        const cell = (iso: string) => Math.round((Date.parse(iso) - minutes.from) / minutes.stepMs);
        const from = clamp(cell(stage.from), 0, minutes.count);
        heldBack.fill(1, from, clamp(cell(stage.to), from, minutes.count));
      }
  const figures = charging.sources.find((one) => one.source === source.id);
  const given = gave.filter((one) => one > 0);
  const mostA = figures?.limits[0] ?? (given.length > 0 ? quantile(given, 0.995) : (source.ratedA ?? 0));
  const sun = source.kind === 'solar';
  return {
    source,
    gave,
    heldBack,
    could: couldGive({ gave, heldBack, mostA, sun }, minutes),
    mostA,
    pathOhms: Math.max(0, figures?.path?.milliohms ?? 0) / 1000,
  };
}

/** Carried on through what is missing; 25 °C where there is nothing. */
function filled(values: Float32Array | null, count: number): Float32Array {
  const out = new Float32Array(count);
  let last = values?.find((one) => one === one) ?? 25;
  for (let cell = 0; cell < count; cell++) {
    const value = values ? values[cell]! : NaN;
    if (value === value) last = value;
    out[cell] = last;
  }
  return out;
}

function percentOf(soc: NonNullable<Diagnosis['soc']>, { from, stepMs, count }: Minutes): Float32Array {
  const start = Date.parse(soc.from);
  const hourly = Float64Array.from(soc.reference, (_, k) => start + k * soc.stepHours * HOUR);
  const cells = Float64Array.from({ length: count }, (_, cell) => from + cell * stepMs);
  return interpolateAt(
    hourly,
    Float32Array.from(soc.reference, (one) => one ?? NaN),
    cells,
  );
}

/** The hour of the day, ms after midnight UTC, about which sources give least. */
function darkest(gave: readonly Float32Array[], { from, stepMs, count }: Minutes): number {
  const sums = new Float64Array(24);
  for (const one of gave)
    for (let cell = 0; cell < count; cell++)
      if (one[cell]! > 0) sums[Math.floor(((from + cell * stepMs) % DAY) / HOUR)]! += one[cell]!;
  let best = 0;
  let least = Infinity;
  for (let hour = 0; hour < 24; hour++) {
    let about = 0;
    for (let off = -3; off <= 3; off++) about += sums[(hour + off + 24) % 24]! / (1 + Math.abs(off));
    if (about < least) {
      least = about;
      best = hour;
    }
  }
  return best * HOUR;
}
