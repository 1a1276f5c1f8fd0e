'use client';
/** Sources, loads, batteries in parallel: lists that grow and shrink; what is removed can be put back. */

import { Trash2 } from 'lucide-react';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import {
  KIND_OPTIONS,
  LINK_OPTIONS,
  LOAD_KIND_OPTIONS,
  PART_OPTIONS,
  PRESET_OPTIONS,
  SENSES_OPTIONS,
  STOPS_AT_OPTIONS,
} from '@/core/system/words';
import { useToast } from '@/ui/primitives/Toasts';
import { ChoiceField, YesNoField } from '../fields/ChoiceField';
import { NumberField } from '../fields/NumberField';
import type { VoltView } from '../fields/secondUnit';
import { TextField } from '../fields/TextField';
import { buttonClass } from '@/ui/primitives/buttons';
import { More } from './More';
import { Fields, Section } from './Section';

type Kind = 'source' | 'load' | 'battery';
/** The lists, what an entry is called, and what a new one begins with. */
const LISTS = {
  sources: { kind: 'source', called: 'Charger', fresh: { counted: null, profile: {} } },
  loads: { kind: 'load', called: 'Load', fresh: { counted: null } },
  batteries: { kind: 'battery', called: 'Battery', fresh: {} },
} as const;
type DeviceList = keyof typeof LISTS;

/** An id that no other device has, from its list and place. */
function freeId(kind: Kind, taken: readonly string[]): string {
  for (let n = 1; ; n++) if (!taken.includes(`${kind}-${n}`)) return `${kind}-${n}`;
}

function useDevices(list: DeviceList) {
  const { getValues, setFocus } = useFormContext();
  const { fields, append, remove, insert } = useFieldArray({ name: `system.${list}`, keyName: 'key' });
  const tell = useToast();
  const { kind, called, fresh } = LISTS[list];
  return {
    count: fields.length,
    keys: fields.map((one) => one.key),
    add() {
      const system = getValues('system') as Record<DeviceList, { id: string }[] | undefined>;
      const taken = Object.keys(LISTS).flatMap((one) =>
        (system[one as DeviceList] ?? []).map(({ id }) => id),
      );
      const n = fields.length;
      append(
        {
          id: freeId(kind, taken),
          name: `${called} ${n + 1}`,
          ...fresh,
        },
        { shouldFocus: false },
      );
      setTimeout(() => setFocus(`system.${list}.${n}.name`, { shouldSelect: true }));
    },
    take(index: number) {
      const was = structuredClone(getValues(`system.${list}.${index}`) as { name?: string });
      remove(index);
      tell(`${was.name || 'The device'} removed.`, () => insert(index, was, { shouldFocus: false }));
    },
  };
}

function Device({ name, onRemove, children }: { name: string; onRemove(): void; children: React.ReactNode }) {
  const called = (useWatch({ name: `${name}.name` }) as string | undefined) || 'device';
  return (
    <fieldset className="border-rule mt-2 border-t pt-2 first:mt-0 first:border-0 first:pt-0">
      <legend className="sr-only">{called}</legend>
      <div className="mb-1 flex justify-between">
        <h3 className="font-semibold">{called}</h3>
        <button type="button" className={`${buttonClass} flex items-center gap-1`} onClick={onRemove}>
          <Trash2 className="size-3.5" aria-hidden /> Remove<span className="sr-only"> {called}</span>
        </button>
      </div>
      {children}
    </fieldset>
  );
}

/** What is folded away, and counted; what most devices do not have is not: equalisation, a link, a current of their own at the start. */
const SOURCE_MORE = [
  'hoursPerDay',
  'profile.preset',
  'profile.tailA',
  'profile.rebulkV',
  'profile.compensationMvPerCellPerC',
  'profile.chargeAboveC',
  'senses',
  'across',
  'conductor.metres',
  'conductor.squareMm',
];
const LOAD_MORE = [
  'hoursPerDay',
  'alarmV',
  'reconnectV',
  'cutoffPercent',
  'reconnectPercent',
  'surgeA',
  'conductor.metres',
  'conductor.squareMm',
];

