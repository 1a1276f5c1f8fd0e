'use client';
/** Fields of a round, by the path of what they hold; large enough for gloved hands. */

import { type ReactNode, useId } from 'react';
import { NumberInput } from '@/ui/describe/fields/NumberField';
import { DateInput } from '@/ui/primitives/DateInput';
import { Options } from '@/ui/primitives/Options';
import { recordInputClass } from '@/ui/records/fields';
import { useRound } from './useRound';

function Frame({
  id,
  label,
  unit,
  path,
  children,
}: {
  id: string;
  label: ReactNode;
  unit?: string;
  path: string;
  children: ReactNode;
}) {
  const problem = useRound().problems[path];
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="text-sm font-semibold">
        {label}
        {unit && <span className="text-ink-soft font-normal">,&nbsp;{unit}</span>}
      </label>
      {children}
      <div id={`${id}-problem`}>
        {problem && (
          <p role="alert" className="text-hazard text-xs">
            {problem}
          </p>
        )}
      </div>
    </div>
  );
}

interface Field {
  path: string;
  label: ReactNode;
}

/** @param described what the description says, shown while nothing is typed */
export function Figure({
  path,
  label,
  unit,
  described,
}: Field & { unit: string; described?: number | undefined }) {
  const { at, set, problems } = useRound();
  const id = useId();
  return (
    <Frame {...{ id, label, unit, path }}>
      <NumberInput
        large
        usual={described}
        id={id}
        value={at(path) as number | string | undefined}
        onChange={(value) => set(path, value)}
        onBlur={() => undefined}
        describedBy={`${id}-problem`}
        invalid={Object.hasOwn(problems, path)}
      />
    </Frame>
  );
}

export function Words({ path, label, lines }: Field & { lines?: number }) {
  const { at, set, problems } = useRound();
  const id = useId();
  const shared = {
    id,
    className: recordInputClass,
    value: (at(path) as string | undefined) ?? '',
    'aria-describedby': `${id}-problem`,
    'aria-invalid': Object.hasOwn(problems, path) || undefined,
    onChange: ({ target }: { target: { value: string } }) => set(path, target.value || undefined),
  };
  return (
    <Frame {...{ id, label, path }}>
      {lines ? <textarea rows={lines} {...shared} /> : <input {...shared} autoComplete="off" />}
    </Frame>
  );
}

export function TimeOfDay({ path, label }: Field) {
  const { at, set } = useRound();
  const id = useId();
  return (
    <Frame {...{ id, label, path }}>
      <span className="flex gap-1">
        <input
          id={id}
          type="time"
          className={recordInputClass}
          value={(at(path) as string | undefined) ?? ''}
          aria-describedby={`${id}-problem`}
          onChange={({ target }) => set(path, target.value || undefined)}
        />
        <button
          type="button"
          className="border-rule-strong bg-paper min-h-11 shrink-0 border px-3 text-sm"
          onClick={() => set(path, new Date().toTimeString().slice(0, 5))}
        >
          Now<span className="sr-only">: {label}</span>
        </button>
      </span>
    </Frame>
  );
}

export function Day({ path, label }: Field) {
  const { at, set } = useRound();
  const id = useId();
  return (
    <Frame {...{ id, label, path }}>
      <DateInput
        id={id}
        className={recordInputClass}
        value={(at(path) as string | undefined) ?? ''}
        aria-describedby={`${id}-problem`}
        onChange={(value) => set(path, value || undefined)}
      />
    </Frame>
  );
}

export function Choose({
  path,
  label,
  options,
  unknown = 'not known',
}: Field & { options: readonly (readonly [string, string])[]; unknown?: string }) {
  const { at, set } = useRound();
  const id = useId();
  return (
    <Frame {...{ id, label, path }}>
      <select
        id={id}
        className={recordInputClass}
        value={(at(path) as string | undefined) ?? ''}
        aria-describedby={`${id}-problem`}
        onChange={({ target }) => set(path, target.value || undefined)}
      >
        <option value="">{unknown}</option>
        <Options of={options} />
      </select>
    </Frame>
  );
}

/** One of a list that is ticked or not. */
export function Tick({ path, value, children }: { path: string; value?: string; children: ReactNode }) {
  const { at, set } = useRound();
  const list = value === undefined ? null : ((at(path) as string[] | undefined) ?? []);
  const checked = list ? list.includes(value!) : at(path) === true;
  return (
    <label className="flex min-h-11 items-center gap-3 py-1 text-sm">
      <input
        type="checkbox"
        className="size-6 shrink-0 accent-(--accent)"
        checked={checked}
        onChange={({ target }) =>
          set(
            path,
            list
              ? target.checked
                ? [...list, value]
                : list.filter((one) => one !== value)
              : target.checked || undefined,
          )
        }
      />
      <span>{children}</span>
    </label>
  );
}

/** Fields side by side; two on a phone. */
export const Grid = ({ children }: { children: ReactNode }) => (
  <div className="grid grid-cols-2 items-end gap-3 lg:grid-cols-4">{children}</div>
);

export const Caution = ({ children }: { children: ReactNode }) => (
  <p className="border-hazard mb-3 border-l-3 pl-2 text-sm">{children}</p>
);
