'use client';
/** Fields of a record, large enough for gloved hands. */

import type { ReactNode } from 'react';
import { DateInput } from '@/ui/primitives/DateInput';
import { Options } from '@/ui/primitives/Options';
import { useChosenEarly } from '@/ui/primitives/useChosenEarly';

export const recordInputClass =
  'border-rule-strong bg-paper block w-full border px-2 py-2 text-base font-normal';

export function Typed({
  label,
  value,
  type = 'text',
  isNumber = false,
  unit,
  onChange,
}: {
  label: ReactNode;
  value: string;
  type?: 'text' | 'date';
  isNumber?: boolean;
  unit?: string;
  onChange(value: string): void;
}) {
  return (
    <label className="text-sm font-semibold">
      {label}
      {unit && <span className="text-ink-soft font-normal">, {unit}</span>}
      {type === 'date' ? (
        <DateInput className={recordInputClass} value={value} onChange={onChange} />
      ) : (
        <input
          inputMode={isNumber ? 'decimal' : undefined}
          className={recordInputClass}
          value={value}
          onChange={({ target }) => onChange(target.value)}
        />
      )}
    </label>
  );
}

export function Choice<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: readonly (readonly [V, string])[];
  onChange(value: V): void;
}) {
  const ref = useChosenEarly(value, (chosen) => onChange(chosen as V));
  return (
    <label className="text-sm font-semibold">
      {label}
      <select
        ref={ref}
        className={recordInputClass}
        value={value}
        onChange={({ target }) => onChange(target.value as V)}
      >
        <Options of={options} />
      </select>
    </label>
  );
}
