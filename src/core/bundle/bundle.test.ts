import { gzipSync } from 'fflate';
import { diagnose } from '../diagnosis/diagnose';
import { keptDemo } from '../../../tests/support/demos';
import { noRecords } from '../records/records';
import { DEMO_SLUGS, demoSystem } from '../simulate/demo';
import {
  BundleError,
  bundleFiles,
  type BundleFiles,
  checkLogs,
  inMemory,
  readBundle,
  readDescription,
  unzipBundle,
} from './read';
import { writeBundle, type WrittenFiles, zipBundle } from './write';

const demo = keptDemo('harbour-office');
const logs = demo.logs.map(({ path, device, text }) => ({
  path,
  bytes: new TextEncoder().encode(text),
  description: { device },
}));
const asFiles = (written: Iterable<[string, Uint8Array]>) =>
  bundleFiles([...written].map(([path, bytes]) => [path, inMemory(bytes)] as const));
const files = (): WrittenFiles => writeBundle('harbour-office', demo.job, demo.system, logs);

async function findings(from: BundleFiles): Promise<string> {
  const { job, system, logs: read } = await readBundle(from);
  return JSON.stringify(diagnose({ job, system, series: read.map((one) => one.series) }));
}

test('a folder, its zip, a zip with a folder in it and gzipped logs give the same findings', async () => {
  const plain = await findings(asFiles(files()));
  expect(await findings(await unzipBundle(zipBundle(files())))).toBe(plain);
  const inFolder = new Map([...files()].map(([path, bytes]) => [`job/${path}`, bytes]));
  expect(await findings(await unzipBundle(zipBundle(inFolder)))).toBe(plain);
  const zipped = new Map(
    [...files()].map(([path, bytes]) => [path, path.endsWith('.csv') ? gzipSync(bytes) : bytes]),
  );
  expect(await findings(asFiles(zipped))).toBe(plain);
});

test('what is wrong with the descriptor is told', async () => {
  const as = (text: string) =>
    readBundle(asFiles(files().set('datapackage.json', new TextEncoder().encode(text))));
  const descriptor = new TextDecoder().decode(files().get('datapackage.json'));
  await expect(readBundle(new Map())).rejects.toThrow(/There is no datapackage\.json/);
  await expect(as('{')).rejects.toThrow(/not valid JSON/);
  await expect(as(descriptor.replace('"gel"', '"lead"'))).rejects.toThrow(
    /pazienza\.system\.bank\.chemistry/,
  );
  await expect(as(descriptor.replace('Europe/Rome', 'Isole/Mirtane'))).rejects.toThrow(/not a time zone/);
  await expect(as(descriptor.replace('"device": "mains"', '"device": "sun"'))).rejects.toThrow(
    /only "mains", "monitor", "clock"/,
  );
  await expect(as('{')).rejects.toThrow(BundleError);
});

test('a log that is missing, of no device or not readable is named', async () => {
  const missing = files();
  missing.delete('logs/monitor.csv');
  await expect(readBundle(asFiles(missing))).rejects.toThrow(
    /logs\/monitor\.csv is named .* but is not in the bundle/,
  );
  const unread = files().set('logs/monitor.csv', new TextEncoder().encode('time,remark\nyesterday,fine\n'));
  await expect(readBundle(asFiles(unread))).rejects.toThrow(/^logs\/monitor\.csv: /);
  await expect(unzipBundle(new Uint8Array([1, 2, 3]))).rejects.toThrow(/damaged or no zip/);
});

