/**
 * How the findings fare over random sites with known faults: `npm run sweep [sites per fault] [seed]`. The weights in
 * src/core/causes/weights.ts are judged by this table. Unit tests use other seeds.
 */

import { takeInLog } from '@/core/log/takeIn';
import { diagnose } from '@/core/diagnosis/diagnose';
import { STANDINGS, type Standing } from '@/core/diagnosis/weigh';
import { FAULTS, randomJob } from '@/core/simulate/randomJob';
import { seededRandom } from '@/core/simulate/random';
import { devicesOf } from '@/core/system/schema';

const sites = Number(process.argv[2] ?? 60);
const seed = Number(process.argv[3] ?? 1);
const verbose = process.argv[4];

const table = new Map<string, Record<Standing, number>>();
const held: Record<Standing, [number, number]> = Object.fromEntries(
  STANDINGS.map((one) => [one, [0, 0]]),
) as never;

for (const fault of FAULTS)
  for (let i = 0; i < sites; i++) {
    const { job, system, logs, truth } = randomJob(
      fault,
      seededRandom(seed * 1_000_000 + FAULTS.indexOf(fault) * 10_000 + i),
    );
    const series = logs.map(({ device, text }) => {
      const { kind } = devicesOf(system).find((one) => one.id === device)!;
      return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
    });
    const { findings } = diagnose({ job, system, series });
    for (const { cause, standing, decibans, evidence } of findings) {
      const key = `${fault.padEnd(22)} ${cause.padEnd(22)}`;
      const row =
        table.get(key) ?? (Object.fromEntries(STANDINGS.map((one) => [one, 0])) as Record<Standing, number>);
      row[standing]++;
      table.set(key, row);
      held[standing][1]++;
      if (cause === fault) held[standing][0]++;
      const wrong =
        cause === fault
          ? !['strong', 'likely'].includes(standing)
          : ['strong', 'likely', 'possible'].includes(standing);
      if (verbose && wrong) {
        console.log(
          `${fault} #${i} ${cause} ${standing} ${decibans} best daily charge ${truth.bestDaily.toFixed(0)} %, ${system.sources[0]!.kind}, ${logs.map((l) => l.device).join('+')}`,
        );
        for (const item of evidence) console.log(`      ${item.decibans} ${item.text}`);
      }
    }
  }

console.log(`${sites} sites for each fault, seed ${seed}\n`);
console.log(
  `${'fault'.padEnd(22)} ${'cause'.padEnd(22)} ${STANDINGS.map((one) => one.padStart(12)).join('')}`,
);
for (const [key, row] of table)
  console.log(`${key} ${STANDINGS.map((one) => String(row[one]).padStart(12)).join('')}`);
console.log('\nOf all findings shown so, how many held:');
for (const standing of STANDINGS)
  console.log(`  ${standing.padEnd(12)} ${held[standing][0]} of ${held[standing][1]}`);
