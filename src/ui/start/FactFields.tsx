'use client';
/** Nominal voltage, chemistry and capacity, each with what the logs suggest and why. */

import { type ReactNode, useId } from 'react';
import { CHEMISTRY } from '@/core/system/chemistry';
import { CHEMISTRIES, type Chemistry } from '@/core/system/schema';
import type { BankSuggestion } from '@/core/suggest/bank';
import { buttonClass } from '@/ui/primitives/buttons';
import type { Facts } from './facts';

interface Props {
  facts: Facts;
  suggested: BankSuggestion | null;
  onChange(some: Partial<Facts>): void;
}

const fieldClass = 'border-rule-strong bg-paper mt-0.5 block w-full border px-2 py-2 text-base';
const BLOCKS = [1, 2, 3, 4];
const READING = 'The log is still being read.';

export function FactFields({ facts, suggested, onChange }: Props) {
  const { capacityAh } = suggested ?? {};
  return (
    <fieldset className="border-rule-strong bg-sheet mt-3 border p-3">
      <legend className="px-1 font-semibold">The battery</legend>
      <div className="grid gap-3 sm:grid-cols-2">
        <Fact label="Nominal voltage" hint={suggested?.blocks.why ?? READING}>
          {(field) => (
            <select
              {...field}
              className={fieldClass}
              value={facts.blocks}
              onChange={({ target }) => onChange({ blocks: target.value, cells: '' })}
            >
              <option value="">not known</option>
              {BLOCKS.map((one) => (
                <option key={one} value={one}>
                  {12 * one} V
                </option>
              ))}
            </select>
          )}
        </Fact>
        <Fact label="Chemistry" hint={suggested?.chemistry.why ?? READING}>
          {(field) => (
            <select
              {...field}
              className={fieldClass}
              value={facts.chemistry}
              onChange={({ target }) => onChange({ chemistry: target.value as Chemistry | '', cells: '' })}
            >
              <option value="">not known</option>
              {CHEMISTRIES.map((one) => (
                <option key={one} value={one}>
                  {CHEMISTRY[one].name}
                </option>
              ))}
            </select>
          )}
        </Fact>
        <Fact label="Capacity, Ah" hint={capacityAh?.why ?? READING}>
          {(field) => (
            <span className="flex gap-2">
              <input
                {...field}
                inputMode="decimal"
                className={fieldClass}
                value={facts.capacityAh}
                onChange={({ target }) => onChange({ capacityAh: target.value })}
              />
              {capacityAh?.value && facts.capacityAh === '' && (
                <button
                  type="button"
                  className={`${buttonClass} mt-0.5 whitespace-nowrap`}
                  onClick={() => onChange({ capacityAh: String(capacityAh.value) })}
                >
                  Take {capacityAh.value}
                </button>
              )}
            </span>
          )}
        </Fact>
        <Fact
          label="Cells in series"
          hint={
            facts.chemistry === 'lfp' && facts.blocks === '4'
              ? 'Lithium at 48 V has 16 cells, some have 15: the label says.'
              : 'Follows from voltage and chemistry.'
          }
        >
          {(field) => (
            <input
              {...field}
              inputMode="numeric"
              className={fieldClass}
              value={facts.cells}
              onChange={({ target }) => onChange({ cells: target.value })}
            />
          )}
        </Fact>
      </div>
    </fieldset>
  );
}

/** A field with its hint, which belongs to it and is no part of its name. */
export function Fact({
  label,
  hint,
  children,
}: {
  label: string;
  hint: string;
  children(field: { id: string; 'aria-describedby': string }): ReactNode;
}) {
  const id = useId();
  return (
    <div className="text-sm">
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      {children({ id, 'aria-describedby': `${id}-hint` })}
      <p id={`${id}-hint`} className="text-ink-soft mt-0.5 text-xs">
        {hint}
      </p>
    </div>
  );
}