describe('the description alone', () => {
  const photo = { path: 'photos/joints-1.jpg', check: 'joints', bytes: new Uint8Array([0xff, 0xd8, 0xff]) };
  const change = {
    on: '2026-10-20',
    path: 'monitor.chargedV',
    label: 'Monitor: Charged voltage',
    unit: 'V',
    before: 28.8,
    after: 27.2,
    why: 'The charger never goes above 28.2 V.',
  };

  test.each(DEMO_SLUGS)('%s goes out and comes back as it was', async (slug) => {
    const { job, system, records: some } = demoSystem(slug);
    const records = { ...noRecords(), ...some };
    const { photos, ...described } = await readDescription(
      await unzipBundle(
        zipBundle(writeBundle(slug, job, system, [], { photos: [photo], changes: [change], records })),
      ),
    );
    // In a table each reading has its temperature; the round's own is that of all of them.
    const asRead = records['hydrometer-round'].map(({ celsius, readings, ...one }) => ({
      ...one,
      readings: readings.map((each) => ({ ...each, celsius })),
    }));
    expect(described).toEqual({
      name: slug,
      job,
      system,
      changes: [change],
      records: { ...records, 'hydrometer-round': asRead },
      logs: [],
      unnamed: [],
    });
    expect(photos.map(({ path, check }) => ({ path, check }))).toEqual([
      { path: photo.path, check: photo.check },
    ]);
    expect(await photos[0]!.file.bytes()).toEqual(photo.bytes);
  });

  test('a hydrometer table that cannot be read is named with its row', async () => {
    const bad = writeBundle('x', demo.job, demo.system, []).set(
      'hydrometer.csv',
      new TextEncoder().encode('date,cell,gravity\n2026-10-01,1A,heavy\n'),
    );
    await expect(readDescription(asFiles(bad))).rejects.toThrow(/hydrometer\.csv: Row 2: “heavy”/);
  });

  test('logs are named but not read', async () => {
    expect((await readDescription(asFiles(files()))).logs.map((one) => one.path)).toEqual(
      logs.map((one) => one.path),
    );
  });

  test('a photo that is named but missing is told', async () => {
    const without = writeBundle('x', demo.job, demo.system, [], { photos: [photo] });
    without.delete(photo.path);
    await expect(readDescription(asFiles(without))).rejects.toThrow(
      /photo photos\/joints-1\.jpg is named .* not in the bundle/,
    );
  });

  test('what another tool wrote as null is not known', async () => {
    const all = files();
    const json = JSON.parse(new TextDecoder().decode(all.get('datapackage.json'))) as {
      pazienza: {
        system: { bank: Record<string, unknown>; bms: unknown; sources: Record<string, unknown>[] };
      };
    };
    json.pazienza.system.bank.maxChargeA = null;
    json.pazienza.system.bms = null;
    json.pazienza.system.sources[0]!.counted = null;
    all.set('datapackage.json', new TextEncoder().encode(JSON.stringify(json)));
    const { system } = await readDescription(asFiles(all));
    expect(system.bank).not.toHaveProperty('maxChargeA');
    expect(system).not.toHaveProperty('bms');
    expect(system.sources[0]!.counted).toBeNull();
  });
});

test('what would be left out is said: files that nothing names, logs that cannot be read', async () => {
  const more = files()
    .set('notes.txt', new TextEncoder().encode('rang the owner'))
    .set('.hidden', new Uint8Array(1))
    .set('logs/monitor.csv', new TextEncoder().encode('nothing\n'));
  const { left, readable } = await checkLogs(await readDescription(asFiles(more)));
  expect(readable.map((one) => one.path)).toEqual(
    logs.map((one) => one.path).filter((path) => path !== 'logs/monitor.csv'),
  );
  expect(left).toHaveLength(2);
  expect(left[0]).toMatch(/^notes\.txt lies in the bundle, but its description does not say what it is\.$/);
  expect(left[1]).toMatch(/^logs\/monitor\.csv: No rows of readings/);
  expect((await checkLogs(await readDescription(asFiles(files())))).left).toEqual([]);
});

test('a description that is out of all bounds is refused with a place and a sentence', async () => {
  const json = () => JSON.parse(new TextDecoder().decode(files().get('datapackage.json'))) as Described;
  type Described = {
    resources: Record<string, unknown>[];
    pazienza: { job: Record<string, unknown>; system: Record<string, unknown> };
  };
  const as = (change: (one: Described) => void, text?: string) => {
    const one = json();
    change(one);
    return readDescription(
      asFiles(files().set('datapackage.json', new TextEncoder().encode(text ?? JSON.stringify(one)))),
    );
  };
  await expect(as((one) => (one.pazienza.job.openedAt = 'tomorrow'))).rejects.toThrow(
    /pazienza\.job\.openedAt \(Opened\): Write the moment as 2026/,
  );
  await expect(
    as(
      (one) =>
        (one.pazienza.system.sources = Array.from({ length: 51 }, (_, i) => ({ id: `s${i}`, name: 'x' }))),
    ),
  ).rejects.toThrow(/50 sources at most/);
  await expect(
    as((one) => ((one.resources[0]!.pazienza as Record<string, unknown>).clockOffsetSeconds = 1e12)),
  ).rejects.toThrow(/clockOffsetSeconds.*: /);
  await expect(as((one) => (one.resources.length = 1), '['.repeat(100_000))).rejects.toThrow(
    /lists within lists/,
  );
  await expect(
    as(
      (one) =>
        ((one.resources[0]!.pazienza as Record<string, unknown>).columns = { V: { channel: 'constructor' } }),
    ),
  ).resolves.toBeDefined();
});
