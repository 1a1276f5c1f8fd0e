/**
 * The log reader against bent files: `npm run fuzz MINUTES [SEED]`. Takes the files of tests/messes, bends them, and reads them as the
 * application would. Each must end in readings or in a sentence, within a bound of time and memory; whatever is read must be finite, in
 * order, and of the years of logs. Seeds of what failed are kept in tests/fuzz/seeds.json and tried first.
 */

import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync, zipSync } from 'fflate';
import { diagnose } from '@/core/diagnosis/diagnose';
import { NotALog } from '@/core/log/sniff';
import { fileInMemory, readLogFile } from '@/core/log/readFile';
import type { DeviceKind } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import { isUsualMoment } from '@/core/quantity/span';
import { demoSystem } from '@/core/simulate/demo';
import { seededRandom } from '@/core/simulate/random';

/** Bounds of one file, ms and MB. */
const MOST_MS = 5000;
const MOST_MB = 900;
/** How often what was read is weighed too: it costs more than reading. */
const WEIGHED = 10;

interface Mess {
  file: string;
  device: DeviceKind;
  zone: string;
  description?: Partial<LogDescription>;
}

const here = join(process.cwd(), 'tests');
const messes = JSON.parse(readFileSync(join(here, 'messes', 'expected.json'), 'utf8')) as Mess[];
const files = new Map(
  readdirSync(join(here, 'messes', 'files')).map((name) => [
    name,
    new Uint8Array(readFileSync(join(here, 'messes', 'files', name))),
  ]),
);
const seedsFile = join(here, 'fuzz', 'seeds.json');
const kept = existsSync(seedsFile) ? (JSON.parse(readFileSync(seedsFile, 'utf8')) as number[]) : [];

/** Cells that loggers and people write, and should not. */
const CELLS = [
  '1e300',
  '-1e308',
  'Infinity',
  'NaN',
  '0x1F',
  '',
  '-',
  '"',
  '""',
  '"x',
  '٣',
  '1,5',
  '1.5.5',
  '99999999999999999999',
  '9999-12-31T23:59:59Z',
  '1970-01-01 00:00',
  '2126-09-21T06:30:00Z',
  '2026-02-30',
  '21/09/2026',
  '24:00',
  '1790000000000000',
  '+99:99',
  'constructor',
  '__proto__',
  '=1+1',
  '\0',
  '\r',
  '\n',
  '\t',
  ';',
  'ï»¿',
];

function bent(bytes: Uint8Array, random: () => number): Uint8Array {
  const pick = (most: number) => Math.floor(random() * most);
  let out: Uint8Array = bytes.slice();
  for (let strokes = 1 + pick(6); strokes > 0; strokes--) {
    const at = pick(out.length + 1);
    switch (pick(10)) {
      case 0:
        if (out.length > 0) out[at % out.length] = pick(256);
        break;
      case 1:
        out = out.slice(0, at);
        break;
      case 2: {
        const cell = new TextEncoder().encode(CELLS[pick(CELLS.length)]!);
        out = joined(out.slice(0, at), cell, out.slice(at + pick(12)));
        break;
      }
      case 3: {
        // A piece comes again, perhaps many times.
        const piece = out.slice(at, at + 1 + pick(400));
        out = joined(out.slice(0, at), ...Array.from({ length: 1 + pick(30) }, () => piece), out.slice(at));
        break;
      }
      case 4:
        out = out.map((byte) => (byte === 44 ? 59 : byte === 46 ? 44 : byte));
        break;
      case 5:
        out = out.map((byte) => (byte === 10 ? 13 : byte));
        break;
      case 6: {
        // Digits of a year or a value fall over.
        const digits = [...out.keys()].filter((i) => out[i]! >= 48 && out[i]! <= 57);
        if (digits.length > 0) out[digits[pick(digits.length)]!] = 48 + pick(10);
        break;
      }
      case 7:
        out = gzipSync(out);
        break;
      case 8:
        out = zipSync({ 'log.csv': out });
        break;
      case 9: {
        const text = new TextDecoder('latin1').decode(out);
        const lines = text.split('\n');
        const year = String(1900 + pick(400));
        for (let i = pick(lines.length); i < lines.length && random() < 0.9; i++)
          lines[i] = lines[i]!.replace(/20\d\d/, year);
        out = Uint8Array.from(lines.join('\n'), (char) => char.charCodeAt(0));
        break;
      }
    }
    if (out.length > 4_000_000) out = out.slice(0, 4_000_000);
  }
  return out;
}

