'use client';
/** Hydrometer rounds of a system: a new one, with or without the network; those before; each cell over the months. */

import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { equaliseAdvice, FULL_GRAVITY, judgeRounds } from '@/core/hydrometer/judge';
import type { Round } from '@/core/hydrometer/round';
import { dueOn, hydrometerText } from '@/core/hydrometer/text';
import { counted } from '@/core/quantity/text';
import type { Job, System } from '@/core/system/schema';
import { keepThisPage } from '@/workers/offlinePages';
import { useToast } from '@/ui/primitives/Toasts';
import { GravityStrips } from './GravityStrips';
import { RoundForm } from './RoundForm';
import { RoundsTable } from './RoundsTable';
import { SpreadsheetBox } from './SpreadsheetBox';
import { useWaiting } from './waiting';

interface Props {
  systemId: string;
  system: System;
  /** Answers of the checklists of the latest job: the electrolyte is one of them. */
  checks: Job['checks'];
  /** What the server has, the oldest first. */
  kept: Round[];
}

export function HydrometerPage({ systemId, system, checks, kept }: Props) {
  const router = useRouter();
  const tell = useToast();
  const onSent = useCallback(() => router.refresh(), [router]);
  const { waiting, isOnline, keep, drop } = useWaiting(systemId, onSent);
  const [offline, setOffline] = useState<'unknown' | 'kept' | 'not'>('unknown');
  useEffect(() => {
    keepThisPage()
      .then((can) => setOffline(can ? 'kept' : 'not'))
      .catch(() => setOffline('not'));
  }, []);

  // What waits is shown with what the server has.
  const judged = useMemo(() => {
    const own = waiting.map((one) => one.round);
    return judgeRounds([...kept.filter((one) => !own.some(({ id }) => id === one.id)), ...own], system);
  }, [kept, waiting, system]);
  const last = judged.at(-1);
  // What is not full is uneven: the advice leans on the last round after a full charge, where there is one.
  const telling = judged.findLast(({ round }) => round.afterFullCharge === true) ?? last;
  const advice = telling && equaliseAdvice(telling, system, checks);
  const due = dueOn(judged);

  async function keepAll(rounds: Round[]): Promise<void> {
    for (const one of rounds) await keep(one);
    tell(`${counted(rounds.length, 'round')} kept.`);
  }
  async function remove(round: Round): Promise<void> {
    if (waiting.some((one) => one.round.id === round.id)) {
      await drop(round.id);
      tell(`The round of ${round.on} is taken off.`, () => void keep(round));
      return;
    }
    const address = `/api/systems/${systemId}/rounds/${round.id}`;
    const answer = await fetch(address, { method: 'DELETE' }).catch(() => null);
    if (!answer?.ok) {
      tell('The round could not be taken off: the server was not reached. Try again.');
      return;
    }
    router.refresh();
    tell(`The round of ${round.on} is taken off.`, () => {
      void fetch(address, { method: 'POST' }).then(() => router.refresh());
    });
  }

  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="text-xl font-semibold">Hydrometer rounds</h1>
      <p className="text-ink-soft mb-3 text-sm">
        {system.name}
        {due && `. Next round due on ${due}.`}
      </p>
      <p className="border-rule-strong mb-3 border-l-3 pl-2 text-sm" role="status">
        {!isOnline ? 'The network is away. ' : ''}
        {waiting.length > 0
          ? `${counted(waiting.length, 'round')} kept on this device, waiting to be sent.`
          : 'Everything that was kept is on the server.'}{' '}
        {offline === 'kept'
          ? 'This page opens without the network too.'
          : offline === 'not'
            ? 'This browser cannot open the page without the network; leave it open.'
            : ''}
      </p>
      {waiting
        .filter((one) => one.refused)
        .map(({ round, refused }) => (
          <p key={round.id} role="alert" className="text-hazard mb-2 text-sm">
            The round of {round.on} was not taken: {refused} It stays on this device.
          </p>
        ))}
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
            waiting={waiting.map((one) => one.round.id)}
            onRemove={(round) => void remove(round)}
          />
        </>
      )}
    </main>
  );
}
