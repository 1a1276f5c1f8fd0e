/**
 * The same site simulated twice, with chargers set one way and another: what the replay makes of the first log, set as the second was, beside
 * what the second simulation did. Battery, weather and loads of the simulation are not known to the replay; it has what a log has.
 */

import { REPORTED_STAGES } from '../log/channels';
import { DAY, HOUR, isoTime } from '../quantity/span';
import { usualLeadBattery } from '../simulate/leadBattery';
import { evenCells } from '../simulate/lithiumBattery';
import { creepingCells } from '../simulate/lithiumCells';
import { seededRandom } from '../simulate/random';
import { runSite, type SiteCharger, type SiteSpec, type Truth } from '../simulate/site';
import { knownSystem } from '../system/known';
import { systemSchema } from '../system/schema';
import { isTooFar } from './text';
import type { Minutes } from './minutes';
import { whyNoReplay, type ReplayFacts } from './recorded';
import type { ChargerSettings } from './settings';
import { prepareWhatIf } from './whatIf';

const FROM = Date.UTC(2026, 3, 6);
const STEP_SECONDS = 300;
const DAYS = 12;

const sun = (some: Partial<SiteCharger>): SiteCharger => ({
  id: 'sun',
  ratedA: 16,
  absorptionV: 14.4,
  floatV: 13.7,
  compensationVPerC: -0.024,
  absorptionMinutes: 180,
  rebulkV: 12.8,
  pathOhms: 0.004,
  capableAmps: (_, sun) => 16 * sun,
  inputVolts: () => 34,
  ...some,
});

const site = (charger: Partial<SiteCharger>, some: Partial<SiteSpec> = {}): SiteSpec => ({
  from: FROM,
  days: DAYS,
  stepSeconds: STEP_SECONDS,
  battery: { ...usualLeadBattery(118, 6), resistance: 1.3, gassing: 1.5 },
  startCharge: 0.7,
  chargers: [sun(charger)],
  climate: { latitude: 43, longitude: 13, meanC: 16, dailyC: 5, clear: 0.5, mixed: 0.3 },
  // Heavy by night, so that each day has to put much back.
  loads: [{ id: 'lamp', amps: (ms) => ((ms / HOUR) % 24 < 5 || (ms / HOUR) % 24 > 18 ? 4.2 : 0.8) }],
  ...some,
});

const run = (spec: SiteSpec): Truth => runSite(spec, seededRandom(7));

/** What a good diagnosis of the log would say: stages from what the charger did, the charge as it was. */
function logOf({ series, of, trueCharge, holding }: Truth): { minutes: Minutes; facts: ReplayFacts } {
  const { channels, time } = series;
  const step = STEP_SECONDS * 1000;
  const stages: ReplayFacts['charges'][number]['stages'][number][] = [];
  const floats = REPORTED_STAGES.indexOf('float');
  const nameAt = (i: number): 'bulk' | 'absorption' | 'float' | 'off' => {
    if (of.sun!.source_available![i] === 0) return 'off';
    if (of.sun!.source_stage![i] === floats) return 'float';
    return holding.sun![i] ? 'absorption' : 'bulk';
  };
  for (let i = 0, from = 0; i < time.length; i++)
    if (i + 1 === time.length || nameAt(i + 1) !== nameAt(i)) {
      stages.push({
        stage: nameAt(i),
        from: isoTime(time[from]!),
        to: isoTime(time[i]! + step),
        endedBy: 'timer',
        endAmps: channels.battery_current![i]!,
      });
      from = i + 1;
    }
  const hourly = Math.round(HOUR / step);
  const reference = Array.from(trueCharge).filter((_, i) => i % hourly === 0);
  return {
    minutes: {
      from: FROM,
      stepMs: step,
      count: time.length,
      volts: channels.battery_voltage!,
      amps: channels.battery_current!,
      celsius: channels.battery_temperature!,
      sources: [{ id: 'sun', amps: of.sun!.source_current! }],
    },
    facts: {
      soc: {
        from: isoTime(FROM),
        stepHours: 1,
        reference,
        reported: reference,
        band: reference.map(() => 2),
      },
      counting: { capacityAh: { value: 118, band: 5 }, offsetA: { value: 0, band: 0.1 } },
      charges: [{ source: 'sun', stages: stages.filter((one) => one.stage !== 'off') }],
      charging: {
        sources: [
          {
            source: 'sun',
            limits: [16],
            compensation: null,
            path: { milliohms: 4, band: 1, offsetVolts: 0, amps: 16, lostVolts: 0.06, lostWatts: 1 },
          },
        ],
      },
      setpoints: [],
    },
  };
}

const systemOf = (chemistry: 'agm' | 'lfp', charger: SiteCharger) =>
  knownSystem(
    systemSchema.parse({
      name: 'Tide gauge',
      timeZone: 'Europe/Rome',
      loads: [],
      bank: { chemistry, cellsInSeries: chemistry === 'lfp' ? 4 : 6, capacityAh: 118 },
      sources: [
        {
          id: 'sun',
          name: 'Sun',
          kind: 'solar',
          ratedA: 16,
          profile: {
            absorptionV: charger.absorptionV,
            absorptionMinutes: charger.absorptionMinutes,
            floatV: charger.floatV,
            rebulkV: charger.rebulkV,
            compensationMvPerCellPerC: chemistry === 'lfp' ? 0 : -4,
          },
        },
      ],
    }),
  )!;

