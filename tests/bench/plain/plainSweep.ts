/**
 * How findings fare over plain sites, whose simulator shares nothing with the core's but its random numbers:
 * `npm run sweep:plain [sites a case] [seed] [code …]`. It is not run by the tests; what is found there is not to be tuned to.
 */

import { availableParallelism } from 'node:os';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { Standing } from '@/core/diagnosis/weigh';
import { takeInLog } from '@/core/log/takeIn';
import { quantile } from '@/core/quantity/numbers';
import { seededRandom } from '@/core/simulate/random';
import { devicesOf } from '@/core/system/schema';
import { PLAIN_FAULTS } from './faults';
import { dailyPeak, readingOff } from './faults/fault';
import { drawPlainPlan, isLeadPlan } from './plainPlan';
import { type PlainSite, runPlainSite } from './plainSite';

const HEALTHY = 'nothing wrong';
const HEALTHY_TIMES = 5;
const HALF_HOUR = 1_800_000;
const CASES = [HEALTHY, ...PLAIN_FAULTS.map((one) => one.code)];

interface Task {
  code: string;
  number: number;
}

interface Outcome extends Task {
  found: { cause: string; standing: Standing; decibans: number }[];
  /** Of the hours of the true charge how many lie in its band, and how far off it is for nine tenths of the time. */
  hours: number;
  within: number;
  most: number;
  cuts: { true: number; found: number; invented: number };
  about: string;
}

/** The first site of a number that is as it should be; the same number gives the same site. */
export function plainSite({ code, number }: Task, seed: number): PlainSite {
  const fault = PLAIN_FAULTS.find((one) => one.code === code);
  for (let tries = 0; tries < 80; tries++) {
    // Mixed: seeds side by side would begin alike.
    const at =
      Math.imul(seed * 1_000_003 + CASES.indexOf(code) * 20_011 + number * 401 + tries, 0x9e3779b1) >>> 0;
    const random = seededRandom(at);
    const plan = drawPlainPlan(random);
    if (fault?.fits && !fault.fits(plan)) continue;
    fault?.patch(plan, random);
    if (fault) plan.complaint = fault.complaint;
    const site = runPlainSite(plan, at);
    const isGood =
      dailyPeak(site) > (isLeadPlan(plan) ? 95 : 97) && readingOff(site) < 8 && site.cuts.length === 0;
    if (fault ? (fault.hurts?.(site) ?? true) : isGood) return site;
  }
  throw new Error(`No plain site of ${code} came up in so many draws.`);
}

function run(task: Task, seed: number): Outcome {
  const { job, system, logs, plan, truth, cuts: events } = plainSite(task, seed);
  const cuts = events.map((one) => one.ms);
  const seen = events.filter((one) => one.isSeen).map((one) => one.ms);
  const series = logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
  const { findings, soc, cutoffs } = diagnose({ job, system, series });
  const heldAt = (ms: number) =>
    truth[Math.min(truth.length - 1, Math.round((ms - truth[0]!.ms) / 600_000))]!.held;
  const errors = (soc?.reference ?? []).flatMap((one, k) =>
    one === null
      ? []
      : [
          {
            off: Math.abs(one - heldAt(Date.parse(soc!.from) + k * soc!.stepHours * 3_600_000)),
            band: soc!.band[k] ?? 0,
          },
        ],
  );
  const near = (a: number, b: number) => Math.abs(a - b) <= HALF_HOUR;
  const shown = cutoffs.map((one) => Date.parse(one.at));
  const apart = seen.filter((one, k) => k === 0 || one - seen[k - 1]! > HALF_HOUR);
  return {
    ...task,
    found: findings.map(({ cause, standing, decibans }) => ({ cause, standing, decibans })),
    hours: errors.length,
    within: errors.filter((one) => one.off <= one.band).length,
    most: quantile(
      errors.map((one) => one.off),
      0.9,
    ),
    cuts: {
      true: apart.length,
      found: apart.filter((one) => shown.some((at) => near(at, one))).length,
      invented: shown.filter((at) => !cuts.some((one) => near(at, one))).length,
    },
    about: `${plan.chemistry} ${12 * plan.blocks} V ${plan.capacityAh} Ah, ${plan.style}, ${plan.chargers.map((one) => `${one.kind} ${one.ratedA} A`).join(' + ')}, every ${plan.everySeconds} s`,
  };
}

