'use client';
/** The steps that read logs: strips and notebook. Evidence in the notebook lights its spans on the strips and goes there. */

import { type ReactNode, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Intake } from '@/core/log/intake';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Change } from '@/core/bundle/schema';
import type { Job, System } from '@/core/system/schema';
import { Notebook } from '@/ui/notebook/Notebook';
import { useChargingView } from '@/ui/charging/useChargingView';
import type { LogStep, StepId } from './steps';
import { WorkspaceFrame } from './WorkspaceFrame';

/** What every step is given: the job with its logs, as the server has it. */
export interface StepProps {
  id: string;
  job: Job;
  jobVersion: number;
  systemId: string;
  system: System;
  systemVersion: number;
  changes: readonly Pick<Change, 'on' | 'label'>[];
  recordings: RecordingInfo[];
  intakes: Intake[];
  diagnosis: Diagnosis;
  /** Why the logs were not weighed; null when they were. */
  notWeighed: string | null;
  /** A few words on the state of each step. */
  states: Partial<Record<StepId, string>>;
}

interface Shared {
  /** Spans lit by the notebook. */
  lit: Span[];
  /** Where the notebook wants to go, and a way there. */
  goal: Span | null;
  go(span: Span): void;
  /** For the step that shows it in its middle. */
  notebook: ReactNode;
}

interface Props extends StepProps {
  step: LogStep;
  children(shared: Shared): ReactNode;
}

export function Workspace(props: Props) {
  const { id, job, system, recordings, diagnosis, notWeighed, step, states, children } = props;
  const [lit, setLit] = useState<Span[]>([]);
  const [goal, setGoal] = useState<Span | null>(null);
  const [view, setView] = useChargingView(id);
  const go = (span: Span) => {
    setGoal(span);
    if (view !== 'strips') setView('strips');
  };
  const notebook = (
    <Notebook
      job={job}
      jobVersion={props.jobVersion}
      diagnosis={diagnosis}
      hasLogs={recordings.length > 0}
      openAll={step === 'weigh'}
      onLight={setLit}
      onGo={step === 'charging' ? go : null}
      jobId={id}
    />
  );
  return (
    <WorkspaceFrame
      jobId={id}
      step={step}
      states={states}
      title={job.title}
      system={system.name}
      notebook={step === 'weigh' ? null : notebook}
    >
      {notWeighed && recordings.length > 0 && (
        <p role="alert" className="border-accent bg-sheet mb-3 border-l-3 p-2 text-sm">
          The logs of this job could not be analysed; based on the description only. {notWeighed} Remove logs
          under Logs until the rest can be analysed.
        </p>
      )}
      {children({ lit, goal, go, notebook })}
    </WorkspaceFrame>
  );
}
