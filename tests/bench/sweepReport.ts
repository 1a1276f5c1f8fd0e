/** The sweep in words: for each cause found, missed and shown elsewhere; what holds of what is shown; stages, figures, charge. */

import { SYNC_VERDICTS, type SyncVerdict } from '@/core/count/types';
import { STANDINGS, type Standing } from '@/core/diagnosis/weigh';
import { reportCuts } from './sweepCuts';
import { AIM, AND, type Counted, HEALTHY, isTrue, type Outcome, type Shares } from './sweepOutcome';

/** How badly a site fares: name, and the highest charge of a usual day, %. */
const SEVERITIES: readonly [string, number, number][] = [
  ['never over 85 %', -Infinity, 85],
  ['85 to 97 %', 85, 97],
  ['97 % or more', 97, Infinity],
];

const shown = (standing: Standing): boolean => standing === 'strong' || standing === 'likely';

export function report(outcomes: Outcome[], total: number, seed: number): void {
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
  const near = (lead: boolean) => {
    const of = counted.filter((one) => one.lead === lead);
    const points = lead ? AIM.lead : AIM.lithium;
    const part =
      of.reduce((hours, one) => hours + one.near, 0) / of.reduce((hours, one) => hours + one.hours, 0);
    return `${lead ? 'lead' : 'lithium'} within ${points} points ${(100 * part).toFixed(1)} % of the time, for nine tenths of it on ${of.filter((one) => one.most <= points).length} of ${of.length} sites`;
  };
  console.log(
    `\nTrue charge: in its band ${((100 * sum((one) => one.within)) / sum((one) => one.hours)).toFixed(1)} % of the time; ${near(true)}, ${near(false)}`,
  );
  const within = (band: number) => {
    const told = counted.filter((one) => one.capacityBand < band);
    return `on ${told.filter((one) => Math.abs(one.capacity - 1) <= 0.05).length} of ${told.length} sites with a band under ${100 * band} %`;
  };
  console.log(`Capacity within 5 % ${within(0.1)}, ${within(0.05)}`);
  reportSyncs(counted.flatMap((one) => one.syncs));
}

/** At this charge and above a sync is true, under that one false, %. */
const LIMITS = { true: 95, false: 90 };

/** Nearer than this to a limit no log tells on which side of it a battery is, points. */
const NEAR_LIMIT = 2;

function reportSyncs(syncs: Counted['syncs']): void {
  const was = (percent: number): SyncVerdict =>
    percent >= LIMITS.true ? 'true' : percent < LIMITS.false ? 'false' : 'unsure';
  const right = (some: Counted['syncs']) =>
    `${some.filter((one) => one.judged === was(one.truly)).length} of ${some.length}`;
  const far = syncs.filter(({ truly }) =>
    Object.values(LIMITS).every((limit) => Math.abs(truly - limit) > NEAR_LIMIT),
  );
  console.log(
    `Syncs judged as they were: ${right(syncs)}; further than ${NEAR_LIMIT} points from a limit ${right(far)}`,
  );
  for (const truly of SYNC_VERDICTS) {
    const some = syncs.filter((one) => was(one.truly) === truly);
    const judged = SYNC_VERDICTS.map(
      (verdict) => `${verdict} ${some.filter((one) => one.judged === verdict).length}`,
    );
    console.log(`  ${truly}: judged ${judged.join(', ')}`);
  }
}
