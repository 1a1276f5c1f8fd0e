/** What a charger was set to, as a replay takes it: by the log, else by the description, else by what is usual. */

import { knownSystem } from '../system/known';
import { systemSchema } from '../system/schema';
import type { Outcome, ReplayError } from './replay';
import { chargerOf, settingsAsTheyWere } from './settings';
import type { ReplayFacts } from './recorded';
import { comparedText, fitText, isTooFar, replayReason, unknowns } from './text';

const system = (profile: object = {}, chemistry: 'agm' | 'lfp' = 'agm') =>
  knownSystem(
    systemSchema.parse({
      name: 'Tide gauge',
      timeZone: 'Europe/Rome',
      bank: { chemistry, cellsInSeries: chemistry === 'lfp' ? 4 : 6, capacityAh: 100 },
      sources: [{ id: 'sun', name: 'Sun', kind: 'solar', profile }],
      loads: [],
    }),
  )!;

const minute = (n: number) => new Date(Date.UTC(2026, 3, 6, 10, n)).toISOString();
const charge = (
  minutes: number,
  endedBy: 'timer' | 'tail',
  endAmps: number,
): ReplayFacts['charges'][number] => ({
  source: 'sun',
  stages: [
    { stage: 'absorption', from: minute(0), to: minute(minutes), endedBy, endAmps },
    { stage: 'float', from: minute(minutes), to: minute(minutes + 60), endedBy: 'unknown', endAmps: 1 },
  ],
});
const facts = (some: Partial<ReplayFacts> = {}): ReplayFacts => ({
  soc: null,
  setpoints: [],
  counting: null,
  charges: [],
  charging: { sources: [] },
  ...some,
});
const was = (profile: object, some: Partial<ReplayFacts> = {}, chemistry: 'agm' | 'lfp' = 'agm') => {
  const known = system(profile, chemistry);
  return settingsAsTheyWere(known, known.sources[0]!, facts(some));
};

describe('as it was set', () => {
  test('what was held goes before what is described, that before what is usual', () => {
    const setpoints = [{ source: 'sun', absorptionV: 14.12, floatV: null, compensationMvPerCellPerC: null }];
    expect(was({ absorptionV: 14.4, floatV: 13.6 }, { setpoints })).toMatchObject({
      absorptionV: 14.12,
      floatV: 13.6,
    });
    expect(was({ absorptionV: 14.4 }).absorptionV).toBe(14.4);
    // The middle of 14.2 to 14.6 V.
    expect(was({}).absorptionV).toBeCloseTo(14.4, 2);
  });

  test('a clock that ended absorptions is taken as it was seen, and then there is no tail', () => {
    const charges = [charge(60, 'timer', 9), charge(58, 'timer', 8), charge(62, 'timer', 9)];
    expect(was({ absorptionMinutes: 180, tailA: 2 }, { charges })).toMatchObject({
      absorptionMinutes: 60,
      tailA: null,
    });
  });

  test('a tail that ended them likewise; a time that is set beside it stays as the longest', () => {
    const charges = [charge(60, 'tail', 2.1), charge(95, 'tail', 1.9), charge(80, 'tail', 2)];
    expect(was({ absorptionMinutes: 240 }, { charges })).toMatchObject({ tailA: 2, absorptionMinutes: 240 });
    expect(was({}, { charges })).toMatchObject({ tailA: 2, absorptionMinutes: null });
  });

  test('of lithium nothing is compensated where nobody said so', () => {
    expect(was({}, {}, 'lfp').compensationMvPerCellPerC).toBeCloseTo(0, 9);
  });
});

test('a charger of twice the size gives twice; its volts are those of the whole bank', () => {
  const known = system({ rebulkV: 12.7, chargeAboveC: 2 });
  const [source] = known.sources;
  const settings = { ...settingsAsTheyWere(known, source!, facts()), size: 2, compensationMvPerCellPerC: -4 };
  const charger = chargerOf(known, source!, settings, { mostA: 16, pathOhms: 0.004 });
  expect(charger).toMatchObject({ ratedA: 32, rebulkV: 12.7, blockBelowC: 2, pathOhms: 0.004 });
  expect(charger.compensationVPerC).toBeCloseTo(-0.024, 9);
  const sensing = chargerOf(known, { ...source!, senses: 'battery' }, settings, {
    mostA: 16,
    pathOhms: 0.004,
  });
  expect(sensing).toMatchObject({ remoteSense: true, pathOhms: 0 });
});

describe('in words', () => {
  const outcome = (some: Partial<Outcome>): Outcome => ({
    days: 20,
    fullDays: 0,
    hoursToFull: NaN,
    gassedAh: 40,
    ampHoursIn: 800,
    fromSources: [],
    topPercent: 90,
    lowestPercent: 40,
    endPercent: 80,
    percent: new Float32Array(),
    volts: new Float32Array(),
    ...some,
  });
  const before = outcome({});
  const now = outcome({ fullDays: 14, topPercent: 98, lowestPercent: 46, gassedAh: 61 });
  const good: ReplayError = { volts: 0.1, points: 1.2, ampHours: 1 };

  test('one outcome beside the other; gassing of lead only', () => {
    expect(comparedText(now, before, system().bank)).toBe(
      'Full on 14 of 20 days instead of 0; a day’s highest charge 98 % instead of 90 % on average; lowest 46 % instead of 40 %; 61 Ah lost to gassing instead of 40.',
    );
    expect(comparedText(now, before, system({}, 'lfp').bank)).not.toContain('gassing');
  });

  test('how far off it is, and when that is too far to choose by', () => {
    const { bank } = system();
    expect(fitText(good, 12, bank)).toBe(
      'With the settings as they were, the replay comes out 1.2 points of charge and 0.10 V off on average; the battery was fitted to 12 charges.',
    );
    expect(fitText({ ...good, ampHours: 1.27 }, 12, bank)).toMatch(
      /27 % more ampere-hours .* overstates gassing\.$/,
    );
    expect(fitText({ ...good, ampHours: 0.8 }, 12, bank)).toMatch(/20 % fewer ampere-hours/);
    expect(isTooFar(good, bank)).toBe(false);
    expect(isTooFar({ ...good, points: 9 }, bank)).toBe(true);
    expect(isTooFar({ ...good, volts: NaN }, bank)).toBe(true);
    expect(fitText({ ...good, volts: 0.9 }, 1, bank)).toContain('too far off to choose a setting by');
  });

  test('the reason for the record, and what cannot be known', () => {
    const { bank } = system();
    expect(replayReason(now, before, good, bank)).toMatch(
      /^Replay of the logged weather and loads: Full on 14 of 20 days .* 0\.10 V off on average\.$/,
    );
    const none = { sun: false, silentMs: 0 };
    expect(unknowns(bank, { ...none, sun: true })).toHaveLength(4);
    expect(unknowns(bank, none).join(' ')).not.toContain('sun');
    expect(unknowns(bank, { ...none, silentMs: 12 * 3_600_000 })[0]).toMatch(
      /silent for 12 h: there nothing/,
    );
    expect(unknowns(system({}, 'lfp').bank, none).join(' ')).toContain('cell that runs ahead');
  });
});
