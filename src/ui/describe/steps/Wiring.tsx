'use client';
/** The wiring walk: a schematic that lays itself out, the conductors in order, and what follows for the percentages. */

import { useMemo, useState } from 'react';
import { amps } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { clampBalance, coverageOf, layWiring, trustedPercentages } from '@/core/system/wiring';
import { useTyped } from '../fields/context';
import { JobNumberField } from '../fields/JobNumberField';
import { Schematic } from './Schematic';
import { BatteryStop, DeviceStop, Joints, SensorStop, type WalkedDevice } from './WalkStops';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { Fields, Section } from './Section';

interface Stop {
  /** Node of the schematic. */
  node: string;
  title: string;
  device?: WalkedDevice;
}

/** The stops of the walk: the battery, the sensor, then each source and load. */
function stopsOf(system: System): Stop[] {
  const device = (list: 'sources' | 'loads') =>
    system[list].map(({ id, name }, index) => ({ node: id, title: name, device: { list, index, id, name } }));
  return [
    { node: 'battery', title: 'The battery posts' },
    ...(system.monitor ? [{ node: 'sensor', title: 'The monitor’s sensor' }] : []),
    ...device('sources'),
    ...device('loads'),
  ];
}

export function Wiring() {
  const { system, job } = useTyped();
  const layout = useMemo(() => layWiring(system), [system]);
  const stops = stopsOf(system);
  const [at, setAt] = useState(0);
  const here = Math.min(at, stops.length - 1);
  const stop = stops[here]!;
  const go = (id: string) => {
    const found = stops.findIndex(
      (one) => one.node === id || (one.node === 'battery' && ['upper', 'lower', 'bus'].includes(id)),
    );
    if (found >= 0) setAt(found);
  };
  const balance = clampBalance(system, job.walk);
  const coverage = coverageOf(system, job.walk);
  return (
    <form noValidate onSubmit={(event) => event.preventDefault()}>
      <Schematic layout={layout} at={stop.node} onGo={go} />
      <Section
        title={`${here + 1} of ${stops.length}: ${stop.title}`}
        aside={
          <div className="flex gap-2">
            <button
              type="button"
              className={buttonClass}
              disabled={here === 0}
              onClick={() => setAt(here - 1)}
            >
              Back
            </button>
            <button
              type="button"
              className={mainButtonClass}
              disabled={here === stops.length - 1}
              onClick={() => setAt(here + 1)}
            >
              Next conductor
            </button>
          </div>
        }
      >
        {stop.device ? (
          <DeviceStop key={stop.device.id} {...stop.device} />
        ) : stop.node === 'sensor' ? (
          <SensorStop hall={system.monitor?.method === 'hall'} />
        ) : (
          <BatteryStop hall={system.monitor?.method === 'hall'} />
        )}
      </Section>

      <Section title="What the monitor counts">
        {coverage.length === 0 ? (
          <p className="text-ink-soft text-sm">Describe sources and loads first, under Take in.</p>
        ) : (
          <table className="w-full text-sm">
            <thead>
              <tr className="border-rule-strong border-b text-left">
                <th className="py-1 font-semibold">Device</th>
                <th className="font-semibold">Counted</th>
                <th className="text-right font-semibold">Clamp meter</th>
              </tr>
            </thead>
            <tbody>
              {coverage.map((row) => (
                <tr key={row.id} className="border-rule border-b">
                  <td className="py-1">
                    {row.name} <span className="text-ink-soft text-xs">{row.kind}</span>
                  </td>
                  <td
                    className={
                      row.counted === false
                        ? 'font-semibold'
                        : row.counted === null
                          ? 'text-ink-soft italic'
                          : ''
                    }
                  >
                    {row.counted === null ? 'not known' : row.counted ? 'counted' : 'not counted'}
                  </td>
                  <td className="text-right font-mono">{row.clampA === null ? '–' : amps(row.clampA)}</td>
                </tr>
              ))}
              <tr>
                <td className="py-1">Into the battery</td>
                <td />
                <td className="text-right font-mono">
                  {job.walk?.clampA?.battery === undefined ? '–' : amps(job.walk.clampA.battery)}
                </td>
              </tr>
            </tbody>
          </table>
        )}
        <p className="mt-2 text-sm" role="status">
          {balance
            ? balance.text
            : 'Sources minus loads must equal the battery’s current: with a clamp reading on each conductor, all taken while the same loads run, the remainder is shown here.'}
        </p>
      </Section>

      <Section
        title="Whose percentage can be trusted"
        about="The usual order is the BMS, then a shunt, then an inverter’s own count."
      >
        <ul className="text-sm">
          {trustedPercentages(system).map((one) => (
            <li key={one.who} className="border-rule flex gap-3 border-t py-1 first:border-0">
              <span className="w-16 shrink-0 font-semibold">{one.who}</span>
              <span className="w-16 shrink-0">{one.verdict}</span>
              <span>{one.text}</span>
            </li>
          ))}
          {!system.monitor && !system.bms && (
            <li className="text-ink-soft">Nothing here makes a percentage.</li>
          )}
        </ul>
      </Section>

      <Joints />
      <Section title="Halves of the bank" about="Two blocks in series: the halves agree within about 0.1 V.">
        <Fields>
          <JobNumberField
            path="walk.halves.lowerV"
            label="Lower half"
            unit="V"
            where="From the negative post to the middle."
          />
          <JobNumberField
            path="walk.halves.upperV"
            label="Upper half"
            unit="V"
            where="From the middle to the positive post."
          />
        </Fields>
      </Section>
    </form>
  );
}