export function Sources({ view }: { view: VoltView }) {
  const { keys, count, add, take } = useDevices('sources');
  return (
    <Section
      title="Sources"
      aside={
        <button type="button" className={buttonClass} onClick={add}>
          Add a source
        </button>
      }
    >
      {count === 0 && <p className="text-ink-soft text-sm">No charging source is described yet.</p>}
      {keys.map((key, i) => {
        const at = `sources.${i}`;
        return (
          <Device key={key} name={`system.${at}`} onRemove={() => take(i)}>
            <Fields>
              <TextField name={`system.${at}.name`} />
              <ChoiceField name={`system.${at}.kind`} options={KIND_OPTIONS} />
              <NumberField path={`${at}.ratedA`} />
              <NumberField path={`${at}.profile.absorptionV`} voltView={view} />
              <NumberField path={`${at}.profile.absorptionMinutes`} />
              <NumberField path={`${at}.profile.floatV`} voltView={view} />
              <YesNoField name={`system.${at}.counted`} />
            </Fields>
            <More of="this source" names={SOURCE_MORE.map((key) => `system.${at}.${key}`)}>
              <Fields>
                <NumberField path={`${at}.setA`} />
                <ChoiceField name={`system.${at}.link`} options={LINK_OPTIONS} unknown="to none" />
                <NumberField path={`${at}.hoursPerDay`} />
                <ChoiceField name={`system.${at}.profile.preset`} options={PRESET_OPTIONS} />
                <NumberField path={`${at}.profile.tailA`} />
                <NumberField path={`${at}.profile.rebulkV`} voltView={view} />
                <NumberField path={`${at}.profile.compensationMvPerCellPerC`} />
                <NumberField path={`${at}.profile.chargeAboveC`} />
                <ChoiceField name={`system.${at}.senses`} options={SENSES_OPTIONS} />
                <ChoiceField name={`system.${at}.across`} options={PART_OPTIONS} />
                <NumberField path={`${at}.conductor.metres`} />
                <NumberField path={`${at}.conductor.squareMm`} />
              </Fields>
              <Generator at={at} />
              <details className="mt-2">
                <summary className="text-accent cursor-pointer text-sm underline">
                  Equalisation of this charger
                </summary>
                <div className="mt-2">
                  <Fields>
                    <NumberField path={`${at}.profile.equalise.volts`} voltView={view} />
                    <NumberField path={`${at}.profile.equalise.minutes`} />
                    <NumberField path={`${at}.profile.equalise.everyDays`} />
                    <NumberField path={`${at}.profile.equalise.retryDays`} />
                  </Fields>
                </div>
              </details>
            </More>
          </Device>
        );
      })}
    </Section>
  );
}

/** When a generator is started and stopped. */
function Generator({ at }: { at: string }) {
  const kind = useWatch({ name: `system.${at}.kind` }) as string | undefined;
  if (kind !== 'generator') return null;
  return (
    <fieldset className="mt-2">
      <legend className="text-sm font-semibold">Start and stop</legend>
      <Fields>
        <NumberField path={`${at}.runs.startPercent`} />
        <NumberField path={`${at}.runs.stopPercent`} />
        <ChoiceField name={`system.${at}.runs.stopsAt`} options={STOPS_AT_OPTIONS} />
        <NumberField path={`${at}.runs.throughEveryDays`} />
      </Fields>
    </fieldset>
  );
}

export function Loads({ view }: { view: VoltView }) {
  const { keys, count, add, take } = useDevices('loads');
  return (
    <Section
      title="Loads"
      aside={
        <button type="button" className={buttonClass} onClick={add}>
          Add a load
        </button>
      }
    >
      {count === 0 && <p className="text-ink-soft text-sm">No load is described yet.</p>}
      {keys.map((key, i) => {
        const at = `loads.${i}`;
        return (
          <Device key={key} name={`system.${at}`} onRemove={() => take(i)}>
            <Fields>
              <TextField name={`system.${at}.name`} />
              <ChoiceField name={`system.${at}.kind`} options={LOAD_KIND_OPTIONS} />
              <NumberField path={`${at}.usualA`} />
              <NumberField path={`${at}.cutoffV`} voltView={view} />
              <YesNoField name={`system.${at}.counted`} />
            </Fields>
            <More of="this load" names={LOAD_MORE.map((key) => `system.${at}.${key}`)}>
              <Fields>
                <NumberField path={`${at}.hoursPerDay`} />
                <NumberField path={`${at}.alarmV`} voltView={view} />
                <NumberField path={`${at}.reconnectV`} voltView={view} />
                <NumberField path={`${at}.cutoffPercent`} />
                <NumberField path={`${at}.reconnectPercent`} />
                <NumberField path={`${at}.startA`} />
                <NumberField path={`${at}.surgeA`} />
                <NumberField path={`${at}.conductor.metres`} />
                <NumberField path={`${at}.conductor.squareMm`} />
              </Fields>
            </More>
          </Device>
        );
      })}
    </Section>
  );
}

export function Batteries() {
  const { keys, count, add, take } = useDevices('batteries');
  return (
    <Section
      title="Batteries in parallel"
      about={
        count > 0
          ? 'Each with a BMS of its own. Its log is taken in under its name; its limits are those of the BMS above.'
          : undefined
      }
      aside={
        <button type="button" className={buttonClass} onClick={add}>
          Add a battery
        </button>
      }
    >
      {count === 0 && (
        <p className="text-ink-soft text-sm">
          Only where several batteries stand in parallel and each has a BMS of its own.
        </p>
      )}
      {keys.map((key, i) => (
        <Device key={key} name={`system.batteries.${i}`} onRemove={() => take(i)}>
          <Fields>
            <TextField name={`system.batteries.${i}.name`} />
            <NumberField path={`batteries.${i}.capacityAh`} />
          </Fields>
        </Device>
      ))}
    </Section>
  );
}
