'use client';
/** Ratings chain: every link that the current passes, drawn, with the weakest named. */

import { chainsOf } from '@/core/onsite/ratings';
import { Figure, Grid } from '../fields';
import { useRound } from '../useRound';
import { ChainPicture } from '../ChainPicture';

export function RatingsStop() {
  const { system, visit } = useRound();
  const { out, in: into } = chainsOf(system, visit);
  const path = system.mainPath;
  const isLithium = system.bank.chemistry === 'lfp' || system.bms !== undefined;
  const behindMains = system.sources.some((one) => one.kind === 'mains' || one.kind === 'generator');
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        What is marked on each link. Running currents come from the proof of coverage, else from the
        description.
      </p>
      <Grid>
        <Figure path="mainPath.fuseA" described={path?.fuseA} label="Main fuse" unit="A" />
        <Figure path="mainPath.cableA" described={path?.cableA} label="Main cable" unit="A" />
        {system.monitor && (
          <Figure
            path="shuntA"
            described={system.monitor.ratedA}
            label={system.monitor.method === 'hall' ? 'Sensor' : 'Shunt'}
            unit="A"
          />
        )}
        <Figure path="mainPath.busbarA" described={path?.busbarA} label="Busbars" unit="A" />
        <Figure path="mainPath.jumperA" described={path?.jumperA} label="Jumpers" unit="A" />
        {isLithium && (
          <>
            <Figure
              path="bmsMaxDischargeA"
              described={system.bms?.maxDischargeA}
              label="BMS, discharge limit of each"
              unit="A"
            />
            <Figure
              path="bmsMaxChargeA"
              described={system.bms?.maxChargeA}
              label="BMS, charge limit of each"
              unit="A"
            />
          </>
        )}
        {behindMains && (
          <Figure
            path="mainPath.generatorVa"
            described={path?.generatorVa}
            label="Generator behind the chargers"
            unit="VA"
          />
        )}
        {system.sources.map((one) => (
          <Figure
            key={one.id}
            path={`setA.${one.id}`}
            described={one.setA ?? one.ratedA}
            label={`${one.name}, as set`}
            unit="A"
          />
        ))}
      </Grid>
      <div className="mt-3 grid gap-3 lg:grid-cols-2">
        <ChainPicture chain={out} title="Out of the battery" />
        <ChainPicture chain={into} title="Into the battery" />
      </div>
    </>
  );
}
