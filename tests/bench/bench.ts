/**
 * `npm run bench`: reading, analysis and a frame of the strips over a million samples, each in a process of its own for its memory; then
 * the whole way of that log, and of one ten times as long, through web server, queue and worker, and lists of a hundred thousand jobs
 * (the application must be built). `npm run bench lists` (or `intake`, `strips`) measures one of these alone.
 */

import { fork } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Series } from '@/core/log/channels';
import { alignClocks } from '@/core/log/align';
import { takeInLog } from '@/core/log/takeIn';
import { sliceExtent, summarise, SUMMARY_SIZE } from '@/core/log/pyramid';
import { cellsOf } from '@/core/cells/cells';
import { findCharges } from '@/core/charge/charges';
import { counterLog } from '@/core/count/counterLog';
import { cutOffsOf } from '@/core/cutoff/cutOffs';
import { countingOf } from '@/core/count/counting';
import { metersOf } from '@/core/count/meters';
import { replay } from '@/core/count/replay';
import { type CounterSettings, configuredSettings } from '@/core/count/settings';
import { wrongOf } from '@/core/count/trueCurrent';
import { diagnose } from '@/core/diagnosis/diagnose';
import { timelineOf } from '@/core/log/timeline';
import { type KnownSystem, knownSystem } from '@/core/system/known';
import { demoJob, demoSite } from '@/core/simulate/demo';
import { minutesOf } from '@/core/whatif/minutes';
import { prepareWhatIf } from '@/core/whatif/whatIf';
import { seriesOf } from '../support/testSites';
import { measureIntake, repeatedLog } from './intake';
import { LISTED, measureLists } from './lists';
import { millionRows, ROWS } from './millionRows';
import { measureStrips } from './strips';
import { readDuckDb, readOurs, readPapaParse } from './reading';

const RUNS = 5;
const path = join(tmpdir(), 'pazienza-bench-million.csv');

interface Measured {
  /** Median and best of the runs, ms. */
  median: number;
  best: number;
  peakMb: number;
}

/** One frame: five channels over the whole log, from summaries, at the width of a screen. */
function frameTask(): () => void {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  const time = series.time.filter((_, i) => i % SUMMARY_SIZE === 0);
  const channels = (Object.values(series.channels) as Float32Array[]).map((values) => summarise(values));
  const { 0: from } = series.time;
  const to = series.time[series.time.length - 1]!;
  return () => channels.forEach((extent) => sliceExtent(time, extent, from!, to, 1280));
}

function analysisTask(): () => void {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  const { system, job } = demoSite('tide-gauge');
  return () => void diagnose({ job, system, series: [series] });
}

/** The same million samples as two sources on one bus wrote them, turn by turn. */
function twoSourcesTask(): () => void {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  const { system, job } = demoSite('tide-gauge');
  const [first] = system.sources;
  const turn = (device: string, k: number): Series => ({
    device,
    time: series.time.filter((_, i) => i % 2 === k),
    channels: Object.fromEntries(
      Object.entries(series.channels).map(([channel, values]) => [
        channel,
        values!.filter((_, i) => i % 2 === k),
      ]),
    ),
  });
  const both = { ...system, sources: [first!, { ...first!, id: 'second', name: 'Second' }] };
  const logs = [turn(first!.id, 0), turn('second', 1)];
  return () => void diagnose({ job, system: both, series: logs });
}

/** The million samples as a monitor's log, with the percentage that it would have shown. */
function monitorLog(): { system: KnownSystem; series: Series; settings: CounterSettings } {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  const system = knownSystem(demoSite('tide-gauge').system)!;
  const { time, channels } = series;
  const volts = channels.battery_voltage ?? channels.source_voltage!;
  const amps = channels.source_current!.map((one) => one - 2);
  const { settings } = configuredSettings(system);
  const { reading } = replay({ time, amps, volts }, settings, 80);
  return {
    system,
    settings,
    series: {
      device: 'monitor',
      time,
      channels: { battery_voltage: volts, battery_current: amps, soc: reading },
    },
  };
}

