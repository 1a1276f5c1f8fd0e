import { DAY, MINUTE } from '../quantity/span';
import { seededRandom } from '../simulate/random';
import { shareByBlocks } from './shareBlocks';

const ROW = 5 * MINUTE;
const grid = { from: 0, step: ROW, count: (12 * DAY) / ROW, cuts: [] };

/** Clouds that come and go within two minutes over a sun of ten hours a day; both logs write the moment, the monitor's up to 90 s beside. */
function twoLogs(shows: number, loadA: (cell: number) => number) {
  const random = seededRandom(7);
  const clouds = Float32Array.from({ length: (12 * DAY) / MINUTE }, () => 0);
  let clear = 1;
  let spell = 1;
  clouds.forEach((_, minute) => {
    if (minute % 45 === 0) spell = random.uniform(0.2, 1);
    if (minute % 2 === 0) clear = spell * random.uniform(0.6, 1.4);
    const day = Math.sin((Math.PI * ((minute % 1440) - 420)) / 600);
    clouds[minute] = 30 * Math.max(0, day) * clear;
  });
  const at = (ms: number) => clouds[Math.max(0, Math.min(clouds.length - 1, Math.floor(ms / MINUTE)))]!;
  const own = Float32Array.from({ length: grid.count }, (_, cell) => at(cell * ROW));
  const amps = Float32Array.from(
    { length: grid.count },
    (_, cell) => shows * at(cell * ROW + random.uniform(-90_000, 90_000)) - loadA(cell),
  );
  return [own, amps] as const;
}

test('means over half an hour tell what single rows do not, written at other moments of fast clouds', () => {
  for (const shows of [2, 1.3, 1]) {
    const [own, amps] = twoLogs(shows, () => 2);
    const found = shareByBlocks(own, amps, grid, ROW, 4)!;
    expect(Math.abs(found.share - shows)).toBeLessThan(2 * found.error);
    expect(found.error).toBeLessThan(0.12 * shows);
  }
});

test('a share under one may be loads that go by the sun: it stays as open as that', () => {
  const half = shareByBlocks(...twoLogs(0.5, () => 2), grid, ROW, 4)!;
  expect(Math.abs(half.share - 0.5)).toBeLessThan(0.06);
  expect(half.error).toBeGreaterThan(0.2);
  // A pump that takes a sixth of a clear day's sun, and one that takes a third of it.
  const pump = (most: number) => (cell: number) =>
    most * Math.max(0, Math.sin((Math.PI * (((cell * ROW) / MINUTE) % 1440) - Math.PI * 420) / 600));
  const small = shareByBlocks(...twoLogs(1, pump(5)), grid, ROW, 4)!;
  expect(small.share).toBeLessThan(0.98);
  expect(1 - small.share).toBeLessThan(2.5 * small.error);
  expect(shareByBlocks(...twoLogs(1, pump(10)), grid, ROW, 4)).toBeNull();
});

test('loads as large as the sun that come and go leave it open', () => {
  const random = seededRandom(3);
  let load = 0;
  const [own, amps] = twoLogs(1, (cell) => (load = cell % 6 === 0 ? random.uniform(0, 30) : load));
  expect(shareByBlocks(own, amps, grid, ROW, 4)).toBeNull();
});

test('a day of it is too little, and so are rows that lack half of it', () => {
  const [own, amps] = twoLogs(2, () => 2);
  const day = { ...grid, count: DAY / ROW };
  expect(shareByBlocks(own.slice(0, day.count), amps.slice(0, day.count), day, ROW, 4)).toBeNull();
  expect(
    shareByBlocks(
      own.map((one, cell) => (cell % 2 === 0 ? one : NaN)),
      amps,
      grid,
      ROW,
      4,
    ),
  ).toBeNull();
});
