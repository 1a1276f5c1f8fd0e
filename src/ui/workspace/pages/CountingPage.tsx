'use client';
/** The step on counting, beside the notebook. */

import { CountingStep } from '@/ui/counting/CountingStep';
import { type StepProps, Workspace } from '../Workspace';

export const CountingPage = (props: StepProps) => (
  <Workspace {...props} step="counting">
    {({ lit }) => (
      <CountingStep
        jobId={props.id}
        systemId={props.systemId}
        system={props.system}
        systemVersion={props.systemVersion}
        recordings={props.recordings}
        diagnosis={props.diagnosis}
        lit={lit}
      />
    )}
  </Workspace>
);
