/** The command line as a program: bin/test has bundled it before. */

import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';

const program = join(process.cwd(), '.build', 'pazienza.cjs');
const run = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [program, ...args], {
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  });
  return { status, stdout, stderr };
};

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'pazienza-cli-'));
  expect(run('simulate', 'tide-gauge', join(folder, 'job')).status).toBe(0);
  expect(run('simulate', 'tide-gauge', join(folder, 'job.zip')).status).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const iso = z.iso.datetime();
const spans = z.array(z.tuple([iso, iso]));
/** The contract of `analyse --json`. */
const contract = z.object({
  format: z.literal(1),
  trust: z.array(z.object({ code: z.string(), text: z.string(), spans })),
  hazards: z.array(z.object({ code: z.string(), text: z.string(), spans })),
  charges: z.array(
    z.object({
      from: iso,
      to: iso,
      source: z.string().nullable(),
      full: z.boolean(),
      stages: z.array(
        z.object({
          stage: z.enum(['bulk', 'absorption', 'float', 'equalise', 'hold', 'off']),
          from: iso,
          to: iso,
          volts: z.number().nullable(),
          endAmps: z.number().nullable(),
          ampHours: z.number().nullable(),
          endedBy: z.enum(['tail', 'timer', 'source-lost', 'load', 'bms', 'other-source', 'unknown']),
        }),
      ),
    }),
  ),
  syncs: z.array(
    z.object({
      at: iso,
      from: z.number(),
      to: z.number(),
      judged: z.enum(['true', 'false', 'unsure']),
    }),
  ),
  cutoffs: z.array(
    z.object({
      at: iso,
      by: z.string(),
      why: z.enum(['volts', 'percent', 'surge', 'cell-low', 'cold', 'unknown']),
      trips: z.number().int(),
      socShown: z.number().nullable(),
      socTrue: z.number().nullable(),
      volts: z.number().nullable(),
      amps: z.number().nullable(),
      restVolts: z.number().nullable(),
      minCellVolts: z.number().nullable(),
    }),
  ),
  findings: z.array(
    z.object({
      cause: z.string(),
      complaint: z.enum(['undercharging', 'drifting-soc', 'premature-cutoff']),
      standing: z.enum(['strong', 'likely', 'possible', 'unlikely', 'excluded', 'cannot-tell']),
      decibans: z.number().int(),
      evidence: z.array(z.object({ text: z.string().min(10), decibans: z.number().int(), spans })),
      missing: z.array(z.string()),
      tests: z.array(z.string()),
    }),
  ),
  nextTest: z.object({ test: z.string(), minutes: z.number(), why: z.string() }).nullable(),
  settings: z.array(
    z.object({
      of: z.string(),
      setting: z.string(),
      now: z.union([z.number(), z.string()]),
      advised: z.union([z.number(), z.string()]),
      school: z.string().nullable(),
      why: z.string().min(10),
    }),
  ),
});

test('with --series the percentage comes hour by hour, as it was read and as it was; without it, it does not', () => {
  const plain = JSON.parse(run('analyse', join(folder, 'job'), '--json').stdout) as Record<string, unknown>;
  expect(plain).not.toHaveProperty('soc');
  const { soc } = z
    .object({
      soc: z.object({
        reported: z.array(z.number().nullable()),
        reference: z.array(z.number().nullable()),
        band: z.array(z.number().nullable()),
      }),
    })
    .parse(JSON.parse(run('analyse', join(folder, 'job'), '--json', '--series').stdout));
  expect(soc.reference.length).toBeGreaterThan(24 * 20);
  expect(soc.reported).toHaveLength(soc.reference.length);
  expect(soc.band).toHaveLength(soc.reference.length);
  for (const one of soc.reference) if (one !== null) expect(one >= 0 && one <= 100).toBe(true);
});

test('analyse --json keeps the contract and names the cause; folder and zip agree byte for byte', () => {
  const fromFolder = run('analyse', join(folder, 'job'), '--json');
  expect(fromFolder.status).toBe(0);
  const diagnosis = contract.parse(JSON.parse(fromFolder.stdout));
  expect(diagnosis.findings[0]).toMatchObject({
    cause: 'absorption-too-short',
    standing: expect.stringMatching(/^(likely|strong)$/),
  });
  // The careful estimate is 2 h 33 min; timers are set in half hours.
  expect(diagnosis.settings).toEqual([
    expect.objectContaining({ of: 'solar', setting: 'profile.absorptionMinutes', now: 60, advised: 180 }),
  ]);
  for (const charge of diagnosis.charges)
    for (let i = 1; i < charge.stages.length; i++)
      expect(Date.parse(charge.stages[i]!.from)).toBeGreaterThanOrEqual(
        Date.parse(charge.stages[i - 1]!.from),
      );
  expect(run('analyse', join(folder, 'job.zip'), '--json').stdout).toBe(fromFolder.stdout);
  expect(run('analyse', join(folder, 'job'), '--json').stdout).toBe(fromFolder.stdout);
});

test('the readable table says the same', () => {
  const { stdout, status } = run('analyse', join(folder, 'job'));
  expect(status).toBe(0);
  expect(stdout).toMatch(/^Tide gauge, Porto Lente: Tide gauge never gets full\n/);
  expect(stdout).toMatch(
    /(likely|strong) +about \d+ to 1: Absorption ends too early, on the clock +\(absorption-too-short\)/,
  );
  expect(stdout).toMatch(/absorption +\d+ min +14\.\d\d V +end +\d+\.\d A +\d+ Ah +ended by: clock/);
  expect(stdout).toMatch(/What discharging shows\n.*Nothing was cut off/);
  for (const line of stdout.split('\n')) expect(line.length).toBeLessThan(115);
});

