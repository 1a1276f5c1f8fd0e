'use client';
/** A number of the job, not of its system: a reading, a clamp-meter figure. */

import { useId } from 'react';
import { get, useController, useFormState } from 'react-hook-form';
import { FieldFrame } from './FieldFrame';
import { NumberInput } from './NumberField';

interface Props {
  /** Within the job, `reading.volts`. */
  path: string;
  label: string;
  unit: string;
  where: string;
}

export function JobNumberField({ path, label, unit, where }: Props) {
  const id = useId();
  const name = `job.${path}`;
  const {
    field: { ref, ...field },
  } = useController({ name });
  const { errors } = useFormState({ name });
  const problem = (get(errors, name) as { message?: string } | undefined)?.message;
  return (
    <FieldFrame id={id} label={label} where={where} problem={problem}>
      <NumberInput
        id={id}
        value={field.value as number | string | undefined}
        onChange={field.onChange}
        onBlur={field.onBlur}
        inputRef={ref}
        describedBy={`${id}-where`}
        invalid={Boolean(problem)}
      />
      <span className="text-ink-soft shrink-0 text-sm">{unit}</span>
      {unit === '°C' && (
        <>
          <NumberInput
            value={typeof field.value === 'number' ? Number((1.8 * field.value + 32).toFixed(0)) : undefined}
            onChange={(f) => field.onChange(typeof f === 'number' ? Number(((f - 32) / 1.8).toFixed(1)) : f)}
            onBlur={field.onBlur}
            label={`${label}, °F`}
            quiet
          />
          <span className="text-ink-soft shrink-0 text-xs">°F</span>
        </>
      )}
    </FieldFrame>
  );
}
