'use client';
/** Equalisation as a run sheet: gates, start by hand, climb, hold, stop. */

import { equaliseSteps, GATE_WORDS, notEligible } from '@/core/onsite/equaliseRun';
import { EQUALISE_ENDS, GATES } from '@/core/onsite/visit';
import { Caution, Choose, Day, Figure, Grid, Tick, TimeOfDay } from '../fields';
import { useRound } from '../useRound';

const ENDS: Record<(typeof EQUALISE_ENDS)[number], string> = {
  held: 'it held its time',
  'not-reached': 'it never reached its voltage',
  stopped: 'it was stopped',
};

export function EqualiseStop() {
  const { system } = useRound();
  const barred = notEligible(system);
  if (barred) return <Caution>{barred}</Caution>;
  return (
    <>
      <Caution>
        It gives off explosive gas: ventilate, no sparks, no smoking. Goggles, gloves, rinse water. Somebody
        stays with it. The maker’s sheet comes first.
      </Caution>
      <h3 className="text-sm font-semibold">Before it is started</h3>
      {GATES.map((one) => (
        <Tick key={one} path="equalise.gates" value={one}>
          {GATE_WORDS[one]}
        </Tick>
      ))}
      <Grid>
        <Day path="equalise.lastOn" label="Last one that held, on" />
        <Figure path="equalise.triesSince" label="Tries since" unit="" />
        <Tick path="equalise.reprogrammed">the charger was programmed anew</Tick>
      </Grid>
      <h3 className="mt-3 text-sm font-semibold">The run</h3>
      <ol className="mb-3 list-decimal pl-5 text-sm">
        {equaliseSteps(system).map((one) => (
          <li key={one.text} className="mb-1">
            {one.text}
            {one.watch && <span className="text-ink-soft block">{one.watch}</span>}
          </li>
        ))}
      </ol>
      <Grid>
        <TimeOfDay path="equalise.startedAt" label="Started" />
        <TimeOfDay path="equalise.reachedAt" label="Reached its voltage" />
        <TimeOfDay path="equalise.stoppedAt" label="Stopped" />
        <Figure path="equalise.hottestC" label="Hottest" unit="°C" />
        <Choose
          path="equalise.ended"
          label="How it ended"
          options={EQUALISE_ENDS.map((one) => [one, ENDS[one]])}
        />
      </Grid>
    </>
  );
}
