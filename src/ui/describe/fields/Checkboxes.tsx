'use client';
/** Several of a few words. */

import { useController } from 'react-hook-form';
import type { Option } from './ChoiceField';

export function Checkboxes({
  name,
  legend,
  options,
}: {
  name: string;
  legend: string;
  options: readonly Option[];
}) {
  const { field } = useController({ name });
  const chosen = (field.value as string[] | undefined) ?? [];
  return (
    <fieldset>
      <legend className="text-sm font-semibold">{legend}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
        {options.map(({ id, name: word }) => (
          <label key={id} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-(--accent)"
              checked={chosen.includes(id)}
              onChange={({ target }) =>
                field.onChange(
                  target.checked
                    ? options.map((one) => one.id).filter((one) => one === id || chosen.includes(one))
                    : chosen.filter((one) => one !== id),
                )
              }
              onBlur={field.onBlur}
            />
            {word}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
