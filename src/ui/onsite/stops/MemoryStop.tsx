'use client';
/** The monitor's own memory. */

import { Figure, Grid } from '../fields';

export function MemoryStop() {
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        Most monitors keep a history in a menu of their own. It is evidence even where nothing was logged;
        leave out what this one does not have.
      </p>
      <Grid>
        <Figure path="memory.deepestAh" label="Deepest discharge" unit="Ah" />
        <Figure path="memory.lastAh" label="Last discharge" unit="Ah" />
        <Figure path="memory.meanAh" label="Mean discharge" unit="Ah" />
        <Figure path="memory.drawnAh" label="Drawn in all" unit="Ah" />
        <Figure path="memory.cycles" label="Cycles" unit="" />
        <Figure path="memory.syncs" label="Set to full" unit="times" />
        <Figure path="memory.daysSinceFull" label="Since the last full charge" unit="days" />
        <Figure path="memory.lowestV" label="Lowest voltage" unit="V" />
        <Figure path="memory.highestV" label="Highest voltage" unit="V" />
      </Grid>
    </>
  );
}