/** Everything of counting: meters, true charge, syncs, drift; charges are there already. */
function countingTask(): () => void {
  const { system, series } = monitorLog();
  const timeline = timelineOf([series]);
  const charging = findCharges(system, timeline);
  return () => {
    const log = counterLog(system, timeline)!;
    const meters = metersOf(system, timeline, log, charging);
    countingOf({ system, timeline, log, charging, meters, wrong: wrongOf(meters, system) });
  };
}

/** A frame of the settings bench: the whole log replayed, thrice a million samples, as long as a month of seconds. */
function replayTask(): () => void {
  const { series, settings } = monitorLog();
  const many = 2_600_000;
  const { time, channels } = series;
  const of = (values: Float32Array) =>
    Float32Array.from({ length: many }, (_, i) => values[i % values.length]!);
  const log = {
    time: Float64Array.from({ length: many }, (_, i) => time[0]! + i * 1000),
    amps: of(channels.battery_current!),
    volts: of(channels.battery_voltage!),
  };
  const room = new Float32Array(many);
  return () => void replay(log, settings, 80, room);
}

/** Sixteen cells that are cycled every eight hours, drawn: two steep ends, a flat part, some millivolts apart. */
function cellsTask(): () => void {
  const cells = 16;
  const time = Float64Array.from({ length: ROWS }, (_, i) => 1_700_000_000_000 + i * 2000);
  const period = (8 * 3600) / 2;
  const charge = (i: number): number => {
    const part = (i % period) / (period / 2);
    return part < 1 ? part : 2 - part;
  };
  const channels: Series['channels'] = {
    battery_current: Float32Array.from(time, (_, i) => (i % period < period / 2 ? 25 : -25)),
  };
  for (let k = 1; k <= cells; k++)
    channels[`cell_${String(k).padStart(2, '0')}_voltage`] = Float32Array.from(time, (_, i) => {
      const s = charge(i);
      const steep = s > 0.93 ? ((s - 0.93) / 0.07) * 0.3 : 0;
      return 2.75 + 0.5 * Math.min(1, 8 * s) + 0.05 * s + steep + 0.002 * k + 0.001 * Math.sin(i * k);
    });
  const { system } = demoSite('parish-radio');
  const known = knownSystem({ ...system, bank: { ...system.bank, cellsInSeries: cells } })!;
  const timeline = timelineOf([{ device: 'bms', time, channels }]);
  return () => {
    cellsOf(known, timeline);
    cutOffsOf(known, timeline, null);
  };
}

/** What-if for charging: the tide gauge's month of minutes. `fit` fits the battery and replays once, `what-if` replays alone. */
function whatIfTask(part: 'fit' | 'replay'): () => void {
  const demo = demoJob('tide-gauge');
  const { system, job } = demo;
  const series = seriesOf(demo);
  const diagnosis = diagnose({ job, system, series });
  const minutes = minutesOf(system, alignClocks(timelineOf(series), system), null)!;
  const prepare = () => prepareWhatIf(system, minutes, diagnosis)!;
  if (part === 'fit') return () => void prepare();
  const whatIf = prepare();
  const settings = whatIf.prepared.sources.map((one) => ({ ...one.settings, size: 1.5 }));
  return () => void whatIf.replay(settings);
}

const TASKS: Record<string, () => () => unknown> = {
  ours: () => () => readOurs(path),
  duckdb: () => () => readDuckDb(path),
  papaparse: () => () => readPapaParse(path),
  analysis: analysisTask,
  'two sources': twoSourcesTask,
  counting: countingTask,
  replay: replayTask,
  frame: frameTask,
  cells: cellsTask,
  fit: () => whatIfTask('fit'),
  'what-if': () => whatIfTask('replay'),
};

async function measureHere(name: string): Promise<Measured> {
  const task = TASKS[name]!();
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const start = performance.now();
    await task();
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return { median: times[RUNS >> 1]!, best: times[0]!, peakMb: process.resourceUsage().maxRSS / 1024 };
}

