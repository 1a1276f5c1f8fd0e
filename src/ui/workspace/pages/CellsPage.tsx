'use client';
/** The step on cells, beside the notebook. */

import { CellsStep } from '@/ui/cells/CellsStep';
import { type StepProps, Workspace } from '../Workspace';

export const CellsPage = (props: StepProps) => (
  <Workspace {...props} step="cells">
    {() => (
      <CellsStep
        jobId={props.id}
        systemId={props.systemId}
        system={props.system}
        diagnosis={props.diagnosis}
        hasLogs={props.recordings.length > 0}
      />
    )}
  </Workspace>
);
