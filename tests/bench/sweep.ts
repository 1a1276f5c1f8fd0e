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
import { STANDINGS, type Standing } from '@/core/diagnosis/weigh';
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
import { CHEMISTRY } from '@/core/system/chemistry';
import { type KnownSystem, knownSystem } from '@/core/system/known';
import { devicesOf } from '@/core/system/schema';
import { agreementOf, trueStages } from '../support/stageAgreement';
import { type Cuts, cutsScored, reportCuts } from './sweepCuts';

const HEALTHY = 'nothing wrong';
/** Two faults on one site: a case that has to be asked for. */
const PAIRS = 'pairs';
const AND = ' + ';
/** What is true of a site with faults: the faults themselves, and what they cannot be without. */
const isTrue = (code: string, cause: string): boolean =>
  code
    .split(AND)
    .some(
      (name) =>
        name === cause ||
        ((FAULTS as readonly Fault[]).find((one) => one.code === name)?.also ?? []).some(
          (one) => one === cause,
        ),
    );
const CASES = [HEALTHY, ...FAULTS.map((one) => one.code)];
/** Healthy sites are drawn so many times as often: a false alarm is worse than a miss. */
const HEALTHY_TIMES = 3;

interface Task {
  code: string;
  number: number;
}

interface Shares {
  agreed: number;
  strictly: number;
  /** Of a source with a log of its own; else it is seen through the monitor, which shows nothing of it while loads take all it gives. */
  own: boolean;
}

/** What was measured of a source over what is true of it. */
interface Measured {
  /** Resistance of the path, in parts of the true one, where it costs a tenth of a volt a 12 V block. */
  ohms: number | null;
  /** Compensation less the true one, mV per °C and cell, where the temperature moved by 8 °C. */
  slope: number | null;
}

/** Minutes that an absorption was short of: as the log tells, and as they came to be when the same site was left to absorb on. */
interface Short {
  told: number;
  were: number;
  /** Length of the absorption that tells it, minutes. */
  absorbed: number;
}

/** How counting fared: of the hours of the true charge how many lie in its band, how far off it is, syncs judged as they were, figures. */
interface Counted {
  hours: number;
  within: number;
  /** Nine tenths of the time no further off, points. */
  most: number;
  syncs: number;
  right: number;
  /** Capacity found over the true one, and whether the log has narrowed it down. */
  capacity: number;
  told: boolean;
}

interface Outcome extends Task {
  findings: { cause: string; standing: Standing; decibans: number }[];
  /** Share of the minutes of each source that agree, without its own word and with it. */
  without: Shares[];
  with: Shares[];
  measured: Measured[];
  short: Short | null;
  counted: Counted | null;
  cuts: Cuts;
  /** Highest true state of charge of a usual day, %: how badly the site fared. */
  best: number;
  about: string;
}

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
    counted: plan.halves ? null : countedBy(diagnosis, truth, plan.trueCapacityAh),
    cuts: cutsScored(code, diagnosis, plan, truth),
    best: bestDaily,
    about: `${system.bank.chemistry} ${12 * plan.blocks} V ${plan.capacityAh} Ah, ${plan.chargers.map((one) => `${one.kind} ${one.ratedA} A${one.logged ? '' : ' unlogged'}`).join(' + ')}, every ${plan.everySeconds} s, best ${bestDaily.toFixed(0)} %`,
  };
}