function joined(...parts: Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  parts.reduce((at, part) => (all.set(part, at), at + part.length), 0);
  return all;
}

const { system, job } = demoSystem('harbour-office');
/** Files that ended in readings. */
let read = 0;

/** @returns what went wrong; null when nothing did */
async function tried(seed: number): Promise<string | null> {
  const random = seededRandom(seed).next;
  const mess = messes[Math.floor(random() * messes.length)]!;
  const bytes = bent(files.get(mess.file)!, random);
  const description: LogDescription = { device: mess.device, ...mess.description };
  if (random() < 0.3) description.strayRows = random() < 0.5 ? 'keep' : 'leave-out';
  if (random() < 0.3) description.damaged = 'keep-whole-rows';
  const started = performance.now();
  try {
    const { series, rows, problemCount, problems } = await readLogFile(
      fileInMemory(bytes, mess.file),
      mess.device,
      description,
      mess.zone,
    );
    const { time } = series;
    for (let i = 0; i < time.length; i++) {
      if (!isUsualMoment(time[i]! + 0) && !isUsualMoment(time[i]! + 86_400_000))
        return `${mess.file}: a time of ${time[i]}`;
      if (i > 0 && !(time[i]! > time[i - 1]!)) return `${mess.file}: times do not rise at ${i}`;
    }
    for (const [name, values] of Object.entries(series.channels))
      for (const value of values!)
        if (value === Infinity || value === -Infinity) return `${mess.file}: ${name} holds ${value}`;
    if (time.length + problemCount < rows)
      return `${mess.file}: ${rows} rows, ${time.length} read, ${problemCount} told`;
    for (const one of problems)
      if (!/[.!?]$/.test(one.reason)) return `${mess.file}: no sentence: ${one.reason}`;
    read++;
    if (seed % WEIGHED === 0) diagnose({ job, system, series: [{ ...series, device: 'monitor' }] });
  } catch (error) {
    if (!(error instanceof NotALog))
      return `${mess.file}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`;
    if (!/[.?)…!]$/.test(error.message)) return `${mess.file}: no sentence: ${error.message}`;
  }
  const took = performance.now() - started;
  if (took > MOST_MS) return `${mess.file}: took ${Math.round(took)} ms`;
  const megabytes = process.memoryUsage().rss / 2 ** 20;
  return megabytes > MOST_MB ? `${mess.file}: memory at ${Math.round(megabytes)} MB` : null;
}

async function main(): Promise<void> {
  const minutes = Number(process.argv[2] ?? 1);
  const first = Number(process.argv[3] ?? 1);
  const until = Date.now() + minutes * 60_000;
  const failed: number[] = [];
  let count = 0;
  let slowest = 0;
  const once = async (seed: number) => {
    const started = performance.now();
    const wrong = await tried(seed);
    slowest = Math.max(slowest, performance.now() - started);
    count++;
    if (!wrong) return;
    failed.push(seed);
    console.log(`seed ${seed}: ${wrong}`);
  };
  for (const seed of kept) await once(seed);
  for (let seed = first; Date.now() < until && failed.length < 20; seed++) await once(seed);
  if (failed.length > 0)
    writeFileSync(seedsFile, `[${[...new Set([...kept, ...failed])].sort((a, b) => a - b).join(', ')}]\n`);
  console.log(
    `${count} files, ${read} of them read, ${failed.length} failed; the slowest took ${Math.round(slowest)} ms; memory at the end ${Math.round(process.memoryUsage().rss / 2 ** 20)} MB, at most ${Math.round(process.resourceUsage().maxRSS / 1024)} MB`,
  );
  writeFileSync(
    join(process.cwd(), '.build', 'fuzz.json'),
    // Each kept seed is a test of its own, the new ones together are another.
    JSON.stringify({ passed: kept.length + 1 - failed.length, failed: failed.length }),
  );
  process.exit(failed.length === 0 ? 0 : 1);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
