'use client';
/** Capacity tests of a system: planned and run here, or taken from a log; those before, and when the next is due. */

import { judgeTests } from '@/core/capacity/judge';
import { dayText } from '@/core/quantity/text';
import type { CapacityTest } from '@/core/capacity/record';
import { capacityText } from '@/core/capacity/text';
import type { System } from '@/core/system/schema';
import { useToast } from '@/ui/primitives/Toasts';
import { NetworkNote } from '@/ui/records/NetworkNote';
import { useRecords } from '@/ui/records/useRecords';
import { CapacityForm } from './CapacityForm';
import { CapacityTable } from './CapacityTable';
import { DischargeList } from './DischargeList';
import type { FromFull } from './fromLog';

interface Props {
  systemId: string;
  system: System;
  /** What the server has, the oldest first. */
  kept: CapacityTest[];
  /** Discharges from full that the logs of its jobs show. */
  discharges: { jobId: string; title: string; one: FromFull }[];
}

const nameOf = ({ on }: CapacityTest): string => `the capacity test of ${dayText(on)}`;

export function CapacityPage({ systemId, system, kept, discharges }: Props) {
  const tell = useToast();
  const { all, waiting, isOnline, offline, keep, remove } = useRecords(
    systemId,
    'capacity-test',
    kept,
    nameOf,
  );
  const judged = judgeTests(all, system);
  async function keepTest(test: CapacityTest): Promise<void> {
    await keep(test);
    tell('The capacity test is kept.');
  }
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="text-xl font-semibold">Capacity tests</h1>
      <p className="text-ink-soft mb-3 text-sm">{system.name}</p>
      <NetworkNote
        waiting={waiting}
        isOnline={isOnline}
        offline={offline}
        noun="capacity test"
        nameOf={nameOf}
      />
      {judged.length > 0 && (
        <section className="mb-4 max-w-3xl text-sm" aria-label="What the tests show">
          <ul className="list-disc pl-5">
            {capacityText(judged).map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
      )}
      <h2 className="mb-1 font-semibold">New test</h2>
      <CapacityForm key={systemId} systemId={systemId} system={system} onKeep={keepTest} />
      <DischargeList discharges={discharges} tests={all} system={system} onKeep={keepTest} />
      {judged.length > 0 && (
        <>
          <h2 className="mt-4 mb-1 font-semibold">Tests</h2>
          <CapacityTable
            tests={judged}
            waiting={waiting.map((one) => one.record.id)}
            onRemove={(test) => void remove(test)}
          />
        </>
      )}
      <section className="text-ink-soft mt-4 max-w-3xl text-sm">
        <h2 className="text-ink mb-1 font-semibold">The simple school</h2>
        <p>
          Set the monitor to the nameplate capacity and to 0 % when the battery is empty, charge it until it
          is full, and take what was counted as the capacity. It needs no steady load and no clock. Two things
          bend it: what is counted on the way in has the counter’s own charge efficiency in it, and a battery
          whose emptying was stopped early looks smaller. The test above (IEEE Std 450, from memory) counts on
          the way out and corrects for rate and temperature.
        </p>
      </section>
    </main>
  );
}
