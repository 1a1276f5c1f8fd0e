'use client';
/** The steps that read logs: strips and notebook. Evidence in the notebook lights its spans on the strips and goes there. */

import dynamic from 'next/dynamic';
import { useState } from 'react';
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

/** Each step with scripts of its own. */
const ChargingStep = dynamic(() => import('@/ui/charging/ChargingStep').then((one) => one.ChargingStep));
const CountingStep = dynamic(() => import('@/ui/counting/CountingStep').then((one) => one.CountingStep));
const CutOffsStep = dynamic(() => import('@/ui/cutoffs/CutOffsStep').then((one) => one.CutOffsStep));
const CellsStep = dynamic(() => import('@/ui/cells/CellsStep').then((one) => one.CellsStep));
const LogsStep = dynamic(() => import('@/ui/upload/LogsStep').then((one) => one.LogsStep));
const EvidenceMatrix = dynamic(() =>
  import('@/ui/notebook/EvidenceMatrix').then((one) => one.EvidenceMatrix),
);

interface Props {
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
  step: LogStep;
  /** A few words on the state of each step. */
  states: Partial<Record<StepId, string>>;
}

export function Workspace(props: Props) {
  const { id, job, system, recordings, intakes, diagnosis, notWeighed, step, states } = props;
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
      {step === 'logs' && (
        <LogsStep
          jobId={id}
          system={system}
          recordings={recordings}
          intakes={intakes}
          trust={diagnosis.trust}
        />
      )}
      {step === 'charging' && (
        <ChargingStep
          jobId={id}
          job={job}
          jobVersion={props.jobVersion}
          systemId={props.systemId}
          system={system}
          systemVersion={props.systemVersion}
          changes={props.changes}
          recordings={recordings}
          diagnosis={diagnosis}
          lit={lit}
          goal={goal}
          onGo={go}
        />
      )}
      {step === 'counting' && (
        <CountingStep
          jobId={id}
          systemId={props.systemId}
          system={system}
          systemVersion={props.systemVersion}
          recordings={recordings}
          diagnosis={diagnosis}
          lit={lit}
        />
      )}
      {step === 'cut-offs' && (
        <CutOffsStep
          jobId={id}
          systemId={props.systemId}
          system={system}
          diagnosis={diagnosis}
          hasLogs={recordings.length > 0}
          lit={lit}
        />
      )}
      {step === 'cells' && (
        <CellsStep
          jobId={id}
          systemId={props.systemId}
          system={system}
          diagnosis={diagnosis}
          hasLogs={recordings.length > 0}
        />
      )}
      {step === 'weigh' && (
        <div className="flex flex-col gap-4">
          <EvidenceMatrix jobId={id} diagnosis={diagnosis} />
          <div className="border-rule-strong bg-sheet max-w-3xl border">{notebook}</div>
        </div>
      )}
    </WorkspaceFrame>
  );
}
