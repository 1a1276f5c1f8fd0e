/**
 * How findings and stages fare over random sites with known faults: `npm run sweep [sites a case] [seed] [code …]`; the code `pairs` lays two faults over each site. For each cause how
 * often it was found, missed, or shown where it was not; of what is shown, how much holds; and how far the stages agree with what the
 * chargers did, with and without their own word. Unit tests use other seeds.
 */

import { availableParallelism } from 'node:os';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { findCharges } from '@/core/charge/charges';
import { forecastTail } from '@/core/charge/tail';
import type { SourceCharging } from '@/core/charge/types';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { Diagnosis } from '@/core/diagnosis/result';
import { alignClocks } from '@/core/log/align';
import { REPORTED_STAGES, type Series } from '@/core/log/channels';
import { takeInLog } from '@/core/log/takeIn';
import { timelineOf } from '@/core/log/timeline';
import { FAULTS } from '@/core/simulate/faults';
import { buildJob } from '@/core/simulate/buildJob';
import type { SitePlan } from '@/core/simulate/sitePlan';
import { type Random, seededRandom } from '@/core/simulate/random';
import { randomJob, type RandomJob } from '@/core/simulate/randomJob';
import { quantile } from '@/core/quantity/numbers';
import type { Truth } from '@/core/simulate/site';
import type { Fault } from '@/core/simulate/faults/fault';
import { fullTailAmps, isLead } from '@/core/system/chemistry';
import { type KnownSystem, knownSystem } from '@/core/system/known';
import { devicesOf } from '@/core/system/schema';
import { agreementOf, trueStages } from '../support/stageAgreement';
import { cutsScored } from './sweepCuts';
import {
  AIM,
  AND,
  type Counted,
  HEALTHY,
  isTrue,
  type Outcome,
  PAIRS,
  type Shares,
  type Short,
  type Task,
} from './sweepOutcome';
import { report } from './sweepReport';

const CASES = [HEALTHY, ...FAULTS.map((one) => one.code)];
/** Healthy sites are drawn so many times as often: a false alarm is worse than a miss. */
const HEALTHY_TIMES = 3;

/** Two faults that a site can have at once and that both hurt it: the first pair drawn for which one comes up. */
function randomPair(random: Random): { code: string; site: RandomJob } {
  for (;;) {
    const pair = [random.pick(FAULTS), random.pick(FAULTS)] as readonly Fault[];
    const [a, b] = pair as [Fault, Fault];
    if (a === b || isTrue(a.code, b.code) || isTrue(b.code, a.code)) continue;
    try {
      return { code: [a.code, b.code].sort().join(AND), site: randomJob(pair, random, () => true, 15) };
    } catch {
      // These two do not go together.
    }
  }
}

function run({ code: asked, number }: Task, seed: number): Outcome {
  const faults = FAULTS.filter((one) => one.code === asked);
  const at = asked === PAIRS ? CASES.length : CASES.indexOf(asked);
  const random = seededRandom(seed * 1_000_000 + at * 30_000 + number);
  const { code, site } =
    asked === PAIRS ? randomPair(random) : { code: asked, site: randomJob(faults, random) };
  const { job, system, logs, truth, plan, bestDaily } = site;
  const series = logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
  const diagnosis = diagnose({ job, system, series });
  const { findings } = diagnosis;
  const chargerOf = (found: SourceCharging) => plan.chargers.find((one) => one.id === found.source?.id);
  const agreements = (of: Series[]): Shares[] => {
    const timeline = alignClocks(timelineOf(of), system);
    return findCharges(knownSystem(system)!, timeline).flatMap((found) => {
      const charger = chargerOf(found);
      if (!charger) return [];
      const own = timeline.series.find((one) => one.device === charger.id);
      const log = own ?? timeline.series.find((one) => one.device === 'monitor')!;
      const { minutes, agreed, strictly } = agreementOf(
        trueStages(truth, charger.id, charger.ratedA),
        found,
        log,
      );
      return [{ agreed: agreed / minutes, strictly: strictly / minutes, own: own !== undefined }];
    });
  };
  const measured = findCharges(knownSystem(system)!, alignClocks(timelineOf(series), system)).flatMap(
    (found) => {
      const charger = chargerOf(found);
      if (!charger) return [];
      const { path, slope } = found;
      const costs = path !== null && charger.pathOhms * path.amps > 0.1 * plan.blocks;
      return [
        {
          ohms: costs ? path.ohms / charger.pathOhms : null,
          slope: slope && slope.to - slope.from >= 8 ? slope.mvPerCell - charger.compensationMv : null,
        },
      ];
    },
  );
  const short = code === 'absorption-too-short' ? shortBy(plan, system, seed + number) : null;
  const wordless = series.map((one) => {
    const channels = { ...one.channels };
    delete channels.source_stage;
    return { ...one, channels };
  });
  return {
    code,
    number,
    findings: findings.map(({ cause, standing, decibans }) => ({ cause, standing, decibans })),
    without: agreements(wordless),
    with: agreements(series),
    measured,
    short,
    counted: plan.halves ? null : countedBy(diagnosis, truth, plan),
    cuts: cutsScored(code, diagnosis, plan, truth),
    best: bestDaily,
    about: `${system.bank.chemistry} ${12 * plan.blocks} V ${plan.capacityAh} Ah, ${plan.chargers.map((one) => `${one.kind} ${one.ratedA} A${one.logged ? '' : ' unlogged'}`).join(' + ')}, every ${plan.everySeconds} s, best ${bestDaily.toFixed(0)} %`,
  };
}

