'use client';
/** The last stop: next dates, notes, and the signature by role. */

import { stopName } from '@/core/onsite/stopNames';
import { Day, Grid, Words } from '../fields';
import { useRound } from '../useRound';

export function SignStop() {
  const { visit, system } = useRound();
  return (
    <>
      {visit.passedOver && visit.passedOver.length > 0 && (
        <p className="text-ink-soft mb-2 text-sm">
          Not looked at: {visit.passedOver.map((one) => stopName(one, system).toLowerCase()).join(', ')}. The
          sheet says so.
        </p>
      )}
      <Grid>
        <Day path="nextFullOn" label="Next full charge" />
        <Day path="nextVisitOn" label="Next visit" />
      </Grid>
      <div className="mt-3 grid gap-3">
        <Words path="notes" label="Notes" lines={3} />
        <Words path="signedBy" label="Signed by, in your role" />
      </div>
    </>
  );
}
