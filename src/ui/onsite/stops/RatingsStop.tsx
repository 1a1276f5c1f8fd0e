'use client';
/** Ratings chain: every link that the current passes, drawn, with the weakest named. */

import { chainsOf } from '@/core/onsite/ratings';
import { Figure, Grid } from '../fields';
import { useRound } from '../useRound';
import { ChainPicture } from '../ChainPicture';

export function RatingsStop() {
  const { system, visit } = useRound();
  const { out, in: into } = chainsOf(system, visit);
  const isLithium = system.bank.chemistry === 'lfp' || system.bms !== undefined;
  const behindMains = system.sources.some((one) => one.kind === 'mains' || one.kind === 'generator');
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        What is marked on each link. Running currents come from the proof of coverage, else from the
        description.
      </p>
      <Grid>
        <Figure path="mainPath.fuseA" label="Main fuse" unit="A" />
        <Figure path="mainPath.cableA" label="Main cable" unit="A" />
        {system.monitor && (
          <Figure path="shuntA" label={system.monitor.method === 'hall' ? 'Sensor' : 'Shunt'} unit="A" />
        )}
        <Figure path="mainPath.busbarA" label="Busbars" unit="A" />
        <Figure path="mainPath.jumperA" label="Jumpers" unit="A" />
        {isLithium && (
          <>
            <Figure path="bmsMaxDischargeA" label="BMS, discharge limit of each" unit="A" />
            <Figure path="bmsMaxChargeA" label="BMS, charge limit of each" unit="A" />
          </>
        )}
        {behindMains && (
          <Figure path="mainPath.generatorVa" label="Generator behind the chargers" unit="VA" />
        )}
        {system.sources.map((one) => (
          <Figure key={one.id} path={`setA.${one.id}`} label={`${one.name}, as set`} unit="A" />
        ))}
      </Grid>
      <div className="mt-3 grid gap-3 lg:grid-cols-2">
        <ChainPicture chain={out} title="Out of the battery" />
        <ChainPicture chain={into} title="Into the battery" />
      </div>
    </>
  );
}