if (isMainThread) main();
else
  parentPort!.on('message', (task: Task) => {
    try {
      parentPort!.postMessage(run(task, workerData as number));
    } catch (error) {
      parentPort!.postMessage({ ...task, error: String(error) });
    }
  });

function main(): void {
  const [sites = 5, seed = 1] = process.argv.slice(2, 4).map(Number);
  const asked = process.argv.slice(4);
  const tasks = CASES.filter((code) => asked.length === 0 || asked.includes(code)).flatMap((code) =>
    Array.from({ length: code === HEALTHY ? HEALTHY_TIMES * sites : sites }, (_, number): Task => ({
      code,
      number,
    })),
  );
  const outcomes: Outcome[] = [];
  let working = availableParallelism();
  for (let k = working; k > 0; k--) {
    const worker = new Worker(process.argv[1]!, { workerData: seed });
    const next = () => {
      const task = tasks.pop();
      if (task) worker.postMessage(task);
      else {
        void worker.terminate();
        if (--working === 0) report(outcomes);
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

const isShown = ({ standing }: { standing: Standing }): boolean =>
  standing === 'strong' || standing === 'likely';

/** Below this part of the time in its band the course of a site is worth a look. */
const POOR_BAND = 0.8;

const cutsWrong = (cuts: Outcome['cuts']): string[] => [
  ...(cuts.found < cuts.true ? [`${cuts.found} of ${cuts.true} cut-offs`] : []),
  ...(cuts.invented > 0 ? [`${cuts.invented} cut-offs invented`] : []),
];

function report(outcomes: readonly Outcome[]): void {
  const isTrue = ({ code }: Task, cause: string) =>
    code === cause ||
    (PLAIN_FAULTS.find((one) => one.code === code)?.also ?? []).some((one) => one === cause);
  const lines: string[] = [];
  for (const code of CASES) {
    const own = outcomes.filter((one) => one.code === code);
    if (own.length === 0) continue;
    const found = own.filter((one) =>
      one.found.some((finding) => finding.cause === code && isShown(finding)),
    );
    if (code !== HEALTHY) console.log(`${code.padEnd(24)} found on ${found.length} of ${own.length}`);
    for (const one of own) {
      const untrue = one.found.filter((finding) => isShown(finding) && !isTrue(one, finding.cause));
      const missed =
        code !== HEALTHY && !found.includes(one)
          ? [`missed (${one.found.find(({ cause }) => cause === code)?.decibans ?? '-'} dB)`]
          : [];
      const wrong = [
        ...missed,
        ...untrue.map((finding) => `${finding.cause} ${finding.decibans} dB`),
        ...cutsWrong(one.cuts),
        ...(one.within < POOR_BAND * one.hours
          ? [`charge in its band ${Math.round((100 * one.within) / one.hours)} % of the time`]
          : []),
      ];
      if (wrong.length > 0) lines.push(`  ${code} #${one.number}: ${wrong.join(', ')}; ${one.about}`);
    }
  }
  const shown = outcomes.flatMap((one) =>
    one.found.filter(isShown).map((finding) => isTrue(one, finding.cause)),
  );
  const sum = (of: (one: Outcome) => number) => outcomes.reduce((total, one) => total + of(one), 0);
  console.log(
    `\nOf ${shown.length} findings shown as likely or strong ${shown.filter(Boolean).length} hold.`,
  );
  console.log(
    `True charge in its band ${((100 * sum((one) => one.within)) / sum((one) => one.hours)).toFixed(1)} % of the time.`,
  );
  console.log(
    `Cut-offs: ${sum((one) => one.cuts.found)} of ${sum((one) => one.cuts.true)} found, ${sum((one) => one.cuts.invented)} invented.`,
  );
  console.log(`\nWrong or missed:\n${lines.join('\n')}`);
}
