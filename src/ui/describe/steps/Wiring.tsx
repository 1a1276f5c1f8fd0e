'use client';
/** The wiring walk: a schematic that lays itself out, the conductors in order, and what follows for the percentages. */

import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useController, useFieldArray } from 'react-hook-form';
import { amps } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { clampBalance, coverageOf, layWiring, trustedPercentages } from '@/core/system/wiring';
import { ChoiceField } from '../fields/ChoiceField';
import { useTyped } from '../fields/context';
import { inputClass } from '../fields/FieldFrame';
import { JobNumberField } from '../fields/JobNumberField';
import { NumberInput } from '../fields/NumberField';
import { useToast } from '@/ui/primitives/Toasts';
import { Schematic } from './Schematic';
import { buttonClass, Fields, mainButtonClass, Section } from './Section';

interface Stop {
  /** Node of the schematic. */
  node: string;
  title: string;
  device?: { list: 'sources' | 'loads'; index: number; id: string; name: string };
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
          <BatteryStop />
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

const COUNTED = [
  { word: 'yes', value: true, text: 'to the busbar, beyond the sensor: counted' },
  { word: 'no', value: false, text: 'to the battery post, or past the sensor: not counted' },
  { word: 'unknown', value: null, text: 'not known yet' },
] as const;

function DeviceStop({ list, index, id, name }: NonNullable<Stop['device']>) {
  const { field } = useController({ name: `system.${list}.${index}.counted` });
  return (
    <div className="grid gap-4 md:grid-cols-2">
      <fieldset>
        <legend className="text-sm font-semibold">Where does the negative of {name} go?</legend>
        {COUNTED.map((one) => (
          <label key={one.word} className="mt-1 flex min-h-7 items-center gap-2">
            <input
              type="radio"
              name={`counted-${id}`}
              className="size-4 accent-(--accent)"
              checked={(field.value ?? null) === one.value}
              onChange={() => field.onChange(one.value)}
            />
            {one.text}
          </label>
        ))}
      </fieldset>
      <JobNumberField
        path={`walk.clampA.${id}`}
        label="Clamp meter"
        unit="A"
        where={list === 'sources' ? 'Positive while it charges.' : 'Positive while it draws.'}
      />
    </div>
  );
}

function SensorStop({ hall }: { hall: boolean }) {
  return (
    <Fields>
      <ChoiceField
        name="job.walk.chargingReads"
        label="While a charger runs the monitor shows"
        where={
          hall
            ? 'A clip-on sensor has a direction: charging must read positive.'
            : 'Charging must read positive.'
        }
        options={[
          { id: 'positive', name: 'a positive current' },
          { id: 'negative', name: 'a negative current' },
        ]}
      />
      <ChoiceField
        name="job.walk.senseLead"
        label="The voltage-sense lead goes"
        where="Straight to the battery positive, through its fuse."
        options={[
          { id: 'battery-positive', name: 'straight to the battery positive' },
          { id: 'elsewhere', name: 'somewhere else' },
        ]}
      />
    </Fields>
  );
}

function BatteryStop() {
  const { fields, append, remove, insert } = useFieldArray({ name: 'job.walk.others', keyName: 'key' });
  const tell = useToast();
  return (
    <>
      <p className="text-ink-soft mb-2 text-sm">
        Exactly one conductor runs from the battery negative, to the battery side of the shunt. Every source
        and every load is on the other side.
      </p>
      <div className="grid gap-4 md:grid-cols-2">
        <JobNumberField
          path="walk.clampA.battery"
          label="Clamp meter on the battery’s conductor"
          unit="A"
          where="Positive while the battery is charged."
        />
        <div>
          <p className="text-sm font-semibold">Anything else on the posts?</p>
          {fields.map((one, i) => (
            <OtherConductor
              key={one.key}
              index={i}
              onRemove={() => {
                remove(i);
                tell('Conductor removed.', () => insert(i, { ...one, key: undefined }));
              }}
            />
          ))}
          <button
            type="button"
            className={`${buttonClass} mt-1`}
            onClick={() => append({ what: 'A conductor nobody knows' })}
          >
            Add what is there
          </button>
        </div>
      </div>
    </>
  );
}

function OtherConductor({ index, onRemove }: { index: number; onRemove(): void }) {
  const {
    field: { ref, ...what },
  } = useController({ name: `job.walk.others.${index}.what` });
  const { field: current } = useController({ name: `job.walk.others.${index}.amps` });
  return (
    <div className="mt-1 flex items-center gap-1.5">
      <input
        ref={ref}
        aria-label="What it is"
        className={`${inputClass} min-w-0 flex-1`}
        value={(what.value as string | undefined) ?? ''}
        onChange={what.onChange}
        onBlur={what.onBlur}
      />
      <span className="w-20">
        <NumberInput
          value={current.value as number | undefined}
          onChange={current.onChange}
          onBlur={current.onBlur}
          label="Its current, A"
        />
      </span>
      <span className="text-ink-soft text-sm">A</span>
      <button type="button" aria-label="Remove this conductor" className={buttonClass} onClick={onRemove}>
        <Trash2 className="size-3.5" aria-hidden />
      </button>
    </div>
  );
}

function Joints() {
  const { fields, append, remove, insert } = useFieldArray({ name: 'job.walk.joints', keyName: 'key' });
  const tell = useToast();
  return (
    <Section
      title="Joints"
      about="Millivolts from post to lug and over each fuse, under a steady current. A good joint is well under 1 mΩ; one that loses more than 10 W is a hazard."
      aside={
        <button
          type="button"
          className={buttonClass}
          onClick={() => append({ what: `Joint ${fields.length + 1}` })}
        >
          Add a joint
        </button>
      }
    >
      {fields.map((one, i) => (
        <Joint
          key={one.key}
          index={i}
          onRemove={() => {
            remove(i);
            tell('Joint removed.', () => insert(i, { ...one, key: undefined }));
          }}
        />
      ))}
    </Section>
  );
}

function Joint({ index, onRemove }: { index: number; onRemove(): void }) {
  const at = `job.walk.joints.${index}`;
  const {
    field: { ref, ...what },
  } = useController({ name: `${at}.what` });
  const { field: millivolts } = useController({ name: `${at}.millivolts` });
  const { field: current } = useController({ name: `${at}.amps` });
  const known =
    typeof millivolts.value === 'number' && typeof current.value === 'number' && current.value > 0;
  return (
    <div className="mb-1 flex flex-wrap items-center gap-1.5">
      <input
        ref={ref}
        aria-label="Which joint"
        className={`${inputClass} min-w-32 flex-1`}
        value={(what.value as string | undefined) ?? ''}
        onChange={what.onChange}
        onBlur={what.onBlur}
      />
      <span className="w-20">
        <NumberInput
          value={millivolts.value as number | undefined}
          onChange={millivolts.onChange}
          onBlur={millivolts.onBlur}
          label="Drop, mV"
        />
      </span>
      <span className="text-ink-soft text-sm">mV at</span>
      <span className="w-20">
        <NumberInput
          value={current.value as number | undefined}
          onChange={current.onChange}
          onBlur={current.onBlur}
          label="Current, A"
        />
      </span>
      <span className="text-ink-soft w-24 text-sm">
        A{known ? ` = ${((millivolts.value as number) / (current.value as number)).toFixed(2)} mΩ` : ''}
      </span>
      <button type="button" aria-label="Remove this joint" className={buttonClass} onClick={onRemove}>
        <Trash2 className="size-3.5" aria-hidden />
      </button>
    </div>
  );
}
