'use client';
/** The rest of what can be told of a device, folded away, with how much of it is open. */

import { type ReactNode, useState } from 'react';
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
  const missing = values.filter((one) => one === undefined || one === null || one === '').length;
  const isWrong = names.some((name) => get(errors, name) !== undefined);
  const [isOpen, setOpen] = useState(false);
  return (
    // What is wrong must not be hidden; once mended it must not fold away under the hand either.
    <details
      className="mt-3"
      open={isOpen || isWrong}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary className="text-accent cursor-pointer text-sm underline">
        More of {of}
        {missing === 0 ? ': all filled in' : `: ${missing} of ${names.length} open`}
      </summary>
      <div className="mt-2">{children}</div>
    </details>
  );
}
