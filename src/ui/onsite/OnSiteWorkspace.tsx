'use client';
/** An hour on site: one round from the displays to the signature, typed with or without the network. */

import { useState } from 'react';
import type { JobDigest } from '@/core/diagnosis/summary';
import { allSaid, isBegun } from '@/core/onsite/judge';
import type { Visit } from '@/core/onsite/visit';
import type { Job, System } from '@/core/system/schema';
import type { PhotoShown } from '@/ui/describe/DescribeWorkspace';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { dayText } from '@/core/quantity/text';
import { useToast } from '@/ui/primitives/Toasts';
import { today } from '@/ui/primitives/today';
import { NetworkNote } from '@/ui/records/NetworkNote';
import { useRecords } from '@/ui/records/useRecords';
import { dropDraft } from '@/ui/records/waiting';
import { WithDraft } from '@/ui/records/WithDraft';
import { stepStates } from '@/ui/workspace/states';
import { WorkspaceFrame } from '@/ui/workspace/WorkspaceFrame';
import { SaidList } from './SaidList';
import { stopName } from '@/core/onsite/stopNames';
import { StopBody } from './StopBody';
import { usePhotoQueue } from './usePhotoQueue';
import { newRound, type RoundDraft, RoundProvider, useRound } from './useRound';
import { VisitList } from './VisitList';

interface Props {
  id: string;
  job: Job;
  systemId: string;
  system: System;
  recordings: number;
  digest: JobDigest | null;
  photos: PhotoShown[];
  /** Visits of this job that the server has, the oldest first. */
  kept: Visit[];
}

export function OnSiteWorkspace(props: Props) {
  return (
    <WithDraft<RoundDraft> systemId={props.id} kind="visit" noun="round">
      {(draft) => <Opened {...props} draft={draft} />}
    </WithDraft>
  );
}

function Opened({ draft, ...props }: Props & { draft: RoundDraft | null }) {
  const [start] = useState(() => draft ?? newRound(props.id));
  return (
    <RoundProvider jobId={props.id} job={props.job} system={props.system} start={start}>
      <Shown {...props} />
    </RoundProvider>
  );
}

const nameOf = ({ on }: Visit): string => `the visit of ${dayText(on)}`;

function Shown({ id, job, systemId, system, recordings, digest, photos, kept }: Props) {
  const round = useRound();
  const tell = useToast();
  const records = useRecords(systemId, 'visit', kept, nameOf);
  const queue = usePhotoQueue(id, photos);
  const [problem, setProblem] = useState<string | null>(null);
  const { stop, stops, visit, judged } = round;
  const place = stops.indexOf(stop);
  const mine = records.all.filter((one) => one.job === id);

  async function keep(): Promise<void> {
    const whole = round.whole();
    if ('problem' in whole) {
      setProblem(`${whole.problem} (${whole.path.split('.').join(', ')})`);
      return;
    }
    setProblem(null);
    // A sheet that is opened again is signed again.
    const signed = whole.visit.signedBy ? { ...whole.visit, signedOn: today() } : whole.visit;
    await records.keep(signed);
    tell(signed.signedBy ? 'The visit is signed and kept.' : 'The visit is kept as it stands.');
    if (signed.signedBy) {
      void dropDraft(id, 'visit');
      round.open(newRound(id));
      window.scrollTo({ top: 0 });
    }
  }

  return (
    <WorkspaceFrame
      jobId={id}
      step="on-site"
      states={stepStates(job, system, recordings, digest)}
      title={job.title}
      system={system.name}
      notebook={<Notebook />}
      notebookName="Findings"
    >
      <NetworkNote
        waiting={records.waiting}
        isOnline={records.isOnline}
        offline={records.offline}
        noun="visit"
        nameOf={nameOf}
      />
      <VisitList
        jobId={id}
        visits={mine}
        waiting={records.waiting.map((one) => one.record.id)}
        current={visit.id}
        onOpen={(one) => round.open({ stop: 'displays', typed: one as unknown as Record<string, unknown> })}
        onRemove={(one) => void records.remove(one)}
      />
      <StopTabs />
      <section aria-label={stopName(stop, system)} className="border-rule-strong bg-sheet border p-3">
        <h2 className="mb-2 font-semibold">
          {place + 1} of {stops.length}: {stopName(stop, system)}
        </h2>
        <StopBody stop={stop} photos={queue} />
        <div className="mt-3">
          <SaidList said={judged[stop]} label="Findings at this stop" />
        </div>
      </section>
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      <Foot onKeep={() => void keep()} />
    </WorkspaceFrame>
  );
}

