import { diagnose } from './diagnose';
import { takeInLog } from '../log/takeIn';
import { keptDemo } from '../../../tests/support/demos';
import { devicesOf } from '../system/schema';

const { job, system, logs } = keptDemo('tide-gauge');
const series = logs.map(({ device, text }) => {
  const { kind } = devicesOf(system).find((one) => one.id === device)!;
  return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
});

test('logs that can be believed bring no caveat', () => {
  const { trust, findings } = diagnose({ job, system, series });
  expect(trust).toEqual([]);
  expect(findings.flatMap((one) => one.caveats)).toEqual([]);
});

test('a finding that leans on logs whose clocks disagree says so, and so does the list that comes first', () => {
  const apart = series.map((one) =>
    one.device === 'solar' ? { ...one, time: one.time.map((t) => t + 3_600_000) } : one,
  );
  const { trust, findings } = diagnose({ job, system, series: apart });
  expect(trust.map(({ code, devices }) => [code, ...devices])).toEqual([
    ['clock-offset', 'monitor', 'solar'],
  ]);
  const finding = findings.find((one) => one.cause === 'absorption-too-short')!;
  expect(finding.caveats).toEqual([trust[0]!.text]);
});
