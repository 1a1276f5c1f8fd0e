'use client';
/** The step in which causes are weighed: the notebook in the middle, with causes beside their evidence. */

import { EvidenceMatrix } from '@/ui/notebook/EvidenceMatrix';
import { type StepProps, Workspace } from '../Workspace';

export const WeighPage = (props: StepProps) => (
  <Workspace {...props} step="weigh">
    {({ notebook }) => (
      <div className="flex flex-col gap-4">
        <EvidenceMatrix jobId={props.id} diagnosis={props.diagnosis} />
        <div className="border-rule-strong bg-sheet max-w-3xl border">{notebook}</div>
      </div>
    )}
  </Workspace>
);