test('a description without logs is analysed too: settings and hazards are printed', () => {
  const out = join(folder, 'cold-room.zip');
  expect(run('simulate', 'vaccine-cold-room', out).status).toBe(0);
  const { stdout, status } = run('analyse', out);
  expect(status).toBe(0);
  expect(stdout).toMatch(/Hazards\n +Second charger is not counted by the monitor/);
  expect(stdout).toMatch(/Settings to change\n/);
  expect(stdout).toMatch(/second +profile\.floatV: 27\.6 -> 26\.8 +\(\(b\) a gap below the charge voltage\)/);
  const json = contract.parse(JSON.parse(run('analyse', out, '--json').stdout));
  expect(json.hazards.map((one) => one.code)).toEqual(['uncounted-conductor-on-battery-post']);
  expect(json.settings.map((one) => `${one.of} ${one.setting}`)).toContain('inverter cutoffPercent');
  expect(json.findings[0]).toMatchObject({ cause: 'source-not-counted', standing: 'strong' });
});

test('a call that is wrong exits 2 with a sentence', () => {
  for (const [args, sentence] of [
    [[], /Say what to do\. See pazienza --help/],
    [['weigh', 'x'], /There is no command "weigh"/],
    [['analyse'], /analyse takes one path/],
    [['analyse', '/nowhere/at/all'], /There is nothing at \/nowhere\/at\/all/],
    [['analyse', 'x', '--yaml'], /Unknown option '--yaml'/],
    [
      ['simulate', 'lighthouse', folder],
      /no demo system "lighthouse"\. There are: tide-gauge, seismic-vault, .*harbour-office/,
    ],
    [['simulate', 'tide-gauge', '/proc/nowhere/x.zip'], /Check that the path is right/],
  ] as [string[], RegExp][]) {
    const { status, stdout, stderr } = run(...args);
    expect([args, status, stdout]).toEqual([args, 2, '']);
    expect(stderr).toMatch(sentence);
    expect(stderr).not.toMatch(/\n\s+at /);
  }
  expect(run('--help').stdout).toMatch(/pazienza analyse PATH \[--json\]/);
});

test('unreadable input names file, row and column', () => {
  const log = join(folder, 'job', 'logs', 'monitor.csv');
  const good = readFileSync(log, 'utf8');
  const lines = good.split('\n');
  writeFileSync(log, [lines[0], lines[1]!.replace(/,[^,]*/, ',oops'), ...lines.slice(2)].join('\n'));
  const { status, stderr } = run('analyse', join(folder, 'job'), '--json');
  expect(status).toBe(0);
  expect(stderr).toMatch(
    /^logs\/monitor\.csv: 1 of \d+ rows have a problem\. The first, line 2: "oops" in "battery_voltage \(V\)" is not a number/,
  );
  writeFileSync(log, 'nothing\n');
  const broken = run('analyse', join(folder, 'job'));
  expect(broken.status).toBe(2);
  expect(broken.stderr).toMatch(/^pazienza: logs\/monitor\.csv: No rows of readings were found/);
  writeFileSync(log, good);
});

test('a log with one row a century ahead, and cells that no meter shows, is analysed at once', () => {
  const log = join(folder, 'job', 'logs', 'monitor.csv');
  const good = readFileSync(log, 'utf8');
  const lines = good.split('\n');
  lines[200] = lines[200]!.replace(/^2026/, '2126');
  lines[300] = lines[300]!.replace(/^2026/, '9999');
  lines[400] = lines[400]!.replace(/,[^,]*/, ',1e308');
  writeFileSync(log, lines.join('\n'));
  const started = performance.now();
  const { status, stderr, stdout } = run('analyse', join(folder, 'job'), '--json');
  const took = performance.now() - started;
  writeFileSync(log, good);
  expect(status).toBe(0);
  expect(stderr).toMatch(
    /^logs\/monitor\.csv: 3 of \d+ rows have a problem\. The first, line 301: No time could be read/,
  );
  expect(JSON.parse(stdout).charges.every((one: { to: string }) => one.to < '2027')).toBe(true);
  expect(took).toBeLessThan(20_000);
});

test('a log that asks is told with what to write into the bundle; a damaged bundle, without a stack', () => {
  const log = join(folder, 'job', 'logs', 'monitor.csv');
  const good = readFileSync(log, 'utf8');
  const lines = good.split('\n');
  writeFileSync(
    log,
    lines.map((line, i) => (i > lines.length / 2 ? line.replace(/^2026/, '2001') : line)).join('\n'),
  );
  const asked = run('analyse', join(folder, 'job'));
  writeFileSync(log, good);
  expect([asked.status, asked.stdout]).toEqual([2, '']);
  expect(asked.stderr).toMatch(/strayRows: "leave-out" or "keep"/);
  const descriptor = join(folder, 'job', 'datapackage.json');
  const text = readFileSync(descriptor, 'utf8');
  for (const [bad, sentence] of [
    ['['.repeat(300_000), /lists within lists/],
    [text.replace('"openedAt": "2026', '"openedAt": "9999'), /openedAt \(Opened\): Write the moment/],
    [
      text.replace('"capacityAh": 160', '"capacityAh": 1e300'),
      /capacityAh \(Capacity of the whole bank\): No battery system has so much/,
    ],
    [text.replace(/"device": "monitor"/, '"device": "monitor", "clockOffsetSeconds": 1e300'), /150 years/],
  ] as [string, RegExp][]) {
    writeFileSync(descriptor, bad);
    const { status, stderr } = run('analyse', join(folder, 'job'));
    expect([status, stderr]).toEqual([2, expect.stringMatching(sentence)]);
    expect(stderr).not.toMatch(/\n\s+at /);
  }
  writeFileSync(descriptor, text);
});
