'use client';
/** The rest of what can be told of a device, folded away, with how much of it is open. */

import type { ReactNode } from 'react';
import { get, useFormState, useWatch } from 'react-hook-form';

interface Props {
  /** Of what, "the battery". */
  of: string;
  /** Names of its fields in the form. */
  names: readonly string[];
  children: ReactNode;
}

export function More({ of, names, children }: Props) {
  const values = useWatch({ name: names });
  const { errors } = useFormState({ name: names });
  const open = values.filter((one) => one === undefined || one === null || one === '').length;
  const isWrong = names.some((name) => get(errors, name) !== undefined);
  return (
    // What is wrong must not be hidden.
    <details className="mt-3" open={isWrong || undefined}>
      <summary className="text-accent cursor-pointer text-sm underline">
        More of {of}
        {open === 0 ? ': all filled in' : `: ${open} of ${names.length} open`}
      </summary>
      <div className="mt-2">{children}</div>
    </details>
  );
}
