/** Several chargers and loads on one bus. */

import { type Aim, type ChargerSpec, drive, driveTogether, restingCharger, runCharger } from './charger';
import { seededRandom } from './random';
import { runSite, seenBy, type SiteSpec } from './site';
import { usualLeadBattery } from './leadBattery';

const spec = (id: string, absorptionV: number, floatV = 13.6): ChargerSpec => ({
  id,
  ratedA: 20,
  absorptionV,
  floatV,
  compensationVPerC: 0,
  absorptionMinutes: 60,
  rebulkV: 12.6,
  pathOhms: 0.005,
});
/** A battery like a voltage source with a resistance of 0.1 Ω. */
const bus = (rest: number, loadAmps = 0) => ({
  loadAmps,
  ampsAt: (volts: number) => (volts - rest) / 0.1,
  voltsAt: (amps: number) => rest + 0.1 * amps,
});
const aimOf = (charger: ChargerSpec, capableAmps = 20): Aim => ({
  spec: charger,
  target: charger.absorptionV,
  capableAmps,
});

describe('chargers', () => {
  test('one alone is driven as one alone', () => {
    const charger = spec('a', 14.4);
    expect(driveTogether([aimOf(charger)], bus(12.5, 3))).toEqual([drive(charger, 14.4, 20, bus(12.5, 3))]);
  });

  test('what they give is what battery and loads take (Kirchhoff)', () => {
    for (const rest of [11.8, 12.6, 13.4, 14]) {
      const outputs = driveTogether([aimOf(spec('a', 14.4)), aimOf(spec('b', 14.2), 7)], bus(rest, 4));
      const volts = outputs[0]!.batteryVolts;
      const given = outputs.reduce((sum, one) => sum + one.amps, 0);
      expect(outputs[1]!.batteryVolts).toBe(volts);
      expect(given).toBeCloseTo((volts - rest) / 0.1 + 4, 3);
      for (const one of outputs) expect(one.terminalVolts).toBeCloseTo(volts + 0.005 * one.amps, 9);
    }
  });

  test('the one that aims higher lifts the voltage, and the other gives nothing', () => {
    const [high, low] = driveTogether([aimOf(spec('a', 14.8)), aimOf(spec('b', 14.2))], bus(13.8));
    expect(high!.regulating).toBe(true);
    expect(high!.batteryVolts).toBeGreaterThan(14.2);
    expect(low).toMatchObject({ amps: 0, regulating: false });
  });

  test('an equalisation begins with the float after it is due, lasts its time, and is not begun twice', () => {
    const charger = { ...spec('a', 14.4), equalise: { volts: 15.5, minutes: 30, dueAt: [0] } };
    const state = { ...restingCharger(), stage: 'float' as const, awaySeconds: 0, absorbedSeconds: 3600 };
    const stages: string[] = [];
    for (let minute = 0; minute < 90; minute++) {
      runCharger(charger, state, 60, 20, 25, bus(13.2));
      stages.push(state.stage);
    }
    expect(stages.filter((one) => one === 'equalise').length).toBeGreaterThanOrEqual(29);
    expect(stages.filter((one) => one === 'equalise').length).toBeLessThanOrEqual(31);
    expect(stages.lastIndexOf('equalise') - stages.indexOf('equalise')).toBeLessThan(31);
    expect(stages.at(-1)).toBe('float');
  });
});

describe('a site', () => {
  const site: SiteSpec = {
    from: Date.UTC(2026, 8, 21),
    days: 1,
    stepSeconds: 30,
    battery: usualLeadBattery(100, 6),
    startCharge: 0.9,
    chargers: [
      {
        ...spec('a', 14.4),
        capableAmps: (ms) => (ms % 86_400_000 > 43_200_000 ? 20 : 0),
        inputVolts: () => 230,
      },
      {
        ...spec('b', 14.2),
        capableAmps: (ms) => (ms % 86_400_000 > 64_800_000 ? 5 : 0),
        inputVolts: () => 230,
      },
    ],
    climate: { latitude: 40, longitude: 13, meanC: 20, dailyC: 0, clear: 1, mixed: 0 },
    loads: [
      { id: 'lamp', amps: () => 2 },
      {
        id: 'pump',
        amps: (ms) => (ms % 3_600_000 < 300_000 ? 30 : 0),
        pathOhms: 0.04,
        cutoffV: 11.2,
        cutoffSeconds: 60,
        reconnectV: 12.3,
      },
    ],
    uncounted: ['b', 'pump'],
    monitor: {
      method: 'shunt',
      capacityAh: 100,
      chargedV: 14,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 90,
      peukert: 1.2,
      floorPercent: 50,
    },
  };
  const truth = runSite(site, seededRandom(3));
  const { battery_current: battery, battery_voltage: volts } = truth.series.channels;

  test('what bypasses the monitor is missing from its current, and from nobody else’s', () => {
    const seen = seenBy(truth, 'monitor').channels.battery_current!;
    const b = truth.of.b!.source_current!;
    const pump = truth.of.pump!.load_current!;
    let bypassed = 0;
    for (let i = 0; i < seen.length; i++) {
      expect(seen[i]!).toBeCloseTo(battery![i]! - b[i]! + pump[i]!, 3);
      if (b[i]! > 1 || pump[i]! > 1) bypassed++;
    }
    expect(bypassed).toBeGreaterThan(200);
    expect(seenBy(truth, 'a').channels.battery_current).toBe(battery);
  });

  test('a load sees less than the battery by what its cable drops, lets go below its cut-off and comes back', () => {
    const { load_voltage: atPump, load_current: amps } = truth.of.pump!;
    const drawing = amps!.findIndex((one) => one > 1);
    expect(atPump![drawing]!).toBeCloseTo(volts![drawing]! - 0.04 * amps![drawing]!, 3);
    // Five minutes are asked for each hour; after a minute below the cut-off it lets go.
    const low = atPump!.findIndex((one, i) => amps![i]! > 1 && one < 11.2);
    expect(low).toBeGreaterThanOrEqual(0);
    const off = amps!.findIndex((one, i) => i > low && one === 0);
    expect((off - low) * 30).toBeLessThanOrEqual(120);
    expect(amps!.some((one, i) => i > off && one > 1)).toBe(true);
  });
});
