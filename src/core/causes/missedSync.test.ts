/** Charges that left the reading as it was, and what they are called. */

import type { Judged } from './cause';
import { chargedVoltageUnreached } from './charged-voltage-unreached';
import { neverStarted } from './never-started';
import { tailUnreached } from './tail-unreached';

const missed = (full: boolean) => ({
  from: 0,
  to: 1,
  full,
  reason: 'current',
  topVolts: 14.6,
  leastAmps: 6,
  heldMs: 0,
});
const seen = (...full: boolean[]) =>
  ({
    system: { monitor: { method: 'shunt' }, sources: [] },
    counting: {
      assumed: [],
      syncs: [],
      missed: full.map(missed),
      settings: { capacityAh: 100, tailPercent: 4, chargedV: 14.2, detectionMinutes: 3 },
    },
  }) as unknown as Judged;
const said = (judged: Judged) => tailUnreached.weigh!(judged).find((one) => one.group === 'missed')!;

test('charges that the charger called done are not called full', () => {
  expect(said(seen(true, true)).text).toMatch(/^All 2 full charges left the reading as it was: .*6\.0 A/);
  expect(said(seen(true, false)).text).toMatch(/^All 2 completed charges left the reading/);
  expect(said(seen(false, false)).decibans).toBeGreaterThan(7);
});

test('a detection time that no charger’s settings allow is never met; one that they may is only long', () => {
  const told = (detectionMinutes: number, ...profiles: object[]) =>
    tailUnreached.described!({
      system: {
        monitor: { method: 'shunt', tailPercent: 4, chargedV: 28.3, detectionMinutes },
        sources: profiles.map((profile) => ({ profile })),
      },
    } as unknown as Judged)[0]!;
  const set = { absorptionMinutes: 30, floatV: 26.8 };
  expect(told(240, set).decibans).toBeGreaterThan(13);
  expect(told(240, set).text).toMatch(/no charger is set to absorb for more than 30 min/);
  // Another charger stays there for hours, floats above, or nobody said for how long.
  for (const other of [{ ...set, absorptionMinutes: 200 }, { ...set, floatV: 28.4 }, { floatV: 26.8 }])
    expect(told(240, set, other).decibans).toBeLessThan(6);
  expect(told(40, set).decibans).toBeLessThan(6);
  expect(told(3, set).decibans).toBeLessThan(0);
  // Nor do charges whose short absorption a coarse log did not show speak against it.
  const missedVolts = (detectionMinutes: number) => {
    const judged = seen(true, true, true);
    judged.counting!.missed.forEach((one) => (one.reason = 'voltage'));
    const system = {
      monitor: { method: 'shunt', chargedV: 28.3, detectionMinutes },
      sources: [{ profile: set }],
    };
    return tailUnreached.weigh!({ ...judged, system } as unknown as Judged).map((one) => one.decibans);
  };
  expect(missedVolts(240)).toEqual([]);
  expect(missedVolts(3)[0]).toBeLessThan(0);
});

test('a reading that was full after a gap may have counted its way there: it was not seen to be set', () => {
  const at = (...afterGap: boolean[]) =>
    neverStarted.weigh!({
      system: { monitor: { method: 'shunt' } },
      counting: {
        logged: { from: 0, to: 1 },
        fulls: [],
        off: null,
        syncs: afterGap.map((one) => ({ at: 1, from: 92, to: 100, afterGap: one })),
        hourly: { reported: [] },
      },
    } as unknown as Judged).find((one) => one.group === 'syncs')!.decibans;
  expect(at(true)).toBeGreaterThan(0);
  expect(at()).toBe(at(true));
  expect(at(true, false)).toBeLessThan(-10);
});

test('a charged voltage above what each charger is set to is never reached: plainly so of lithium, which nothing raises', () => {
  const told = (chargedV: number, chemistry: 'lfp' | 'agm') =>
    chargedVoltageUnreached.described!({
      system: {
        bank: { chemistry, cellsInSeries: chemistry === 'lfp' ? 16 : 24 },
        monitor: { method: 'shunt', chargedV },
        sources: [{ profile: { absorptionV: 57.6 } }],
      },
    } as unknown as Judged).reduce((sum, one) => sum + one.decibans, 0);
  expect(told(58.4, 'lfp')).toBeGreaterThan(13);
  expect(told(57.7, 'lfp')).toBeLessThan(10);
  expect(told(58.4, 'agm')).toBeLessThan(10);
  expect(told(56.8, 'lfp')).toBeLessThan(0);
});
