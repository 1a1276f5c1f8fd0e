'use client';
/** What has to be seen before the change is accepted, and what was changed. */

import { Trash2 } from 'lucide-react';
import { stillToSee } from '@/core/onsite/acceptance';
import { buttonClass } from '@/ui/primitives/buttons';
import { useToast } from '@/ui/primitives/Toasts';
import { Figure, Grid, Words } from '../fields';
import { useRound } from '../useRound';

export function AcceptanceStop() {
  const { system, visit, at, set } = useRound();
  const tell = useToast();
  const left = stillToSee(visit.acceptance, system);
  const changed = (at('changed') as unknown[] | undefined) ?? [];
  return (
    <>
      <h3 className="mb-1 text-sm font-semibold">On float, with the loads on</h3>
      <Grid>
        <Figure path="acceptance.floatBatteryA" label="Into the battery" unit="A" />
        <Figure path="acceptance.floatLoadsA" label="The loads draw" unit="A" />
      </Grid>
      <h3 className="mt-3 mb-1 text-sm font-semibold">While it charges</h3>
      <Grid>
        <Figure path="acceptance.chargeA" label="The chargers give together" unit="A" />
      </Grid>
      <h3 className="mt-3 mb-1 text-sm font-semibold">At the end</h3>
      <Grid>
        <Figure path="acceptance.monitorPercent" label="Monitor" unit="%" />
        {system.bms && <Figure path="acceptance.bmsPercent" label="BMS" unit="%" />}
        <Figure path="acceptance.restV" label="Rest voltage" unit="V" />
        <Figure path="acceptance.restHours" label="Rested for" unit="h" />
      </Grid>
      {left.length > 0 && <p className="text-ink-soft mt-2 text-sm">Still to be seen: {left.join('; ')}.</p>}
      <h3 className="mt-3 mb-1 text-sm font-semibold">Changed today</h3>
      {changed.map((_, k) => (
        <fieldset
          key={k}
          className="border-rule mb-2 grid gap-2 border-t pt-2 sm:grid-cols-2 sm:items-end xl:grid-cols-[2fr_1fr_1fr_2fr_auto]"
        >
          <legend className="sr-only">Change {k + 1}</legend>
          <Words path={`changed.${k}.what`} label="What" />
          <Words path={`changed.${k}.before`} label="Before" />
          <Words path={`changed.${k}.after`} label="After" />
          <Words path={`changed.${k}.why`} label="Why" />
          <button
            type="button"
            className={`${buttonClass} min-h-11`}
            aria-label={`Take off change ${k + 1}`}
            onClick={() => {
              set(
                'changed',
                changed.filter((_, i) => i !== k),
              );
              tell('Taken off.', () => set('changed', changed));
            }}
          >
            <Trash2 className="size-4" aria-hidden />
          </button>
        </fieldset>
      ))}
      <button
        type="button"
        className={`${buttonClass} min-h-11`}
        onClick={() => set('changed', [...changed, { what: '', after: '' }])}
      >
        Add a change
      </button>
    </>
  );
}
