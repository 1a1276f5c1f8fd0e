'use client';
/** The shunts of a monitor that sums several: a name each, and what passes it. */

import { Trash2 } from 'lucide-react';
import { useFieldArray } from 'react-hook-form';
import { useToast } from '@/ui/primitives/Toasts';
import { buttonClass } from '@/ui/primitives/buttons';
import { useTyped } from '../fields/context';
import { Checkboxes } from '../fields/Checkboxes';
import { TextField } from '../fields/TextField';

export function Shunts() {
  const { system } = useTyped();
  const { fields, append, remove, insert } = useFieldArray({ name: 'system.monitor.shunts', keyName: 'key' });
  const tell = useToast();
  const devices = [...system.sources, ...system.loads].map(({ id, name }) => ({ id, name }));
  const freeId = () => {
    const taken = new Set(fields.map((one) => (one as unknown as { id: string }).id));
    for (let n = 1; ; n++) if (!taken.has(`shunt-${n}`)) return `shunt-${n}`;
  };
  return (
    <div className="mt-3">
      <h3 className="text-sm font-semibold">Several shunts</h3>
      <p className="text-ink-soft mb-1 text-sm">
        Only for a monitor that sums several. Two devices may share a shunt; the net is the sum of all.
      </p>
      {fields.map((one, k) => (
        <fieldset key={one.key} className="border-rule mt-2 border-t pt-2">
          <legend className="sr-only">Shunt {k + 1}</legend>
          <div className="flex items-end gap-2">
            <div className="grow">
              <TextField name={`system.monitor.shunts.${k}.name`} />
            </div>
            <button
              type="button"
              className={buttonClass}
              aria-label={`Remove shunt ${k + 1}`}
              onClick={() => {
                remove(k);
                tell('Shunt removed.', () => insert(k, { ...one, key: undefined }));
              }}
            >
              <Trash2 className="size-3.5" aria-hidden />
            </button>
          </div>
          <Checkboxes name={`system.monitor.shunts.${k}.devices`} legend="What passes it" options={devices} />
        </fieldset>
      ))}
      <button
        type="button"
        className={`${buttonClass} mt-2`}
        onClick={() => append({ id: freeId(), name: `Shunt ${fields.length + 1}`, devices: [] })}
      >
        Add a shunt
      </button>
    </div>
  );
}
