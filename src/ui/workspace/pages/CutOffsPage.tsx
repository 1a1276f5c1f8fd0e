'use client';
/** The step on cut-offs, beside the notebook. */

import { CutOffsStep } from '@/ui/cutoffs/CutOffsStep';
import { type StepProps, Workspace } from '../Workspace';

export const CutOffsPage = (props: StepProps) => (
  <Workspace {...props} step="cut-offs">
    {({ lit }) => (
      <CutOffsStep
        jobId={props.id}
        systemId={props.systemId}
        system={props.system}
        diagnosis={props.diagnosis}
        hasLogs={props.recordings.length > 0}
        lit={lit}
      />
    )}
  </Workspace>
);
