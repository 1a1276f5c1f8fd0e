'use client';
/** Run sheet to fit or move the shunt or the clip-on sensor of this system. */

import { BARE_SHUNT, shuntSteps } from '@/core/onsite/shuntRun';
import { Caution, Tick } from '../fields';
import { useRound } from '../useRound';

export function ShuntStop() {
  const { system } = useRound();
  const hall = system.monitor?.method === 'hall';
  return (
    <>
      <p className="text-ink-soft mb-2 text-sm">
        {hall
          ? 'Only where the sensor is fitted or moved today.'
          : `Only where the shunt is fitted or moved today. ${BARE_SHUNT}`}
      </p>
      <ol className="flex flex-col">
        {shuntSteps(system).map((one) => (
          <li key={one.id} className="border-rule border-b py-1">
            <Tick path="shuntSteps" value={one.id}>
              {one.text}
            </Tick>
            {one.caution && <Caution>{one.caution}</Caution>}
          </li>
        ))}
      </ol>
    </>
  );
}
