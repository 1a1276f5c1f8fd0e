'use client';
/** The step on charging, beside the notebook. */

import { ChargingStep } from '@/ui/charging/ChargingStep';
import { type StepProps, Workspace } from '../Workspace';

export const ChargingPage = (props: StepProps) => (
  <Workspace {...props} step="charging">
    {({ lit, goal, go }) => (
      <ChargingStep
        jobId={props.id}
        job={props.job}
        jobVersion={props.jobVersion}
        systemId={props.systemId}
        system={props.system}
        systemVersion={props.systemVersion}
        changes={props.changes}
        recordings={props.recordings}
        diagnosis={props.diagnosis}
        lit={lit}
        goal={goal}
        onGo={go}
      />
    )}
  </Workspace>
);
