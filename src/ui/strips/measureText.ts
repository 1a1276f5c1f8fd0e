/** What the caliper shows, as rows of a name and a figure. */

import type { Measured } from '@/core/log/measure';
import { ampHours, amps, duration, volts, withSign } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { deviceName } from '@/core/system/sourceName';

export interface Row {
  name: string;
  value: string;
}

const kilo = (wattHours: number): string =>
  Math.abs(wattHours) < 1000 ? `${wattHours.toFixed(0)} Wh` : `${(wattHours / 1000).toFixed(2)} kWh`;
const known = (value: number, text: (value: number) => string): string =>
  Number.isFinite(value) ? text(value) : '–';

export function measureRows(
  { from, to, battery, volts: ends, percents, sources, spread }: Measured,
  system: System,
): Row[] {
  const nameOf = (id: string) => deviceName(system, id);
  const rows: Row[] = [{ name: 'Time', value: duration(to - from) }];
  if (battery) {
    const silent = (to - from) / 3_600_000 - battery.hours;
    rows.push(
      {
        name: 'Into the battery',
        value: `${ampHours(battery.ampHoursIn)}, ${known(battery.wattHoursIn, kilo)}`,
      },
      { name: 'Out of it', value: `${ampHours(battery.ampHoursOut)}, ${known(battery.wattHoursOut, kilo)}` },
      { name: 'Net', value: withSign(ampHours(battery.ampHoursIn - battery.ampHoursOut)) },
      { name: 'Mean current', value: known(battery.meanAmps, amps) },
      { name: 'Peak current', value: known(battery.peakAmps, amps) },
      ...(silent > 0.05
        ? [{ name: 'Not counted, the log is silent', value: duration(silent * 3_600_000) }]
        : []),
    );
  }
  rows.push({
    name: 'Battery voltage',
    value: `${known(ends.from, volts)} to ${known(ends.to, volts)} (${known(ends.to - ends.from, (one) => withSign(volts(one)))})`,
  });
  for (const one of percents)
    rows.push({
      name: `Percentage, ${nameOf(one.device)}`,
      value: `${known(one.from, (value) => value.toFixed(1))} to ${known(one.to, (value) => value.toFixed(1))} % (${known(one.to - one.from, (value) => withSign(value.toFixed(1)))})`,
    });
  for (const one of sources)
    rows.push({ name: `Given, ${nameOf(one.device)}`, value: ampHours(one.ampHours) });
  if (spread)
    rows.push({
      name: 'Cells apart',
      value: `${known(spread.from, (one) => `${Math.round(1000 * one)}`)} to ${known(spread.to, (one) => `${Math.round(1000 * one)}`)} mV`,
    });
  return rows;
}