/** The true charge that was found against what the battery held. */
function countedBy(
  { soc, syncs, counting }: Diagnosis,
  { series, trueCharge }: Truth,
  { chemistry, trueCapacityAh }: SitePlan,
): Counted | null {
  if (!soc || !counting) return null;
  const { time } = series;
  const trueAt = (ms: number) => {
    const i = Math.round((ms - time[0]!) / (time[1]! - time[0]!));
    return Math.min(100, Math.max(0, trueCharge[Math.min(time.length - 1, Math.max(0, i))]!));
  };
  const from = Date.parse(soc.from);
  const aim = isLead(chemistry) ? AIM.lead : AIM.lithium;
  const errors = soc.reference.flatMap((one, k) =>
    one === null
      ? []
      : [{ off: Math.abs(one - trueAt(from + k * soc.stepHours * 3_600_000)), band: soc.band[k] ?? 0 }],
  );
  return {
    hours: errors.length,
    within: errors.filter((one) => one.off <= one.band).length,
    near: errors.filter((one) => one.off <= aim).length,
    most: quantile(
      errors.map((one) => one.off),
      0.9,
    ),
    syncs: syncs.map(({ at, judged }) => ({ judged, truly: trueAt(Date.parse(at)) })),
    capacity: counting.capacityAh.value / trueCapacityAh,
    capacityBand: counting.capacityAh.band / counting.capacityAh.value,
  };
}

/**
 * What the first absorption of a site that a clock ended was short of. The site is run twice with the same weather, the second time with
 * clocks that do not end it: up to that moment nothing differs. Null where the log does not tell, or the supply gave out before the tail.
 */
function shortBy(plan: SitePlan, system: KnownSystem, seed: number): Short | null {
  const built = buildJob(plan, seededRandom(seed));
  const unhurried = {
    ...plan,
    chargers: plan.chargers.map((one) => ({ ...one, absorptionMinutes: 1e4 })),
  };
  const { truth: on } = buildJob(unhurried, seededRandom(seed));
  const { truth } = built;
  const [absorption, float] = [REPORTED_STAGES.indexOf('absorption'), REPORTED_STAGES.indexOf('float')];
  const first = plan.chargers.flatMap(({ id }) => {
    const stage = truth.of[id]!.source_stage!;
    const end = stage.findIndex((one, i) => i > 0 && one === float && stage[i - 1] === absorption);
    return end < 0 ? [] : [{ id, end }];
  })[0];
  if (!first) return null;
  const { time } = truth.series;
  const minutes = (time[1]! - time[0]!) / 60_000;
  const tailAmps = fullTailAmps({ ...system.bank, capacityAh: plan.capacityAh });
  const battery = on.series.channels.battery_current!;
  let i = first.end;
  while (i < time.length && on.of[first.id]!.source_stage![i] === absorption && battery[i]! > tailAmps)
    if (on.holding[first.id]![i++] !== 1) return null;
  if (i >= time.length || battery[i]! > tailAmps) return null;
  const series = built.logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
  const found = findCharges(knownSystem(system)!, alignClocks(timelineOf(series), system));
  const stage = found
    .filter(({ source }) => source?.id === first.id)
    .flatMap(({ charges }) => charges.flatMap(({ stages }) => stages))
    .find((one) => one.stage === 'absorption' && Math.abs(one.to - time[first.end]!) < 15 * 60_000);
  if (!stage?.tail || !stage.endAmpsAreBattery) return null;
  const told = forecastTail(stage.tail, stage.endAmps, tailAmps).minutes;
  return told === null ? null : { told, were: (i - first.end) * minutes, absorbed: stage.heldMs / 60_000 };
}

if (isMainThread) main();
else
  parentPort!.on('message', (task: Task) => {
    try {
      parentPort!.postMessage(run(task, (workerData as { seed: number }).seed));
    } catch (error) {
      parentPort!.postMessage({ ...task, error: String(error) });
    }
  });

function main(): void {
  const [sites = 60, seed = 1] = process.argv.slice(2, 4).map(Number);
  const asked = process.argv.slice(4);
  const unknown = asked.filter((one) => one !== PAIRS && !CASES.includes(one));
  if (unknown.length > 0) {
    console.error(`There is no case ${unknown.join(', ')}. There are: ${[...CASES, PAIRS].join(', ')}.`);
    process.exit(2);
  }
  const cases = asked.length === 0 ? CASES : [...CASES, PAIRS].filter((code) => asked.includes(code));
  const tasks = cases.flatMap((code) =>
    Array.from({ length: code === HEALTHY ? HEALTHY_TIMES * sites : sites }, (_, number) => ({
      code,
      number,
    })),
  );
  const total = tasks.length;
  const outcomes: Outcome[] = [];
  let working = availableParallelism();
  for (let k = working; k > 0; k--) {
    const worker = new Worker(process.argv[1]!, { workerData: { seed } });
    const next = () => {
      const task = tasks.pop();
      if (task) worker.postMessage(task);
      else {
        void worker.terminate();
        if (--working === 0) report(outcomes, total, seed);
      }
    };
    worker.on('message', (outcome: Outcome & { error?: string }) => {
      if (outcome.error) console.error(`${outcome.code} #${outcome.number}: ${outcome.error}`);
      else outcomes.push(outcome);
      next();
    });
    next();
  }
}
