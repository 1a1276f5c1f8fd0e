'use client';
/** The step on logs: what was taken in, and taking in more. */

import { LogsStep } from '@/ui/upload/LogsStep';
import { type StepProps, Workspace } from '../Workspace';

export const LogsPage = (props: StepProps) => (
  <Workspace {...props} step="logs">
    {() => (
      <LogsStep
        jobId={props.id}
        system={props.system}
        recordings={props.recordings}
        intakes={props.intakes}
        trust={props.diagnosis.trust}
      />
    )}
  </Workspace>
);
