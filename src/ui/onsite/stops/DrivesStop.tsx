'use client';
/** Whose percentage drives each cut-off, alarm, relay and generator start. */

import { Trash2 } from 'lucide-react';
import { describedDrives, DRIVEN_WORDS, DRIVER_WORDS } from '@/core/onsite/drives';
import type { Drive } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { useToast } from '@/ui/primitives/Toasts';
import { Choose, Words } from '../fields';
import { useRound } from '../useRound';

const options = <K extends string>(words: Record<K, string>) => Object.entries<string>(words);

export function DrivesStop() {
  const { system, at, set } = useRound();
  const tell = useToast();
  const typed = at('drives') as Partial<Drive>[] | undefined;
  const list = typed ?? describedDrives(system);
  const change = (next: Partial<Drive>[]) => set('drives', next);
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        One percentage alone should drive everything. The usual order of trust: the BMS, then a shunt, then an
        inverter’s own count.
      </p>
      {list.length === 0 && (
        <p className="text-ink-soft mb-2 text-sm">Nothing is described that a percentage drives.</p>
      )}
      {typed === undefined && list.length > 0 ? (
        <>
          <ul className="mb-2 list-disc pl-5 text-sm">
            {list.map((one) => (
              <li key={one.what}>
                {one.what}: {DRIVEN_WORDS[one.kind!]}, by {DRIVER_WORDS[one.by!]}
              </li>
            ))}
          </ul>
          <button type="button" className={`${buttonClass} min-h-11`} onClick={() => change([...list])}>
            Change the list
          </button>
        </>
      ) : (
        list.map((_, k) => (
          <fieldset
            key={k}
            className="border-rule mb-2 grid gap-2 border-t pt-2 sm:grid-cols-2 sm:items-end xl:grid-cols-[2fr_1fr_1fr_auto]"
          >
            <legend className="sr-only">Entry {k + 1}</legend>
            <Words path={`drives.${k}.what`} label="What is driven" />
            <Choose path={`drives.${k}.kind`} label="Kind" options={options(DRIVEN_WORDS)} />
            <Choose path={`drives.${k}.by`} label="By" options={options(DRIVER_WORDS)} />
            <button
              type="button"
              className={`${buttonClass} min-h-11`}
              aria-label={`Take off entry ${k + 1}`}
              onClick={() => {
                change(list.filter((_, i) => i !== k));
                tell('Taken off.', () => change([...list]));
              }}
            >
              <Trash2 className="size-4" aria-hidden />
            </button>
          </fieldset>
        ))
      )}
      <button
        type="button"
        className={`${buttonClass} mt-2 min-h-11`}
        onClick={() => change([...list, { what: '', kind: 'cutoff', by: 'monitor' }])}
      >
        Add something that is driven
      </button>
    </>
  );
}
