import { takeInLog } from '../log/takeIn';
import { keptDemo } from '../../../tests/support/demos';
import { devicesOf } from '../system/schema';
import { diagnose } from './diagnose';

function diagnoseDemo(slug: string, only?: string) {
  const { job, system, logs } = keptDemo(slug);
  const series = logs
    .filter((log) => !only || log.device === only)
    .map(({ device, text }) => {
      const { kind } = devicesOf(system).find((one) => one.id === device)!;
      return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
    });
  return diagnose({ job, system, series });
}

test.each([undefined, 'solar', 'monitor'])('the tide gauge: absorption is too short (log: %s)', (only) => {
  const { findings } = diagnoseDemo('tide-gauge', only);
  expect(findings[0]!.cause).toBe('absorption-too-short');
  expect(['likely', 'strong']).toContain(findings[0]!.standing);
  for (const other of findings.slice(1))
    expect(['unlikely', 'excluded', 'cannot-tell']).toContain(other.standing);
});

test.each([undefined, 'mains', 'monitor'])('the harbour office: nothing is found (log: %s)', (only) => {
  const { findings, charges } = diagnoseDemo('harbour-office', only);
  expect(charges.length).toBeGreaterThan(20);
  for (const finding of findings) expect(['unlikely', 'excluded', 'cannot-tell']).toContain(finding.standing);
});

test('the same input gives the same diagnosis, byte for byte', () => {
  expect(JSON.stringify(diagnoseDemo('tide-gauge'))).toBe(JSON.stringify(diagnoseDemo('tide-gauge')));
});
