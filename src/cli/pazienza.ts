/** The command line: analyse a job bundle, or write a demo job as one. Needs no database and no server. */

import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { parseArgs } from 'node:util';
import {
  BundleError,
  type BundleFile,
  bundleFiles,
  type BundleFiles,
  readBundle,
  unzipBundle,
} from '@/core/bundle/read';
import { writeBundle, zipBundle } from '@/core/bundle/write';
import { diagnose } from '@/core/diagnosis/diagnose';
import { withoutSeries } from '@/core/diagnosis/withoutSeries';
import { DEMO_SLUGS, demoJob } from '@/core/simulate/demo';
import { onDisk } from '@/workers/onDisk';
import { readable } from './readable';

const HELP = `Pazienza: diagnoses battery systems from the logs of their chargers and monitors.

  pazienza analyse PATH [--json]   read a job bundle (a folder or a zip) and print what was found;
                                   with --json --series also the percentage hour by hour, cells over
                                   the log and strips of the cut-offs
  pazienza simulate SYSTEM OUT     write a demo job as a bundle: to a folder, or to OUT when it ends in .zip
                                   systems: ${DEMO_SLUGS.join(', ')}
  pazienza work                    be a worker that takes in logs for the application at DATABASE_URL; as many as are wanted
  pazienza --help                  this page

Exit codes: 0 done; 2 the input or the call was wrong; 3 a fault of Pazienza's own; with a sentence on standard error.
`;

class Usage extends Error {}

async function main(args: string[]): Promise<void> {
  const { values, positionals } = parse(args);
  const [verb, ...rest] = positionals;
  if (values.help || verb === 'help') process.stdout.write(HELP);
  else if (verb === 'analyse' && rest.length === 1)
    await analyse(rest[0]!, values.json === true, values.series === true);
  else if (verb === 'simulate' && rest.length === 2) simulate(rest[0]!, rest[1]!);
  else if (verb === undefined) throw new Usage('Say what to do.');
  else if (verb === 'analyse') throw new Usage('analyse takes one path: a bundle folder or zip.');
  else if (verb === 'simulate') throw new Usage('simulate takes a system and where to write it.');
  else throw new Usage(`There is no command "${verb}".`);
}

function parse(args: string[]) {
  try {
    return parseArgs({
      args,
      allowPositionals: true,
      options: {
        json: { type: 'boolean' },
        series: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    });
  } catch (error) {
    throw new Usage(error instanceof Error ? error.message : String(error));
  }
}

async function analyse(path: string, asJson: boolean, withSeries: boolean): Promise<void> {
  const { job, system, logs, changes, records } = await readBundle(await filesAt(path));
  const diagnosis = diagnose({ job, system, series: logs.map((log) => log.series), changes, records });
  for (const log of logs)
    if (log.problemCount > 0)
      process.stderr.write(
        `${log.path}: ${log.problemCount} of ${log.rows} rows have a problem. The first, line ${log.problems[0]!.line}: ${log.problems[0]!.reason}\n`,
      );
  process.stdout.write(
    asJson
      ? JSON.stringify(withSeries ? diagnosis : withoutSeries(diagnosis), null, 2) + '\n'
      : readable(job, system, diagnosis),
  );
}

async function filesAt(path: string): Promise<BundleFiles> {
  if (!existsSync(path)) throw new BundleError(`There is nothing at ${path}.`);
  if (!statSync(path).isDirectory()) return unzipBundle(readFileSync(path));
  const files: [string, BundleFile][] = [];
  const walk = (folder: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const full = join(folder, entry.name);
      if (entry.isDirectory()) walk(full);
      else if (entry.isFile()) files.push([relative(path, full).replaceAll('\\', '/'), onDisk(full)]);
    }
  };
  walk(path);
  return bundleFiles(files);
}

function simulate(slug: string, out: string): void {
  if (!DEMO_SLUGS.includes(slug))
    throw new Usage(`There is no demo system "${slug}". There are: ${DEMO_SLUGS.join(', ')}.`);
  const { job, system, logs, records } = demoJob(slug);
  const files = writeBundle(
    slug,
    job,
    system,
    logs.map(({ path, device, text }) => ({ path, bytes: Buffer.from(text), description: { device } })),
    { records },
  );
  if (out.endsWith('.zip')) writeFileSync(out, zipBundle(files));
  else
    for (const [path, bytes] of files) {
      mkdirSync(dirname(join(out, path)), { recursive: true });
      writeFileSync(join(out, path), bytes);
    }
  process.stdout.write(`Wrote ${system.name} with ${logs.length} logs to ${out}\n`);
}

main(process.argv.slice(2)).catch((error: unknown) => {
  if (error instanceof Usage) process.stderr.write(`pazienza: ${error.message} See pazienza --help.\n`);
  else if (error instanceof BundleError) process.stderr.write(`pazienza: ${error.message}\n`);
  else if (error instanceof Error && 'code' in error)
    process.stderr.write(
      `pazienza: ${error.message}. Check that the path is right and can be read or written.\n`,
    );
  else {
    // A fault of ours: what happened is said in a sentence, and the exit tells it from bad input.
    const what = error instanceof Error ? error.message : String(error);
    process.stderr.write(`pazienza: something failed in Pazienza itself (${what}). Nothing was changed.\n`);
    process.exitCode = 3;
    return;
  }
  process.exitCode = 2;
});
