/** The stops of the wiring walk: what is asked at the battery, at the sensor, and at each device; and the joints. */

import { Trash2 } from 'lucide-react';
import { useController, useFieldArray, useWatch } from 'react-hook-form';
import { useToast } from '@/ui/primitives/Toasts';
import { ChoiceField } from '../fields/ChoiceField';
import { inputClass } from '../fields/FieldFrame';
import { JobNumberField } from '../fields/JobNumberField';
import { NumberInput } from '../fields/NumberField';
import { buttonClass } from '@/ui/primitives/buttons';
import { Fields, Section } from './Section';

export interface WalkedDevice {
  list: 'sources' | 'loads';
  index: number;
  id: string;
  name: string;
}

const COUNTED = [
  { word: 'yes', value: true, text: 'to the busbar, beyond the sensor: counted' },
  { word: 'no', value: false, text: 'to the battery, past the shunt or the sensor: not counted' },
  { word: 'unknown', value: null, text: 'not known yet' },
] as const;

export function DeviceStop({ list, index, id, name }: WalkedDevice) {
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

export function SensorStop({ hall }: { hall: boolean }) {
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
          { id: 'fuse-box', name: 'to a fuse box that can be switched off' },
          { id: 'elsewhere', name: 'somewhere else' },
        ]}
      />
    </Fields>
  );
}

export function BatteryStop({ hall }: { hall: boolean }) {
  const { fields, append, remove, insert } = useFieldArray({ name: 'job.walk.others', keyName: 'key' });
  const tell = useToast();
  return (
    <>
      <p className="text-ink-soft mb-2 text-sm">
        {hall
          ? 'Everything that charges or draws goes through the clip-on sensor, on one conductor, once.'
          : 'Exactly one conductor runs from the battery negative, to the battery side of the shunt. Every source and every load is on the other side.'}
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
            onClick={() => append({ what: 'Unknown conductor' })}
          >
            Add what is there
          </button>
        </div>
      </div>
    </>
  );
}

function OtherConductor({ index, onRemove }: { index: number; onRemove(): void }) {
  const at = `job.walk.others.${index}`;
  return (
    <div className="mt-1 flex items-center gap-1.5">
      <TextCell name={`${at}.what`} label="What it is" />
      <NumberCell name={`${at}.amps`} label="Its current, A" />
      <span className="text-ink-soft text-sm">A</span>
      <RemoveButton label="Remove this conductor" onRemove={onRemove} />
    </div>
  );
}

export function Joints() {
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
        <div key={one.key} className="mb-1 flex flex-wrap items-center gap-1.5">
          <TextCell name={`job.walk.joints.${i}.what`} label="Which joint" />
          <NumberCell name={`job.walk.joints.${i}.millivolts`} label="Drop, mV" />
          <span className="text-ink-soft text-sm">mV at</span>
          <NumberCell name={`job.walk.joints.${i}.amps`} label="Current, A" />
          <Milliohms index={i} />
          <RemoveButton
            label="Remove this joint"
            onRemove={() => {
              remove(i);
              tell('Joint removed.', () => insert(i, { ...one, key: undefined }));
            }}
          />
        </div>
      ))}
    </Section>
  );
}

function Milliohms({ index }: { index: number }) {
  const { millivolts, amps } = (useWatch({ name: `job.walk.joints.${index}` }) ?? {}) as {
    millivolts?: unknown;
    amps?: unknown;
  };
  const known = typeof millivolts === 'number' && typeof amps === 'number' && amps > 0;
  return (
    <span className="text-ink-soft w-24 text-sm">
      A{known ? ` = ${(millivolts / amps).toFixed(2)} mΩ` : ''}
    </span>
  );
}

function TextCell({ name, label }: { name: string; label: string }) {
  const {
    field: { ref, value, onChange, onBlur },
  } = useController({ name });
  return (
    <input
      ref={ref}
      aria-label={label}
      className={`${inputClass} min-w-32 flex-1`}
      value={(value as string | undefined) ?? ''}
      onChange={onChange}
      onBlur={onBlur}
    />
  );
}

function NumberCell({ name, label }: { name: string; label: string }) {
  const {
    field: { value, onChange, onBlur },
  } = useController({ name });
  return (
    <span className="w-20">
      <NumberInput value={value as number | undefined} onChange={onChange} onBlur={onBlur} label={label} />
    </span>
  );
}

const RemoveButton = ({ label, onRemove }: { label: string; onRemove(): void }) => (
  <button type="button" aria-label={label} className={buttonClass} onClick={onRemove}>
    <Trash2 className="size-3.5" aria-hidden />
  </button>
);
