'use client';
/** The steps that describe a job and its system, over one form that saves itself. */

import { FormProvider } from 'react-hook-form';
import type { JobDigest } from '@/core/diagnosis/summary';
import type { RecordingInfo } from '@/core/log/recording';
import type { Change } from '@/core/bundle/schema';
import type { Job, System } from '@/core/system/schema';
import { stepStates } from '@/ui/workspace/states';
import type { DescribeStep } from '@/ui/workspace/steps';
import { WorkspaceFrame } from '@/ui/workspace/WorkspaceFrame';
import { Conflicts } from './Conflicts';
import { TypedDescription, useTyped } from './fields/context';
import { ReviewPanel } from './ReviewPanel';
import { SaveWord } from './SaveWord';
import { MakeSafe } from './steps/MakeSafe';
import { Settings } from './steps/Settings';
import { TakeIn } from './steps/TakeIn';
import { Wiring } from './steps/Wiring';
import { type DescriptionForm, useDescription } from './useDescription';

export interface PhotoShown {
  id: string;
  item: string;
  width: number;
  height: number;
}

export interface ChangeShown extends Change {
  id: string;
}

interface Props {
  id: string;
  job: Job;
  jobVersion: number;
  systemId: string;
  system: System;
  systemVersion: number;
  recordings: RecordingInfo[];
  photos: PhotoShown[];
  changes: ChangeShown[];
  changeCount: number;
  digest: JobDigest | null;
  step: DescribeStep;
}

export function DescribeWorkspace(props: Props) {
  const { id, job, jobVersion, systemId, system, systemVersion } = props;
  const description = useDescription({ jobId: id, job, jobVersion, systemId, system, systemVersion });
  return (
    <FormProvider {...description.form}>
      <TypedDescription system={system} job={job}>
        <Step {...props} description={description} />
      </TypedDescription>
    </FormProvider>
  );
}

function Step({
  id,
  systemId,
  recordings,
  photos,
  changes,
  changeCount,
  digest,
  step,
  description,
}: Props & { description: DescriptionForm }) {
  const { job, system } = useTyped();
  return (
    <WorkspaceFrame
      jobId={id}
      step={step}
      states={stepStates(job, system, recordings.length, digest)}
      title={job.title}
      system={system.name}
      status={<SaveWord state={description.state} />}
      notebook={<ReviewPanel jobId={id} step={step} />}
      notebookName="Review"
    >
      <Conflicts description={description} />
      {step === 'take-in' && <TakeIn jobId={id} />}
      {step === 'make-safe' && <MakeSafe jobId={id} photos={photos} />}
      {step === 'wiring' && <Wiring />}
      {step === 'settings' && (
        <Settings
          jobId={id}
          systemId={systemId}
          changes={changes}
          changeCount={changeCount}
          description={description}
        />
      )}
    </WorkspaceFrame>
  );
}
