'use client';
/** The workspace of a job: spine, strips, notebook. Evidence in the notebook lights its spans on the strips and goes there. */

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/diagnose';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Job, System } from '@/core/system/schema';
import { Notebook } from '@/ui/notebook/Notebook';
import { Strips } from '@/ui/strips/Strips';
import { LogsStep } from '@/ui/upload/LogsStep';
import { Description } from './Description';
import { Spine, StepMenu } from './Spine';
import type { OpenStep, StepId } from './steps';

interface Props {
  id: string;
  job: Job;
  system: System;
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  step: Exclude<OpenStep, 'report'>;
}

export function Workspace({ id, job, system, recordings, diagnosis, step }: Props) {
  const [lit, setLit] = useState<Span[]>([]);
  const [goal, setGoal] = useState<Span | null>(null);
  const found = diagnosis.findings.filter((one) =>
    ['strong', 'likely', 'possible'].includes(one.standing),
  ).length;
  const states: Partial<Record<StepId, string>> = {
    'take-in': 'described',
    logs: recordings.length === 0 ? 'none yet' : `${recordings.length} taken in`,
    charging: diagnosis.charges.length === 0 ? 'nothing to see' : `${diagnosis.charges.length} charges`,
    weigh: recordings.length === 0 ? '' : found === 0 ? 'nothing found' : `${found} found`,
  };
  const notebook = (
    <Notebook
      job={job}
      diagnosis={diagnosis}
      hasLogs={recordings.length > 0}
      openAll={step === 'weigh'}
      onLight={setLit}
      onGo={step === 'charging' ? setGoal : null}
      jobId={id}
    />
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col md:h-[calc(100dvh-2.5rem)] md:flex-row">
      <Spine jobId={id} current={step} states={states} />
      <main className="flex min-w-0 flex-1 flex-col overflow-y-auto p-3">
        <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
          <div>
            <h1 className="text-lg leading-tight font-semibold">{job.title}</h1>
            <p className="text-ink-soft text-sm">{system.name}</p>
          </div>
          <div className="flex items-center gap-2">
            <StepMenu jobId={id} current={step} />
            <NotebookSheet>{notebook}</NotebookSheet>
          </div>
        </div>
        {step === 'take-in' && <Description job={job} system={system} />}
        {step === 'logs' && <LogsStep jobId={id} system={system} recordings={recordings} />}
        {step === 'charging' && (
          <Strips
            jobId={id}
            system={system}
            recordings={recordings}
            diagnosis={diagnosis}
            lit={lit}
            goal={goal}
          />
        )}
        {step === 'weigh' && <div className="border-rule-strong bg-sheet max-w-3xl border">{notebook}</div>}
      </main>
      {step !== 'weigh' && (
        <aside
          aria-label="Notebook"
          className="border-rule-strong bg-sheet hidden w-84 shrink-0 overflow-y-auto border-l md:block"
        >
          {notebook}
        </aside>
      )}
    </div>
  );
}

/** On a phone the notebook is a sheet. */
function NotebookSheet({ children }: { children: React.ReactNode }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger className="border-rule-strong bg-sheet border px-2 py-1 text-sm md:hidden">
        Notebook
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed inset-x-0 bottom-0 max-h-[85dvh] overflow-y-auto border-t"
        >
          <div className="flex justify-between px-3 pt-2">
            <Dialog.Title className="font-semibold">Notebook</Dialog.Title>
            <Dialog.Close className="text-accent px-2">Close</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
