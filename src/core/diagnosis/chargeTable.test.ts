/** What the table and the card of a charge say, of the demo systems and of drawn charges. */

import { keptDemo } from '../../../tests/support/demos';
import { takeInLog } from '../log/takeIn';
import { devicesOf } from '../system/schema';
import { chargeCard, chargeRows, lastFullText } from './chargeTable';
import { diagnose } from './diagnose';
import type { DiagnosisCharge, DiagnosisStage } from './result';

const { system, job, logs } = keptDemo('tide-gauge');
const series = logs.map(({ device, text }) => {
  const { kind } = devicesOf(system).find((one) => one.id === device)!;
  return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
});
const { charges, charging } = diagnose({ job, system, series });
const rows = chargeRows(charges, system);

test('the tide gauge: every charge has a row, and the absorption of its story ends early, by the clock', () => {
  expect(rows).toHaveLength(charges.length);
  for (const [i, row] of rows.entries()) {
    const whole = (Date.parse(charges[i]!.to) - Date.parse(charges[i]!.from)) / 60_000;
    const stages = Object.values(row.minutes).reduce((sum, one) => sum + one, 0);
    expect(stages).toBeLessThanOrEqual(whole + 1);
  }
  const absorbed = rows.filter((one) => one.endedBy === 'timer');
  expect(absorbed.length).toBeGreaterThan(5);
  const card = chargeCard(charges[absorbed[0]!.index]!, system);
  expect(card.map((one) => one.what)).toEqual(['Bulk', 'Absorption voltage', 'Absorption', 'Float', 'Full']);
  expect(card.find((one) => one.what === 'Absorption')).toMatchObject({
    expected: expect.stringMatching(/^Until the current is down to .* A, 2\.0 % of capacity$/) as string,
    observed: expect.stringMatching(/^\d+ min.*, to .* A \(.* %\), ended by: clock$/) as string,
    verdict: 'the battery still took current',
  });
  expect(card.find((one) => one.what === 'Absorption voltage')!.verdict).toBeNull();
  expect(charging.lastFull).toBeNull();
});

test('what absorption is short of has a median within its band', () => {
  const { missing } = charging.sources.find((one) => one.source === 'solar')!;
  expect(missing!.charges).toBeGreaterThan(5);
  expect(missing!.minutes).toBeGreaterThanOrEqual(missing!.minutesBand.min);
  expect(missing!.minutes).toBeLessThanOrEqual(missing!.minutesBand.max);
  expect(missing!.ampHours).toBeGreaterThan(0);
});

const blocks = system.bank.cellsInSeries! / 6;
const stage = (over: Partial<DiagnosisStage>): DiagnosisStage => ({
  stage: 'absorption',
  from: '2026-09-21T08:00:00Z',
  to: '2026-09-21T10:00:00Z',
  volts: 14.4 * blocks,
  endAmps: 1,
  ampHours: 20,
  endedBy: 'tail',
  heldMinutes: 120,
  dips: 0,
  celsius: 25,
  ...over,
});
const charge = (over: Partial<DiagnosisCharge>): DiagnosisCharge => ({
  from: '2026-09-21T08:00:00Z',
  to: '2026-09-21T10:00:00Z',
  source: 'solar',
  stages: [stage({})],
  ampHours: 20,
  full: true,
  ...over,
});
const verdicts = (one: DiagnosisCharge) =>
  chargeCard(one, system).map(({ what, verdict }) => [what, verdict]);

test('a good charge has nothing against it; a plateau is judged at its temperature', () => {
  expect(verdicts(charge({})).filter(([, verdict]) => verdict !== null)).toEqual([]);
  const cold = charge({ stages: [stage({ celsius: 0 })] });
  expect(verdicts(cold)).toContainEqual(['Absorption voltage', expect.stringMatching(/V too low$/)]);
  const high = charge({ stages: [stage({ volts: 15.2 * blocks })] });
  expect(verdicts(high)).toContainEqual(['Absorption voltage', expect.stringMatching(/V too high$/)]);
});

test('a charge that never got past bulk says so, and so does a battery whose basics are not known', () => {
  const short = charge({ stages: [stage({ stage: 'bulk', endedBy: 'source-lost' })], full: false });
  expect(verdicts(short)).toEqual([
    ['Bulk', 'the charge voltage was not reached'],
    ['Full', null],
  ]);
  expect(chargeRows([short], system)[0]).toMatchObject({ endAmps: null, endedBy: null, full: false });
  expect(chargeCard(short, { ...system, bank: {} as never })).toEqual([]);
});

test('when it was last full, in words', () => {
  const clock = () => '12 Sep 14:05';
  const end = Date.parse('2026-09-21T08:00:00Z');
  expect(lastFullText(null, end, clock)).toBe('In this log the battery never got truly full.');
  expect(lastFullText('2026-09-20T20:00:00Z', end, clock)).toContain('12 h before the end of the log');
  expect(lastFullText('2026-09-12T08:00:00Z', end, clock)).toContain('9 days before the end of the log');
});
