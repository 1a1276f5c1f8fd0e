import { diagnose } from '@/core/diagnosis/diagnose';
import { takeInLog } from '@/core/log/takeIn';
import { demoJob } from '@/core/simulate/demo';
import { reportOf } from './sections';

const { job, system, logs } = demoJob('tide-gauge');
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
