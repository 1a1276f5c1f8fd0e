/**
 * Jobs from a second simulator that shares nothing with the one in core: another battery model (one store behind a diffusion
 * layer whose lag is the acid's, resistances from a table, current from a softened exponential), other headings, averages instead
 * of samples, jittered clocks. What the diagnosis says must not hang on the first simulator.
 */

import { takeInLog } from '@/core/log/takeIn';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { KnownSystem } from '@/core/system/known';

interface Site {
  /** Bank: cells in series, Ah. */
  cells: number;
  ah: number;
  chargerA: number;
  absorb: number;
  float: number;
  /** Minutes of absorption, and the current that ends it, A; whichever comes first. */
  minutes: number;
  tailA: number;
  /** Hours of the day at which the source comes and goes. */
  hours: [number, number];
  loadA: number;
  days: number;
  start: number;
}

/** A plain linear congruential generator: it need not be good, only another. */
function lcg(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
}

const TABLE = [
  [0, 1.97],
  [0.2, 2.01],
  [0.5, 2.05],
  [0.8, 2.095],
  [1, 2.13],
] as const;

function restVolts(part: number): number {
  for (let i = 1; i < TABLE.length; i++) {
    const [a, va] = TABLE[i - 1]!;
    const [b, vb] = TABLE[i]!;
    if (part <= b) return va + ((vb - va) * (part - a)) / (b - a);
  }
  return TABLE[TABLE.length - 1]![1];
}

/** Log of the charger as five-second averages over two minutes; `acid` lags behind the charge by its own time. */
function simulate(site: Site, seed: number): string {
  const random = lcg(seed);
  const rows = ['Sample time;U charger;I charger;T batt (°F);Load I (A)'];
  let charge = site.start;
  let acid = site.start;
  let mode: 'bulk' | 'abs' | 'flt' = 'bulk';
  let held = 0;
  let t = Date.UTC(2026, 3, 6);
  const end = t + site.days * 86_400_000;
  let sumU = 0;
  let sumI = 0;
  let n = 0;
  const dt = 20;
  for (; t < end; t += dt * 1000) {
    const hour = (t % 86_400_000) / 3_600_000;
    const there = hour >= site.hours[0] && hour < site.hours[1];
    const load = site.loadA * (1 + 0.4 * Math.sin(t / 700_000) * (random() > 0.3 ? 1 : 0.2));
    const rest = site.cells * (restVolts(Math.max(0, Math.min(1, acid))) + 0.5 * (charge - acid));
    const ohms = (site.cells * (0.012 + 0.02 / Math.max(0.02, 1.03 - charge)) * 40) / site.ah;
    const gas = (u: number) => site.ah * 1.2e-4 * Math.exp((u / site.cells - 2.25) * 12);
    const amps = (u: number) => (u > rest ? (u - rest) / ohms + gas(u) : (u - rest) / (0.4 * ohms));
    let u = rest - 0.4 * ohms * load;
    let source = 0;
    if (!there) {
      mode = 'bulk';
      held = 0;
    } else {
      const target = mode === 'flt' ? site.float : site.absorb;
      const wanted = amps(target) + load;
      if (wanted <= site.chargerA) {
        source = Math.max(0, wanted);
        u = source > 0 ? target : u;
        if (mode === 'bulk') mode = 'abs';
        if (mode === 'abs') held += dt / 60;
      } else {
        source = site.chargerA;
        let low = 1.8 * site.cells;
        let high = target;
        for (let i = 0; i < 30; i++) {
          const middle = (low + high) / 2;
          if (amps(middle) < source - load) low = middle;
          else high = middle;
        }
        u = low;
      }
      if (mode === 'abs' && (held >= site.minutes || source - load < site.tailA)) mode = 'flt';
    }
    const stored = source - load - (u > rest ? gas(u) : 0);
    charge = Math.max(0, Math.min(1.02, charge + (stored * dt) / 3600 / site.ah));
    acid += ((charge - acid) * dt) / 2700;
    sumU += u;
    sumI += source;
    n++;
    if (n === 6) {
      const clock = new Date(t + Math.floor(random() * 900)).toISOString();
      const text = (value: number, digits: number) => value.toFixed(digits).replace('.', ',');
      rows.push(
        `${clock.slice(8, 10)}.${clock.slice(5, 7)}.${clock.slice(0, 4)} ${clock.slice(11, 19)};${text(sumU / n + (random() - 0.5) * 0.02, 2)};${text(sumI / n + (random() - 0.5) * 0.1, 1)};${text(77 + random(), 0)};${text(load, 1)}`,
      );
      sumU = sumI = n = 0;
    }
  }
  return rows.join('\r\n') + '\r\n';
}

