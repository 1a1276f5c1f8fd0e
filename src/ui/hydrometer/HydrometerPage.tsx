'use client';
/** Hydrometer rounds of a system: a new one, with or without the network; those before; each cell over the months. */

import { equaliseAdvice, FULL_GRAVITY, judgeRounds } from '@/core/hydrometer/judge';
import type { Round } from '@/core/hydrometer/round';
import { dueOn, hydrometerText } from '@/core/hydrometer/text';
import { counted, dayText } from '@/core/quantity/text';
import type { Job, System } from '@/core/system/schema';
import { useToast } from '@/ui/primitives/Toasts';
import { NetworkNote } from '@/ui/records/NetworkNote';
import { useRecords } from '@/ui/records/useRecords';
import { GravityStrips } from './GravityStrips';
import { RoundForm } from './RoundForm';
import { RoundsTable } from './RoundsTable';
import { SpreadsheetBox } from './SpreadsheetBox';

interface Props {
  systemId: string;
  system: System;
  /** Answers of the checklists of the latest job: the electrolyte is one of them. */
  checks: Job['checks'];
  /** What the server has, the oldest first. */
  kept: Round[];
}

const nameOf = ({ on }: Round): string => `the round of ${dayText(on)}`;

export function HydrometerPage({ systemId, system, checks, kept }: Props) {
  const tell = useToast();
  const { all, waiting, isOnline, offline, keep, remove } = useRecords(
    systemId,
    'hydrometer-round',
    kept,
    nameOf,
  );

  const judged = judgeRounds(all, system);
  const last = judged.at(-1);
  // What is not full is uneven: the advice leans on the last round after a full charge, where there is one.
  const telling = judged.findLast(({ round }) => round.afterFullCharge === true) ?? last;
  const advice = telling && equaliseAdvice(telling, system, checks);
  const due = dueOn(judged);

  async function keepAll(rounds: Round[]): Promise<void> {
    for (const one of rounds) await keep(one);
    tell(`${counted(rounds.length, 'round')} kept.`);
  }

  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="text-xl font-semibold">Hydrometer rounds</h1>
      <p className="text-ink-soft mb-3 text-sm">
        {system.name}
        {due && `. Next round due on ${dayText(due)}.`}
      </p>
      <NetworkNote waiting={waiting} isOnline={isOnline} offline={offline} noun="round" nameOf={nameOf} />
      {last && (
        <section className="mb-4 max-w-3xl text-sm" aria-label="What the rounds show">
          <ul className="list-disc pl-5">
            {hydrometerText(judged, system).map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          {advice && (
            <div className="border-accent mt-2 border-l-3 pl-2">
              <p>{advice.text}</p>
              <ul className="list-disc pl-5">
                {advice.gates.map((one) => (
                  <li key={one}>{one}</li>
                ))}
              </ul>
              {advice.isNeeded && (
                <p className="border-hazard mt-1 border-l-3 pl-2">
                  Equalising gives off explosive gas: ventilate, no sparks, no smoking; goggles and gloves.
                  The maker’s sheet comes first.
                </p>
              )}
            </div>
          )}
        </section>
      )}
      <h2 className="mb-1 font-semibold">New round</h2>
      <RoundForm
        key={systemId}
        systemId={systemId}
        system={system}
        rounds={judged.map((one) => one.round)}
        onKeep={(round) => keepAll([round])}
      />
      <SpreadsheetBox name={system.name} rounds={judged.map((one) => one.round)} onRounds={keepAll} />
      {judged.length > 0 && (
        <>
          <h2 className="mt-4 mb-1 font-semibold">Each cell over the rounds</h2>
          <GravityStrips rounds={judged} full={system.bank.fullGravity ?? FULL_GRAVITY} />
          <h2 className="mt-4 mb-1 font-semibold">Rounds</h2>
          <RoundsTable
            rounds={judged}
            waiting={waiting.map((one) => one.record.id)}
            onRemove={(round) => void remove(round)}
          />
        </>
      )}
    </main>
  );
}
