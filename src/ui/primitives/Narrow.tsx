'use client';
/** A select that narrows a table to the rows with some value. */

import { Options } from './Options';
import { useChosenEarly } from './useChosenEarly';

interface Props<V extends string> {
  label: string;
  /** Each value with its name. */
  options: readonly (readonly [V, string])[];
  /** Empty: all rows. */
  value: V | '';
  onValue: (value: V | '') => void;
}

export function Narrow<V extends string>({ label, options, value, onValue }: Props<V>) {
  const ref = useChosenEarly(value, (chosen) => onValue(chosen as V | ''));
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-ink-soft">{label}</span>
      <select
        ref={ref}
        className="border-rule-strong bg-sheet border px-1.5 py-1"
        value={value}
        onChange={({ target }) => onValue(target.value as V | '')}
      >
        <option value="">all</option>
        <Options of={options} />
      </select>
    </label>
  );
}
