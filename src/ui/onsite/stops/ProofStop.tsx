'use client';
/** Proof of coverage: everything off, then each device alone. */

import { proveDevices, type ProvedDevice } from '@/core/onsite/proof';
import { amps } from '@/core/quantity/text';
import { Choose, Figure, Grid } from '../fields';
import { useRound } from '../useRound';

const ANSWERS: Record<ProvedDevice['answer'], string> = {
  shown: 'counted',
  unseen: 'not counted',
  turned: 'wrong sign',
  fraction: 'a part of it',
  'too-small': 'too small to tell',
  open: '',
};

export function ProofStop() {
  const { system, visit } = useRound();
  const devices = proveDevices(system, visit.proof, visit.displays?.postsV);
  const shunts = system.monitor?.shunts ?? [];
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        Everything off first. Then each load and each source alone. Type what the monitor shows, with its
        sign: into the battery is positive. With a clamp meter type its reading too.
      </p>
      <Grid>
        <Figure path="proof.offA" label="Everything off: it shows" unit="A" />
        <Figure path="proof.isolatedA" label="Isolator open: it shows" unit="A" />
      </Grid>
      {devices.map((one) => {
        const at = `proof.devices.${one.id}`;
        const of = <span className="sr-only"> of {one.name}</span>;
        return (
          <fieldset key={one.id} className="border-rule mt-3 border-t pt-2">
            <legend className="text-sm font-semibold">
              {one.name} alone{' '}
              <span className="font-normal">{ANSWERS[one.answer] && `· ${ANSWERS[one.answer]}`}</span>
            </legend>
            <p className="text-ink-soft mb-1 text-sm" aria-live="polite">
              {one.expected
                ? `The monitor should show about ${amps(one.expected.amps)}.`
                : one.kind === 'source'
                  ? 'The monitor should show a positive current; type what the source’s own display says to know how much.'
                  : 'Type its watts, or its amperes, to know what the monitor should show.'}
            </p>
            <Grid>
              <Figure path={`${at}.showsA`} label={<>Monitor shows{of}</>} unit="A" />
              <Figure path={`${at}.clampA`} label={<>Clamp meter{of}</>} unit="A" />
              {one.kind === 'source' ? (
                <Figure path={`${at}.knownA`} label={<>Its own display{of}</>} unit="A" />
              ) : (
                <>
                  <Figure path={`${at}.watts`} label={<>On its plate{of}</>} unit="W" />
                  <Figure path={`${at}.efficiencyPercent`} label={<>Through an inverter of{of}</>} unit="%" />
                  <Figure path={`${at}.startA`} label={<>As it starts{of}</>} unit="A" />
                  <Figure path={`${at}.idleA`} label={<>Idle{of}</>} unit="A" />
                </>
              )}
              {shunts.length > 0 && (
                <Choose
                  path={`${at}.shunt`}
                  label={<>Shunt that moved{of}</>}
                  options={shunts.map((shunt) => [shunt.id, shunt.name])}
                />
              )}
            </Grid>
          </fieldset>
        );
      })}
    </>
  );
}
