'use client';
/** A number with its unit, the same figure in another unit beside it, where to find it, and what is wrong or unusual about it. */

import { useId, useState } from 'react';
import { get, useController, useFormState } from 'react-hook-form';
import { fieldAt, unusual } from '@/core/system/fields';
import { useTyped } from './context';
import { FieldFrame, inputClass } from './FieldFrame';
import { readNumber, secondUnit, tidy, type VoltView } from './secondUnit';

interface Props {
  /** Within the system, `bank.capacityAh`. */
  path: string;
  voltView?: VoltView;
  /** Another name than the field's own. */
  label?: string;
  /** Shown under the field, after where it is found. */
  more?: string | null;
}

export function NumberField({ path, voltView = 'cell', label, more }: Props) {
  const id = useId();
  const name = `system.${path}`;
  const {
    field: { ref, ...field },
  } = useController({ name });
  const { errors } = useFormState({ name });
  const { system } = useTyped();
  const meta = fieldAt(path);
  const value = field.value as number | string | undefined;
  const second = secondUnit(path, meta.unit, system, voltView);
  const problem = (get(errors, name) as { message?: string } | undefined)?.message;
  const warning = !problem && typeof value === 'number' ? unusual(path, value, system) : null;
  const range = meta.usual?.(system);
  const usual =
    range && (range.min !== range.max || range.min === 0)
      ? ` Usual: ${tidy(range.min, 2)}${range.min === range.max ? '' : ` to ${tidy(range.max, 2)}`}.`
      : '';
  const name2 = label ?? meta.label;
  return (
    <FieldFrame
      id={id}
      label={name2}
      where={`${meta.where}${usual}${more ? ` ${more}` : ''}`}
      problem={problem}
      warning={warning}
    >
      <NumberInput
        id={id}
        value={value}
        onChange={field.onChange}
        onBlur={field.onBlur}
        inputRef={ref}
        describedBy={`${id}-where`}
        invalid={Boolean(problem)}
      />
      <span className="text-ink-soft w-fit shrink-0 text-sm">{meta.unit}</span>
      {second && (
        <>
          <NumberInput
            value={typeof value === 'number' ? tidy(second.to(value), second.digits) : undefined}
            onChange={(shown) =>
              field.onChange(typeof shown === 'number' ? tidy(second.from(shown), 4) : shown)
            }
            onBlur={field.onBlur}
            label={`${name2}, ${second.unit}`}
            quiet
          />
          <span className="text-ink-soft shrink-0 text-xs">{second.unit}</span>
        </>
      )}
    </FieldFrame>
  );
}

interface InputProps {
  id?: string;
  value: number | string | undefined;
  onChange(value: number | string | undefined): void;
  onBlur(): void;
  inputRef?: (element: HTMLInputElement | null) => void;
  describedBy?: string;
  label?: string;
  invalid?: boolean;
  quiet?: boolean;
  /** For gloved hands. */
  large?: boolean;
  /** What holds while nothing is typed. */
  usual?: number | undefined;
}

const LARGE =
  'border-rule-strong bg-paper h-11 border px-2 text-base placeholder:italic placeholder:text-ink-soft placeholder:text-sm aria-invalid:border-hazard aria-invalid:border-2';

/** Keeps the text as it is typed while it has the focus, unless the value is changed from elsewhere meanwhile. */
export function NumberInput({
  id,
  value,
  onChange,
  onBlur,
  inputRef,
  describedBy,
  label,
  invalid,
  quiet,
  large,
  usual,
}: InputProps) {
  const [typing, setTyping] = useState<string | null>(null);
  // A converted figure is rounded, and so is never quite what was typed into it.
  const mine = typing !== null && (quiet || readNumber(typing) === value);
  const shown = mine ? typing : value === undefined ? '' : String(value);
  return (
    <input
      id={id}
      ref={inputRef}
      type="text"
      inputMode="decimal"
      autoComplete="off"
      className={`${large ? LARGE : inputClass} w-full min-w-0 text-right font-mono ${quiet ? 'text-ink-soft max-w-16 border-dashed text-xs' : large ? '' : 'max-w-28'}`}
      placeholder={quiet ? '' : usual === undefined ? 'not known' : String(usual)}
      aria-label={label}
      aria-describedby={describedBy}
      aria-invalid={invalid || undefined}
      value={shown}
      onFocus={() => setTyping(value === undefined ? '' : String(value))}
      onChange={(event) => {
        setTyping(event.target.value);
        onChange(readNumber(event.target.value));
      }}
      onBlur={() => {
        setTyping(null);
        onBlur();
      }}
    />
  );
}
