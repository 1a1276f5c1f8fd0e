'use client';
/** The step on charging: the strips, the charges as a table, the days by the clock, what each source does. */

import { Tabs } from 'radix-ui';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Job, System } from '@/core/system/schema';
import { useView, ViewTabs } from '@/ui/primitives/ViewTabs';
import { Strips } from '@/ui/strips/Strips';
import { ChargesTable } from './ChargesTable';
import { DaysView } from './DaysView';
import { SourcesView } from './SourcesView';
import { WhatIfView } from './WhatIfView';

const VIEWS = [
  { id: 'strips', name: 'Strips' },
  { id: 'charges', name: 'Charges' },
  { id: 'days', name: 'Days' },
  { id: 'sources', name: 'Sources' },
  { id: 'what-if', name: 'What if' },
] as const;

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  systemId: string;
  system: System;
  systemVersion: number;
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  lit: Span[];
  goal: Span | null;
  onGo: (span: Span) => void;
}

/** Which view is open, and a way to another. */
export const useChargingView = (jobId: string) => useView(`/jobs/${jobId}/charging`, VIEWS);

export function ChargingStep({ onGo, ...props }: Props) {
  const { jobId, systemId, system, systemVersion, recordings, diagnosis } = props;
  const [view, setView] = useChargingView(jobId);
  if (recordings.length === 0) return <Strips {...props} />;
  return (
    <ViewTabs label="Views of charging" views={VIEWS} view={view} onView={setView}>
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
