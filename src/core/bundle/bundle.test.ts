import { gzipSync } from 'fflate';
import { diagnose } from '../diagnosis/diagnose';
import { DEMO_SLUGS, demoJob, demoSystem } from '../simulate/demo';
import { BundleError, type BundleFiles, readBundle, readDescription, unzipBundle } from './read';
import { writeBundle, zipBundle } from './write';

const demo = demoJob('harbour-office');
const logs = demo.logs.map(({ path, device, text }) => ({
  path,
  bytes: new TextEncoder().encode(text),
  description: { device },
}));
const files = () => writeBundle('harbour-office', demo.job, demo.system, logs);

async function findings(from: BundleFiles): Promise<string> {
  const { job, system, logs: read } = await readBundle(from);
  return JSON.stringify(diagnose({ job, system, series: read.map((one) => one.series) }));
}

test('a folder, its zip, a zip with a folder in it and gzipped logs give the same findings', async () => {
  const plain = await findings(files());
  expect(await findings(unzipBundle(zipBundle(files())))).toBe(plain);
  const inFolder = new Map([...files()].map(([path, bytes]) => [`job/${path}`, bytes]));
  expect(await findings(unzipBundle(zipBundle(inFolder)))).toBe(plain);
  const zipped = new Map(
    [...files()].map(([path, bytes]) => [path, path.endsWith('.csv') ? gzipSync(bytes) : bytes]),
  );
  expect(await findings(zipped)).toBe(plain);
});

test('what is wrong with the descriptor is told', async () => {
  const as = (text: string) => readBundle(files().set('datapackage.json', new TextEncoder().encode(text)));
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
  await expect(readBundle(missing)).rejects.toThrow(
    /logs\/monitor\.csv is named .* but is not in the bundle/,
  );
  const unread = files().set('logs/monitor.csv', new TextEncoder().encode('time,remark\nyesterday,fine\n'));
  await expect(readBundle(unread)).rejects.toThrow(/^logs\/monitor\.csv: /);
  expect(() => unzipBundle(new Uint8Array([1, 2, 3]))).toThrow(/damaged or no zip/);
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

  test.each(DEMO_SLUGS)('%s goes out and comes back as it was', (slug) => {
    const { job, system } = demoSystem(slug);
    const described = readDescription(
      unzipBundle(zipBundle(writeBundle(slug, job, system, [], { photos: [photo], changes: [change] }))),
    );
    expect(described).toEqual({ name: slug, job, system, changes: [change], photos: [photo], logs: [] });
  });

  test('logs are named but not read', () => {
    expect(readDescription(files()).logs.map((one) => one.path)).toEqual(logs.map((one) => one.path));
  });

  test('a photo that is named but missing is told', () => {
    const without = writeBundle('x', demo.job, demo.system, [], { photos: [photo] });
    without.delete(photo.path);
    expect(() => readDescription(without)).toThrow(
      /photo photos\/joints-1\.jpg is named .* not in the bundle/,
    );
  });

  test('what another tool wrote as null is not known', () => {
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
    const { system } = readDescription(all);
    expect(system.bank).not.toHaveProperty('maxChargeA');
    expect(system).not.toHaveProperty('bms');
    expect(system.sources[0]!.counted).toBeNull();
  });
});