const healthy: Site = {
  cells: 12,
  ah: 150,
  chargerA: 25,
  absorb: 28.8,
  float: 27.2,
  minutes: 480,
  tailA: 1.5,
  hours: [4, 22],
  loadA: 5,
  days: 14,
  start: 0.9,
};

function diagnoseSite(change: Partial<Site>, seed: number) {
  const site = { ...healthy, ...change };
  const system: KnownSystem = {
    name: 'Lamp',
    timeZone: 'UTC',
    bank: {
      chemistry: 'flooded',
      cellsInSeries: site.cells,
      stringsInParallel: 1,
      capacityAh: site.ah,
      capacityHours: 20,
      chargeVolts: { min: 28.4, max: 29.2 },
    },
    sources: [
      {
        id: 'rectifier',
        name: 'Rectifier',
        kind: 'mains',
        ratedA: site.chargerA,
        profile: { absorptionV: site.absorb },
        counted: null,
        senses: 'own-terminals',
      },
    ],
    loads: [{ id: 'lamp', name: 'Lamp', kind: 'dc', counted: null }],
  };
  const job = {
    title: '',
    complaints: ['undercharging' as const],
    openedAt: '2026-05-01T00:00:00Z',
    notes: '',
  };
  const { series, problemCount } = takeInLog(
    new TextEncoder().encode(simulate(site, seed)),
    'source',
    {
      device: 'rectifier',
      dateOrder: 'dmy',
      columns: {
        'Sample time': { channel: 'time' },
        'U charger': { channel: 'source_voltage' },
        'I charger': { channel: 'source_current' },
        'T batt (°F)': { channel: 'battery_temperature', scale: 5 / 9, offset: 32 },
        'Load I (A)': { channel: 'load_current' },
      },
    },
    'UTC',
  );
  expect(problemCount).toBe(0);
  expect(Math.abs(series.channels.battery_temperature![0]! - 25.3)).toBeLessThan(0.5);
  const { findings, charges } = diagnose({ job, system, series: [series] });
  return { charges, standing: Object.fromEntries(findings.map((one) => [one.cause, one.standing])) };
}

test.each([1, 2, 3])('a healthy site has no finding (seed %d)', (seed) => {
  const { standing, charges } = diagnoseSite({}, seed);
  expect(charges.filter((charge) => charge.full).length).toBeGreaterThan(10);
  for (const [cause, one] of Object.entries(standing))
    expect([cause, one]).toEqual([cause, expect.stringMatching(/^(unlikely|excluded|cannot-tell)$/)]);
});

test.each([1, 2])('absorption of forty minutes is found (seed %d)', (seed) => {
  const { standing } = diagnoseSite({ minutes: 40, loadA: 7, start: 0.6 }, seed);
  expect(['likely', 'strong']).toContain(standing['absorption-too-short']);
  expect(['likely', 'strong']).not.toContain(standing['charge-voltage-low']);
});

test.each([1, 2])('a charge voltage 0.5 V a block too low is found (seed %d)', (seed) => {
  const { standing } = diagnoseSite({ absorb: 27.4, float: 26.8 }, seed);
  expect(['likely', 'strong']).toContain(standing['charge-voltage-low']);
});

test.each([1, 2])('a source that is too small is found (seed %d)', (seed) => {
  const { standing } = diagnoseSite(
    { chargerA: 5.5, hours: [6, 20], loadA: 3.4, start: 0.8, days: 10 },
    seed,
  );
  expect(['likely', 'strong']).toContain(standing['source-too-small']);
  expect(['likely', 'strong']).not.toContain(standing['absorption-too-short']);
});
