'use client';
/** A part that a system may have or not: the monitor, the BMS. Taking it off can be undone. */

import type { ReactNode } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { useToast } from '@/ui/primitives/Toasts';
import { buttonClass } from '@/ui/primitives/buttons';
import { Section } from './Section';

interface Props {
  part: 'monitor' | 'bms';
  title: string;
  about?: string;
  children: ReactNode;
}

export function OptionalPart({ part, title, about, children }: Props) {
  const name = `system.${part}`;
  const { setValue, getValues } = useFormContext();
  const value = useWatch({ name }) as object | undefined;
  const tell = useToast();
  const set = (to: unknown) => setValue(name, to, { shouldDirty: true, shouldValidate: true });
  const take = () => {
    const was = structuredClone(getValues(name) as unknown);
    set(undefined);
    tell(`${title} taken off the description.`, () => set(was));
  };
  return (
    <Section
      title={title}
      about={value ? about : undefined}
      aside={
        value ? (
          <button type="button" className={buttonClass} onClick={take}>
            There is no {title}
          </button>
        ) : (
          <button type="button" className={buttonClass} onClick={() => set({})}>
            Describe a {title}
          </button>
        )
      }
    >
      {value ? children : <p className="text-ink-soft text-sm">None described.</p>}
    </Section>
  );
}
