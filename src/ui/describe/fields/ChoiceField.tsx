'use client';
/** One of a few words, "not known" among them. */

import { useId } from 'react';
import { get, useController, useFormState } from 'react-hook-form';
import { fieldAt } from '@/core/system/fields';
import { FieldFrame, inputClass } from './FieldFrame';

export interface Option {
  id: string;
  name: string;
}

interface Props {
  /** Full name in the form, `system.bank.chemistry`. */
  name: string;
  label?: string;
  where?: string;
  options: readonly Option[];
  /** What an empty choice says; null where something must be chosen. */
  unknown?: string | null;
}

export function ChoiceField({ name, label, where, options, unknown = 'not known' }: Props) {
  const id = useId();
  const {
    field: { ref, ...field },
  } = useController({ name });
  const { errors } = useFormState({ name });
  const meta = name.startsWith('system.') ? fieldAt(name.slice(7)) : null;
  return (
    <FieldFrame
      id={id}
      label={label ?? meta?.label ?? name}
      where={where ?? meta?.where ?? ''}
      problem={(get(errors, name) as { message?: string } | undefined)?.message}
    >
      <select
        id={id}
        ref={ref}
        className={`${inputClass} w-full ${field.value === undefined ? 'text-ink-soft italic' : ''}`}
        aria-describedby={`${id}-where`}
        value={(field.value as string | undefined) ?? ''}
        onChange={(event) => field.onChange(event.target.value === '' ? undefined : event.target.value)}
        onBlur={field.onBlur}
      >
        {unknown !== null && <option value="">{unknown}</option>}
        {options.map((one) => (
          <option key={one.id} value={one.id} className="not-italic">
            {one.name}
          </option>
        ))}
      </select>
    </FieldFrame>
  );
}

/** Yes, no, or not known, kept as true, false or null. */
export function YesNoField({
  name,
  label,
  where,
  unknownAs = null,
}: Omit<Props, 'options'> & { unknownAs?: null | undefined }) {
  const id = useId();
  const {
    field: { ref, ...field },
  } = useController({ name });
  const meta = name.startsWith('system.') ? fieldAt(name.slice(7)) : null;
  const word = field.value === true ? 'yes' : field.value === false ? 'no' : '';
  return (
    <FieldFrame id={id} label={label ?? meta?.label ?? name} where={where ?? meta?.where ?? ''}>
      <select
        id={id}
        ref={ref}
        className={`${inputClass} w-full ${word === '' ? 'text-ink-soft italic' : ''}`}
        aria-describedby={`${id}-where`}
        value={word}
        onChange={({ target }) => field.onChange(target.value === '' ? unknownAs : target.value === 'yes')}
        onBlur={field.onBlur}
      >
        <option value="">not known</option>
        <option value="yes">yes</option>
        <option value="no">no</option>
      </select>
    </FieldFrame>
  );
}
