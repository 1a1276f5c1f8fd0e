/** One span laid over another: by the clock, by the charge, and in figures. */

import type { Measured } from '@/core/log/measure';
import type { DiagnosisCharge } from '@/core/diagnosis/result';
import { DAY, HOUR } from '@/core/quantity/span';
import { demoSystem } from '@/core/simulate/demo';
import { comparedRows, daysBefore, movedBy, offsetText, offsetToCharge, offsetToDay } from './beside';
import { addressOfSpan, besideOfAddress } from './viewAddress';

const ZONE = 'Europe/Rome';
const { system } = demoSystem('fog-horn');
const at = (iso: string) => Date.parse(iso);

const charge = (from: string, to: string, source: string | null = 'sun'): DiagnosisCharge => ({
  from,
  to,
  source,
  stages: [
    {
      stage: 'bulk',
      from,
      to,
      volts: 13,
      endAmps: 4,
      ampHours: 20,
      endedBy: 'unknown',
      heldMinutes: 0,
      dips: 0,
      celsius: null,
    },
  ],
  ampHours: 20,
  full: false,
});

describe('by the clock', () => {
  test('a day before is the same hour, also where the clocks were changed between', () => {
    expect(daysBefore(at('2026-09-22T10:00Z'), 1, ZONE)).toBe(DAY);
    // On 25 October 2026 clocks went back an hour.
    expect(daysBefore(at('2026-10-25T10:00Z'), 1, ZONE)).toBe(DAY + HOUR);
    expect(daysBefore(at('2026-09-22T10:00Z'), 7, ZONE)).toBe(7 * DAY);
  });
  test('the same hours of a day that is named', () => {
    expect(offsetToDay(at('2026-09-22T10:00Z'), '2026-09-15', ZONE)).toBe(7 * DAY);
    expect(offsetToDay(at('2026-09-22T10:00Z'), '2026-09-24', ZONE)).toBe(-2 * DAY);
    expect(offsetToDay(at('2026-09-22T10:00Z'), 'no day', ZONE)).toBeNull();
  });
  test('in words', () => {
    expect([DAY, 7 * DAY, 3 * DAY, -2 * DAY, DAY + HOUR].map(offsetText)).toEqual([
      'a day earlier',
      'a week earlier',
      '3 days earlier',
      '2 days later',
      'a day earlier',
    ]);
    expect([5.5 * HOUR, DAY + 5 * HOUR].map(offsetText)).toEqual(['5 h 30 min earlier', '29 h earlier']);
  });
});

describe('by the charge', () => {
  const charges = [
    charge('2026-09-20T07:00:00Z', '2026-09-20T15:00:00Z'),
    charge('2026-09-21T08:30:00Z', '2026-09-21T15:00:00Z'),
    charge('2026-09-21T20:00:00Z', '2026-09-21T21:00:00Z', 'mains'),
    charge('2026-09-22T06:00:00Z', '2026-09-22T14:00:00Z'),
  ];
  const view = { from: at('2026-09-21T06:00Z'), to: at('2026-09-21T18:00Z') };
  test('starts lie on each other, of the same source', () => {
    expect(offsetToCharge(charges, view, -1)).toEqual({
      offset: DAY + 1.5 * HOUR,
      to: at('2026-09-20T07:00Z'),
    });
    expect(offsetToCharge(charges, view, 1)!.to).toBe(at('2026-09-22T06:00Z'));
  });
  test('where there is none in view, or none before, there is nothing to lay over', () => {
    expect(offsetToCharge(charges, { from: 0, to: DAY }, -1)).toBeNull();
    const first = { from: at('2026-09-20T06:00Z'), to: at('2026-09-20T18:00Z') };
    expect(offsetToCharge(charges, first, -1)).toBeNull();
  });
  test('stages of the other are drawn where they are laid', () => {
    const [moved] = movedBy(charges.slice(0, 1), DAY + 1.5 * HOUR);
    expect(moved!.from).toBe('2026-09-21T08:30:00.000Z');
    expect(moved!.stages[0]!.to).toBe('2026-09-21T16:30:00.000Z');
  });
});

test('what is laid over stands in the address', () => {
  const span = { from: at('2026-09-21T06:00Z'), to: at('2026-09-21T18:00Z') };
  const address = addressOfSpan('http://here/jobs/1/charging?view=strips', span, DAY);
  expect(besideOfAddress(new URL(address, 'http://here').search)).toBe(DAY);
  expect(besideOfAddress(addressOfSpan(`http://here${address}`, span, null))).toBeNull();
  expect(besideOfAddress('?beside=soon')).toBeNull();
});

test('figures side by side; what only the one has stands alone', () => {
  const now: Measured = {
    from: 0,
    to: HOUR,
    battery: {
      ampHoursIn: 12,
      ampHoursOut: 3,
      wattHoursIn: 300,
      wattHoursOut: NaN,
      meanAmps: 4,
      peakAmps: -20,
      hours: 1,
    },
    volts: { from: 50, to: 51.5 },
    percents: [{ device: 'monitor', from: 60, to: 71 }],
    sources: [],
    spread: { from: 0.02, to: 0.045 },
  };
  const then: Measured = { ...now, battery: { ...now.battery!, ampHoursIn: 15.5 }, percents: [] };
  const rows = Object.fromEntries(comparedRows(now, then, system).map((one) => [one.name, one]));
  expect(rows['Into the battery']).toMatchObject({ now: '12 Ah', then: '16 Ah', difference: '−3.5 Ah' });
  expect(rows.Net!.difference).toBe('−3.5 Ah');
  expect(rows['Energy out']).toMatchObject({ now: '–', then: '–', difference: '–' });
  expect(rows['Percentage at the end, Monitor']).toMatchObject({ now: '71.0 %', then: '–', difference: '–' });
  expect(rows['Cells apart at the end']).toMatchObject({ now: '45 mV', difference: '+0 mV' });
  expect(rows['Peak current']!.now).toBe('−20.0 A');
});
