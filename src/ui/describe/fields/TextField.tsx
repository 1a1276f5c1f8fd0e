'use client';
/** A line or a few lines of text, or a date. */

import { useId } from 'react';
import { get, useController, useFormState } from 'react-hook-form';
import { fieldAt } from '@/core/system/fields';
import { DateInput } from '@/ui/primitives/DateInput';
import { FieldFrame, inputClass } from './FieldFrame';

interface Props {
  name: string;
  label?: string;
  where?: string;
  kind?: 'text' | 'date' | 'lines';
  list?: string;
}

export function TextField({ name, label, where, kind = 'text', list }: Props) {
  const id = useId();
  const {
    field: { ref, ...field },
  } = useController({ name });
  const { errors } = useFormState({ name });
  const meta = name.startsWith('system.') ? fieldAt(name.slice(7)) : null;
  const problem = (get(errors, name) as { message?: string } | undefined)?.message;
  const shared = {
    id,
    ref: ref,
    value: (field.value as string | undefined) ?? '',
    onBlur: field.onBlur,
    'aria-describedby': `${id}-where`,
    'aria-invalid': problem ? true : undefined,
  };
  const typed = (text: string) => field.onChange(text === '' ? undefined : text);
  return (
    <FieldFrame
      id={id}
      label={label ?? meta?.label ?? name}
      where={where ?? meta?.where ?? ''}
      problem={problem}
    >
      {kind === 'lines' ? (
        <textarea
          {...shared}
          rows={2}
          className={`${inputClass} h-auto w-full py-1`}
          onChange={(event) => typed(event.target.value)}
        />
      ) : kind === 'date' ? (
        <DateInput {...shared} className={`${inputClass} w-full`} onChange={typed} />
      ) : (
        <input
          {...shared}
          type="text"
          list={list}
          autoComplete="off"
          className={`${inputClass} w-full`}
          onChange={(event) => typed(event.target.value)}
        />
      )}
    </FieldFrame>
  );
}