const measure = (name: string): Promise<Measured> =>
  new Promise((resolve, reject) => {
    const child = fork(__filename, [name]);
    child.once('message', (measured) => resolve(measured as Measured));
    child.once(
      'exit',
      (code) => code !== 0 && reject(new Error(`The benchmark of ${name} ended with ${code}.`)),
    );
  });

/** The log of a million rows, once. */
function makeMillion(): void {
  if (existsSync(path)) return;
  console.log('Simulating the log …');
  writeFileSync(path, millionRows());
}

async function main(): Promise<void> {
  const only = process.argv[2];
  if (only === 'intake') {
    makeMillion();
    return tellIntakes();
  }
  if (only === 'lists') return tellLists();
  if (only === 'strips') {
    makeMillion();
    return tellStrips();
  }
  if (only && process.send) return void process.send(await measureHere(only));
  if (only && !TASKS[only])
    throw new Error(
      `There is no task "${only}". There are: ${[...Object.keys(TASKS), 'intake', 'lists', 'strips'].join(', ')}.`,
    );
  makeMillion();
  console.log(
    `${ROWS.toLocaleString('en')} rows, five columns; median and best of ${RUNS} runs, each task in its own process\n`,
  );
  const results: Record<string, Measured> = {};
  for (const name of only ? [only] : Object.keys(TASKS)) {
    const one = (results[name] = await measure(name));
    console.log(
      `${name.padEnd(12)} median ${one.median.toFixed(1).padStart(8)} ms   best ${one.best.toFixed(1).padStart(8)} ms   peak memory ${one.peakMb.toFixed(0).padStart(5)} MB`,
    );
  }
  if (only) return;
  const ratio = (a: string, b: string) => (results[a]!.median / results[b]!.median).toFixed(2);
  console.log(
    `\nreading: DuckDB (one thread) takes ${ratio('duckdb', 'ours')} × our time, PapaParse ${ratio('papaparse', 'ours')} ×`,
  );
  console.log(
    `analysis: ${((ROWS / results.analysis!.median) * 1000).toLocaleString('en', { maximumFractionDigits: 0 })} samples a second`,
  );
  console.log(`replay: ${(2_600 / results.replay!.median).toFixed(0)} million samples a second`);
  await tellIntakes();
  await tellStrips();
  await tellLists();
}

async function tellStrips(): Promise<void> {
  const { firstStrips, scriptKb, ours, uPlot, traces } = await measureStrips(path);
  console.log(
    `\nthe strips in the browser, a million samples: first drawn after ${firstStrips.toFixed(0)} ms; scripts of the workspace ${scriptKb.toFixed(0)} kB compressed\n` +
      `  panning ${traces} traces: ${ours.toFixed(1)} ms of script a frame; uPlot ${uPlot.toFixed(1)} ms; ratio ${(ours / uPlot).toFixed(2)}`,
  );
}

async function tellLists(): Promise<void> {
  console.log(`\nlists over HTTP, with ${LISTED.toLocaleString('en')} jobs`);
  for (const { what, median, slowest, kilobytes } of await measureLists())
    console.log(
      `  ${what.padEnd(38)} median ${median.toFixed(0).padStart(4)} ms   slowest ${slowest.toFixed(0).padStart(4)} ms   ${kilobytes.toFixed(1).padStart(6)} kB`,
    );
}

async function tellIntakes(): Promise<void> {
  const measured = await measureIntake([path, repeatedLog(path, 10)]);
  const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
  console.log('\nthe whole way of a log over HTTP: web server, queue, worker, PostgreSQL');
  for (const one of measured)
    console.log(
      `  ${one.rows.toLocaleString('en')} rows, ${one.megabytes.toFixed(0)} MB: sent ${seconds(one.sent)}, stored ${seconds(one.stored)}, first strip ${seconds(one.firstStrip)}\n` +
        `    peak memory: worker ${one.workerMb.toFixed(0)} MB, web server ${one.webMb.toFixed(0)} MB\n` +
        `    a tile of any zoom: median ${one.tileMedian.toFixed(1)} ms, slowest ${one.tileSlowest.toFixed(1)} ms`,
    );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