/** Highest charge of each day, counted from midnight, %. */
const tops = (percent: Float32Array): number[] => {
  const perDay = DAY / (STEP_SECONDS * 1000);
  return Array.from({ length: DAYS }, (_, day) =>
    percent.subarray(day * perDay, (day + 1) * perDay).reduce((a, b) => Math.max(a, b), 0),
  );
};
const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

function replayed(
  chemistry: 'agm' | 'lfp',
  was: SiteSpec,
  changed: (settings: ChargerSettings) => ChargerSettings,
) {
  const truth = run(was);
  const { minutes, facts } = logOf(truth);
  const system = systemOf(chemistry, was.chargers[0]!);
  expect(whyNoReplay(system, facts)).toBeNull();
  const parts: number[] = [];
  const whatIf = prepareWhatIf(system, minutes, facts, (part) => parts.push(part))!;
  expect(parts.at(-1)).toBeCloseTo(1);
  const settings = whatIf.prepared.sources.map((one) => changed(one.settings));
  return { truth, system, whatIf, outcome: whatIf.replay(settings) };
}

describe('charging replayed with other settings', () => {
  const short = site({ absorptionMinutes: 10, floatV: 13.3 });
  const long = site({ absorptionMinutes: 240, floatV: 13.3 });

  test('as it was set, the replay gives what was', () => {
    const { truth, system, whatIf } = replayed('agm', short, (one) => one);
    const { was, error } = whatIf.prepared;
    expect(isTooFar(error, system.bank)).toBe(false);
    expect(error.points).toBeLessThan(2);
    expect(mean(tops(was.percent))).toBeCloseTo(mean(tops(truth.trueCharge)), -0.5);
    const logged = truth.series.channels.battery_current!.reduce((sum, one) => sum + Math.max(0, one), 0);
    expect(was.ampHoursIn / ((logged * STEP_SECONDS) / 3600)).toBeCloseTo(1, 1);
  });

  test('a longer absorption brings the battery as far as it did on the site', () => {
    const { truth, outcome, whatIf } = replayed('agm', short, (one) => ({
      ...one,
      absorptionMinutes: 240,
    }));
    const was = mean(tops(truth.trueCharge));
    const would = mean(tops(run(long).trueCharge));
    expect(would - was).toBeGreaterThan(2);
    expect(Math.abs(outcome.topPercent - would)).toBeLessThan(0.5 * (would - was));
    expect(outcome.gassedAh).toBeGreaterThan(whatIf.prepared.was.gassedAh);
  });

  test('a source of twice the size fills what a small one did not', () => {
    const small = site({ absorptionMinutes: 180, ratedA: 9, capableAmps: (_, sun) => 9 * sun });
    const large = site({ absorptionMinutes: 180, ratedA: 18, capableAmps: (_, sun) => 18 * sun });
    const { outcome, whatIf } = replayed('agm', small, (one) => ({ ...one, size: 2 }));
    const would = tops(run(large).trueCharge);
    expect(whatIf.prepared.was.topPercent).toBeLessThan(mean(would) - 5);
    expect(Math.abs(outcome.topPercent - mean(would))).toBeLessThan(2.5);
    expect(outcome.fromSources[0]!.ampHours).toBeGreaterThan(whatIf.prepared.was.fromSources[0]!.ampHours);
  });

  test('a voltage that lithium is never full at is found too low', () => {
    const lithium: Partial<SiteSpec> = {
      battery: {
        kind: 'lithium',
        cells: evenCells(4, 118, 0.7),
        bms: {
          cellHighV: 3.65,
          cellLowV: 2.5,
          cellHighReleaseV: 3.5,
          cellLowReleaseV: 2.9,
          balanceV: 3.45,
          balanceA: 0,
          chargeAboveC: 0,
        },
        celsius: 16,
        warmingHours: 8,
        model: creepingCells,
      },
    };
    const charger = { compensationVPerC: 0, floatV: 13.2, rebulkV: 13, absorptionMinutes: 60 };
    const low = site({ ...charger, absorptionV: 13.35 }, lithium);
    const high = site({ ...charger, absorptionV: 14.2 }, lithium);
    const { outcome, whatIf } = replayed('lfp', low, (one) => ({ ...one, absorptionV: 14.2 }));
    const would = tops(run(high).trueCharge);
    expect(whatIf.prepared.was.topPercent).toBeLessThan(mean(would) - 3);
    expect(Math.abs(outcome.topPercent - mean(would))).toBeLessThan(3);
    expect(outcome.gassedAh).toBeNaN();
  });

  test('charge comes from the sources and goes to loads, gassing and the battery: nothing is lost on the way', () => {
    const { whatIf } = replayed('agm', short, (one) => one);
    const { was } = whatIf.prepared;
    const loads = site({}).loads[0]!;
    const drawn =
      Array.from({ length: (DAYS * DAY) / (STEP_SECONDS * 1000) }, (_, i) =>
        loads.amps(FROM + i * STEP_SECONDS * 1000, seededRandom(1)),
      ).reduce((a, b) => a + b, 0) *
      (STEP_SECONDS / 3600);
    const stored = ((was.endPercent - 70) / 100) * 118;
    const given = was.fromSources[0]!.ampHours;
    expect(Math.abs(given - drawn - stored - was.gassedAh) / given).toBeLessThan(0.02);
  });
});
