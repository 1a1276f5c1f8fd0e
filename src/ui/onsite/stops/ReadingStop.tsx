'use client';
/** Ways to set the reading right here, and what it was before and after. */

import { FIRM_RULE, waysToSet } from '@/core/onsite/setRight';
import { Caution, Figure, Grid } from '../fields';
import { useRound } from '../useRound';

export function ReadingStop() {
  const { system, visit, at, set } = useRound();
  return (
    <>
      <Caution>{FIRM_RULE}</Caution>
      <fieldset className="flex flex-col gap-2">
        <legend className="sr-only">Way</legend>
        {waysToSet(system, visit.displays).map((one) => (
          <div key={one.id} className="border-rule-strong bg-sheet border p-3 text-sm">
            <label className="flex min-h-8 items-center gap-3 font-semibold">
              <input
                type="radio"
                name="way"
                className="size-6 shrink-0 accent-(--accent)"
                checked={at('setRight.way') === one.id}
                disabled={one.not !== null}
                onChange={() => set('setRight.way', one.id)}
              />
              {one.title}
            </label>
            {one.not ? (
              <p className="text-ink-soft">{one.not}</p>
            ) : (
              <ol className="list-decimal pl-5">
                {one.steps.map((step) => (
                  <li key={step}>{step}</li>
                ))}
              </ol>
            )}
          </div>
        ))}
      </fieldset>
      <div className="mt-3">
        <Grid>
          <Figure path="setRight.before" label="It showed before" unit="%" />
          <Figure path="setRight.after" label="It shows now" unit="%" />
        </Grid>
      </div>
    </>
  );
}