/** All stops, with which are begun, passed over, or open. */
function StopTabs() {
  const { stops, stop, go, visit, judged, system } = useRound();
  const stateOf = (one: (typeof stops)[number]) =>
    visit.passedOver?.includes(one)
      ? 'not looked at'
      : judged[one].some((said) => said.weight === 'fault')
        ? 'fault'
        : isBegun(visit, one)
          ? 'begun'
          : '';
  return (
    <nav aria-label="Stops of the round" className="mb-2">
      <label className="flex items-center gap-2 text-sm lg:hidden">
        Stop
        <select
          className="border-rule-strong bg-sheet min-h-11 w-full border px-2 text-base"
          aria-label="Stop"
          value={stop}
          onChange={({ target }) => go(target.value as typeof stop)}
        >
          {stops.map((one, k) => (
            <option key={one} value={one}>
              {k + 1} {stopName(one, system)}
              {stateOf(one) && ` · ${stateOf(one)}`}
            </option>
          ))}
        </select>
      </label>
      <ol className="hidden flex-wrap gap-1 lg:flex">
        {stops.map((one, k) => (
          <li key={one}>
            <button
              type="button"
              aria-current={one === stop ? 'step' : undefined}
              className={`border px-2 py-1 text-left text-sm ${one === stop ? 'border-accent bg-accent-soft font-semibold' : 'border-rule-strong bg-sheet'}`}
              onClick={() => go(one)}
            >
              {k + 1} {stopName(one, system)}
              {stateOf(one) && (
                <span className="text-ink-soft block text-xs font-normal">{stateOf(one)}</span>
              )}
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}

function Foot({ onKeep }: { onKeep(): void }) {
  const { stops, stop, go, set, visit, system } = useRound();
  const place = stops.indexOf(stop);
  const [before, next] = [stops[place - 1], stops[place + 1]];
  const passed = visit.passedOver?.includes(stop) ?? false;
  const passOver = () => {
    const others = (visit.passedOver ?? []).filter((one) => one !== stop);
    set('passedOver', passed ? others : [...others, stop]);
  };
  return (
    <div className="bg-paper sticky bottom-0 mt-3 flex flex-wrap items-center gap-2 py-2">
      <button
        type="button"
        className={`${buttonClass} min-h-11`}
        disabled={!before}
        onClick={() => go(before!)}
      >
        Back
      </button>
      {next && (
        <button type="button" className={`${mainButtonClass} min-h-11`} onClick={() => go(next)}>
          Next: {stopName(next, system)}
        </button>
      )}
      {stop !== 'sign' && (
        <button type="button" className={`${buttonClass} min-h-11`} aria-pressed={passed} onClick={passOver}>
          {passed ? 'Look at it after all' : 'Not looked at'}
        </button>
      )}
      <button type="button" className={`${next ? buttonClass : mainButtonClass} min-h-11`} onClick={onKeep}>
        {visit.signedBy ? 'Sign and keep' : 'Keep as it stands'}
      </button>
    </div>
  );
}

/** All findings so far, faults first. */
function Notebook() {
  const { judged, stops, stop, visit } = useRound();
  const said = allSaid(
    judged,
    stops.filter((one) => one === stop || isBegun(visit, one)),
  );
  return (
    <div className="p-3">
      <h2 className="mb-2 font-semibold">Findings</h2>
      {said.length === 0 ? (
        <p className="text-ink-soft text-sm">
          Nothing is read yet. Type what the displays show: what follows from it stands here.
        </p>
      ) : (
        <SaidList said={said} label="All findings" />
      )}
    </div>
  );
}
