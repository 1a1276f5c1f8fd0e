import { diagnose } from '@/core/diagnosis/diagnose';
import { takeInLog } from '@/core/log/takeIn';
import { demoSystem } from '@/core/simulate/demo';
import { keptDemo } from '../../../tests/support/demos';
import { reportOf } from './sections';

const { job, system, logs } = keptDemo('tide-gauge');
const log = logs.find((one) => one.device === 'monitor')!;
const { series } = takeInLog(new TextEncoder().encode(log.text), 'monitor', { device: 'monitor' }, 'UTC');

test('a report says complaint, findings with evidence, what was dismissed, and every charge', () => {
  const diagnosis = diagnose({ job, system, series: [series] });
  const report = reportOf(job, system, diagnosis);
  expect(report.facts).toContainEqual(['Battery', 'AGM, 6 cells, 160 Ah']);
  expect(report.findings).toHaveLength(1);
  expect(report.findings[0]!.evidence.length).toBeGreaterThanOrEqual(3);
  expect(report.dismissed).toMatch(/^Weighed and found unlikely or excluded: .*charge voltage is too low/);
  const [heading, ...rows] = report.charges;
  expect(rows).toHaveLength(diagnosis.charges.length);
  for (const row of rows) expect(row).toHaveLength(heading!.length);
  expect(report.cautions.join(' ')).toMatch(/ventilate.*insulated tools.*Local codes/);
});

test('without logs it says so instead of an empty table of findings', () => {
  const report = reportOf(job, system, diagnose({ job, system, series: [] }));
  expect(report.findings).toEqual([]);
  expect(report.facts).toContainEqual(['Charges seen', 'none']);
  expect(report.charges).toHaveLength(1);
});

test('what was looked at is in it with notes and photos, what was not is left out; hazards and settings come with what to do', () => {
  const { job: coldJob, system: coldRoom } = demoSystem('vaccine-cold-room');
  const looked = {
    ...coldJob,
    checks: {
      joints: { answer: 'found' as const, note: 'green crust' },
      tools: { answer: 'fine' as const },
      mains: { answer: 'not-checked' as const, note: 'locked' },
    },
  };
  const report = reportOf(looked, coldRoom, diagnose({ job: looked, system: coldRoom, series: [] }), {
    photos: [
      { id: 'p1', item: 'joints' },
      { id: 'p2', item: 'cables' },
    ],
    changes: [
      {
        on: '2026-10-23',
        path: 'loads.0.cutoffPercent',
        label: 'Cold room inverter: Cuts off at',
        unit: '%',
        before: 20,
        after: null,
        why: 'Drifts.',
      },
    ],
  });
  expect(report.checks).toEqual([
    { text: 'Insulated tools, no rings, no watch, no necklace', answer: 'fine', note: '', photos: [] },
    { text: 'Connections are tight and clean', answer: 'found', note: 'green crust', photos: ['p1'] },
    { text: 'Cable sizes and fuses fit the currents', answer: 'not checked', note: '', photos: ['p2'] },
  ]);
  expect(report.hazards.join(' ')).toMatch(/Second charger is not counted by the monitor/);
  expect(report.settings.map((one) => one.text).join(' ')).toMatch(/Second charger floats at 27\.60 V/);
  expect(report.changed).toEqual([
    ['23 Oct 2026', 'Cold room inverter: Cuts off at', '20 %', 'not known', 'Drifts.'],
  ]);
});
