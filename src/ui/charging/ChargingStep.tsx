'use client';
/** The step on charging: the strips, the charges as a table, the days by the clock, what each source does. */

import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Change } from '@/core/bundle/schema';
import type { Job, System } from '@/core/system/schema';
import { Waiting } from '@/ui/primitives/Waiting';
import { ViewTabs } from '@/ui/primitives/ViewTabs';
import { Strips } from '@/ui/strips/Strips';
import { CHARGING_VIEWS, useChargingView } from './useChargingView';

/** Each view with scripts of its own: the strips are there first. */
const ChargesTable = dynamic(() => import('./ChargesTable').then((one) => one.ChargesTable), {
  loading: Waiting,
});
const DaysView = dynamic(() => import('./DaysView').then((one) => one.DaysView), { loading: Waiting });
const SourcesView = dynamic(() => import('./SourcesView').then((one) => one.SourcesView), {
  loading: Waiting,
});
const WhatIfView = dynamic(() => import('./WhatIfView').then((one) => one.WhatIfView), { loading: Waiting });

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  systemId: string;
  system: System;
  systemVersion: number;
  changes: readonly Pick<Change, 'on' | 'label'>[];
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  lit: Span[];
  goal: Span | null;
  onGo: (span: Span) => void;
}

export function ChargingStep({ onGo, ...props }: Props) {
  const { jobId, systemId, system, systemVersion, recordings, diagnosis } = props;
  const [view, setView] = useChargingView(jobId);
  if (recordings.length === 0) return <Strips {...props} />;
  return (
    <ViewTabs label="Views of charging" views={CHARGING_VIEWS} view={view} onView={setView}>
      <Tabs.Content value="strips">
        <Strips {...props} />
      </Tabs.Content>
      <Tabs.Content value="charges">
        <ChargesTable system={system} diagnosis={diagnosis} onGo={onGo} />
      </Tabs.Content>
      <Tabs.Content value="days">
        <DaysView
          system={system}
          diagnosis={diagnosis}
          logEnds={Math.max(...recordings.map((one) => one.to))}
          onGo={onGo}
        />
      </Tabs.Content>
      <Tabs.Content value="sources">
        <SourcesView system={system} diagnosis={diagnosis} />
      </Tabs.Content>
      <Tabs.Content value="what-if">
        <WhatIfView {...{ jobId, systemId, system, systemVersion, diagnosis }} />
      </Tabs.Content>
    </ViewTabs>
  );
}