/** The true charge that was found against what the battery held. */
function countedBy(
  { soc, syncs, counting }: Diagnosis,
  { series, trueCharge }: Truth,
  capacityAh: number,
): Counted | null {
  if (!soc || !counting) return null;
  const { time } = series;
  const trueAt = (ms: number) => {
    const i = Math.round((ms - time[0]!) / (time[1]! - time[0]!));
    return Math.min(100, Math.max(0, trueCharge[Math.min(time.length - 1, Math.max(0, i))]!));
  };
  const from = Date.parse(soc.from);
  const errors = soc.reference.flatMap((one, k) =>
    one === null
      ? []
      : [{ off: Math.abs(one - trueAt(from + k * soc.stepHours * 3_600_000)), band: soc.band[k] ?? 0 }],
  );
  const verdict = (percent: number) => (percent >= 95 ? 'true' : percent < 90 ? 'false' : 'unsure');
  return {
    hours: errors.length,
    within: errors.filter((one) => one.off <= one.band).length,
    most: quantile(
      errors.map((one) => one.off),
      0.9,
    ),
    syncs: syncs.length,
    right: syncs.filter((one) => one.judged === verdict(trueAt(Date.parse(one.at)))).length,
    capacity: counting.capacityAh.value / capacityAh,
    told: counting.capacityAh.band < 0.1 * counting.capacityAh.value,
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
  const tailAmps = (CHEMISTRY[system.bank.chemistry].fullTailPercent / 100) * plan.capacityAh;
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

/** How badly a site fares: name, and the highest charge of a usual day, %. */
const SEVERITIES: readonly [string, number, number][] = [
  ['never over 85 %', -Infinity, 85],
  ['85 to 97 %', 85, 97],
  ['97 % or more', 97, Infinity],
];

const shown = (standing: Standing): boolean => standing === 'strong' || standing === 'likely';

function report(outcomes: Outcome[], total: number, seed: number): void {
  console.log(`${outcomes.length} of ${total} sites, seed ${seed}\n`);
  console.log(`${'cause'.padEnd(24)} sites  found possible missed  shown elsewhere (on healthy)`);
  const codes = [
    ...new Set([
      ...outcomes.map((one) => one.code),
      ...outcomes.flatMap((one) => one.findings.map((f) => f.cause)),
    ]),
  ].filter((one) => one !== HEALTHY && !one.includes(AND));
  for (const code of codes) {
    const own = outcomes.filter((one) => one.code === code);
    const standings = own.map((one) => one.findings.find((finding) => finding.cause === code)?.standing);
    const found = standings.filter((one) => one && shown(one)).length;
    const possible = standings.filter((one) => one === 'possible').length;
    const elsewhere = outcomes.filter(
      (one) =>
        !isTrue(one.code, code) &&
        one.findings.some((finding) => finding.cause === code && shown(finding.standing)),
    );
    const onHealthy = elsewhere.filter((one) => one.code === HEALTHY).length;
    const where = new Map<string, number>();
    for (const one of elsewhere) where.set(one.code, (where.get(one.code) ?? 0) + 1);
    console.log(
      `${code.padEnd(24)} ${String(own.length).padStart(5)}  ${String(found).padStart(5)} ${String(possible).padStart(8)} ${String(own.length - found - possible).padStart(6)}  ${String(elsewhere.length).padStart(5)} (${onHealthy})  ${[...where].map(([one, count]) => `${one} ${count}`).join(', ')}`,
    );
  }
  console.log('\nFound, by how full the battery got on a usual day:');
  for (const code of codes) {
    const own = outcomes.filter((one) => one.code === code);
    if (own.length === 0) continue;
    const parts = SEVERITIES.map(([name, from, to]) => {
      const of = own.filter((one) => one.best >= from && one.best < to);
      const found = of.filter((one) =>
        one.findings.some((finding) => finding.cause === code && shown(finding.standing)),
      );
      return `${name} ${String(found.length).padStart(3)} of ${String(of.length).padEnd(3)}`;
    });
    console.log(`  ${code.padEnd(24)} ${parts.join('  ')}`);
  }
  reportPairs(outcomes.filter((one) => one.code.includes(AND)));
  console.log('\nOf all findings shown so, how many hold:');
  for (const standing of STANDINGS) {
    const all = outcomes.flatMap((one) =>
      one.findings
        .filter((finding) => finding.standing === standing)
        .map((finding) => isTrue(one.code, finding.cause)),
    );
    console.log(`  ${standing.padEnd(12)} ${all.filter(Boolean).length} of ${all.length}`);
  }
  console.log('\nStages against what the chargers did (the very word in brackets):');
  for (const [name, which, own] of [
    ['without their own word', 'without', true],
    ['with it', 'with', true],
    ['through the monitor alone', 'without', false],
  ] as const) {
    const shares = outcomes.flatMap((one) => one[which]).filter((one) => one.own === own);
    if (shares.length === 0) continue;
    const mean = (of: (one: Shares) => number) =>
      (100 * shares.reduce((sum, one) => sum + of(one), 0)) / shares.length;
    const good = (100 * shares.filter((one) => one.agreed >= 0.95).length) / shares.length;
    console.log(
      `  ${name.padEnd(26)} ${mean((one) => one.agreed).toFixed(1)} % of the time (${mean((one) => one.strictly).toFixed(1)} %), ${good.toFixed(0)} % of ${shares.length} sources at 95 % or better`,
    );
  }
  const measured = outcomes.flatMap((one) => one.measured);
  const ohms = measured.flatMap((one) => (one.ohms === null ? [] : [one.ohms]));
  const slopes = measured.flatMap((one) => (one.slope === null ? [] : [one.slope]));
  console.log(
    `\nMeasured: resistance of the path within 15 % on ${ohms.filter((one) => Math.abs(one - 1) <= 0.15).length} of ${ohms.length} sources; compensation within 1 mV on ${slopes.filter((one) => Math.abs(one) <= 1).length} of ${slopes.length}`,
  );
  const short = outcomes.flatMap((one) => one.short ?? []).sort((a, b) => a.absorbed - b.absorbed);
  const within = short.filter((one) => Math.abs(one.told / one.were - 1) <= 0.2).length;
  const under = short.filter((one) => one.told < 0.8 * one.were).length;
  console.log(
    `Missing minutes within 20 % on ${within} of ${short.length} absorptions that a clock ended, told too few on ${under} (told of what they were, by minutes absorbed): ${short.map((one) => `${one.absorbed.toFixed(0)} min: ${one.told.toFixed(0)} of ${one.were.toFixed(0)}`).join(', ')}`,
  );
  reportCounting(outcomes);
  reportCuts(outcomes.map((one) => one.cuts));
  const errors = outcomes.flatMap((one) =>
    one.findings
      .filter(
        (finding) =>
          isTrue(one.code, finding.cause) !== shown(finding.standing) &&
          (finding.cause === one.code || (shown(finding.standing) && !isTrue(one.code, finding.cause))),
      )
      .map(
        (finding) =>
          `  ${one.code} #${one.number}: ${finding.cause} ${finding.standing} ${finding.decibans} dB; ${one.about}`,
      ),
  );
  console.log(`\nWrong or missed:\n${errors.sort().join('\n')}`);
}

function reportPairs(pairs: readonly Outcome[]): void {
  if (pairs.length === 0) return;
  const found = pairs.map(({ code, findings }) =>
    code.split(AND).filter((name) => findings.some((one) => one.cause === name && shown(one.standing))),
  );
  console.log(
    `\nPairs: both faults shown on ${found.filter((one) => one.length === 2).length} of ${pairs.length} sites, one on ${found.filter((one) => one.length === 1).length}`,
  );
  pairs.forEach(({ code, about }, k) => {
    if (found[k]!.length < 2) console.log(`  ${code}: ${found[k]!.join() || 'neither'}; ${about}`);
  });
}

function reportCounting(outcomes: readonly Outcome[]): void {
  const counted = outcomes.flatMap((one) =>
    one.counted ? [{ ...one.counted, lead: !one.about.startsWith('lfp') }] : [],
  );
  if (counted.length === 0) return;
  const sum = (of: (one: (typeof counted)[number]) => number) =>
    counted.reduce((total, one) => total + of(one), 0);
  const near = (lead: boolean, points: number) => {
    const of = counted.filter((one) => one.lead === lead);
    return `${of.filter((one) => one.most <= points).length} of ${of.length} ${lead ? 'lead' : 'lithium'} sites within ${points} points for nine tenths of the time`;
  };
  const told = counted.filter((one) => one.told);
  console.log(
    `\nTrue charge: in its band ${((100 * sum((one) => one.within)) / sum((one) => one.hours)).toFixed(1)} % of the time; ${near(true, 5)}, ${near(false, 6)}`,
  );
  console.log(
    `Syncs judged as they were: ${sum((one) => one.right)} of ${sum((one) => one.syncs)}; capacity within 5 % on ${told.filter((one) => Math.abs(one.capacity - 1) <= 0.05).length} of ${told.length} sites that tell it`,
  );
}
