'use client';
/** The step on charging: the strips, the charges as a table, the days by the clock, what each source does. */

import { useRouter, useSearchParams } from 'next/navigation';
import { Tabs } from 'radix-ui';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { Strips } from '@/ui/strips/Strips';
import { ChargesTable } from './ChargesTable';
import { DaysView } from './DaysView';
import { SourcesView } from './SourcesView';

const VIEWS = [
  { id: 'strips', name: 'Strips' },
  { id: 'charges', name: 'Charges' },
  { id: 'days', name: 'Days' },
  { id: 'sources', name: 'Sources' },
] as const;

interface Props {
  jobId: string;
  system: System;
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  lit: Span[];
  goal: Span | null;
  onGo: (span: Span) => void;
}

/** Which view stands in the address, and a way to another. */
export function useChargingView(jobId: string): [string, (to: string) => void] {
  const router = useRouter();
  const asked = useSearchParams().get('view');
  const view = VIEWS.some((one) => one.id === asked) ? asked! : 'strips';
  return [view, (to) => router.replace(`/jobs/${jobId}/charging?view=${to}`, { scroll: false })];
}

export function ChargingStep({ jobId, system, recordings, diagnosis, lit, goal, onGo }: Props) {
  const [view, setView] = useChargingView(jobId);
  if (recordings.length === 0) return <Strips {...{ jobId, system, recordings, diagnosis, lit, goal }} />;
  return (
    <Tabs.Root value={view} onValueChange={setView}>
      <Tabs.List
        aria-label="Views of charging"
        className="border-rule-strong mb-2 flex flex-wrap gap-1 border-b"
      >
        {VIEWS.map((one) => (
          <Tabs.Trigger
            key={one.id}
            value={one.id}
            className="data-[state=active]:border-accent data-[state=active]:bg-sheet border-b-3 border-transparent px-3 py-1 data-[state=active]:font-semibold"
          >
            {one.name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="strips">
        <Strips {...{ jobId, system, recordings, diagnosis, lit, goal }} />
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
    </Tabs.Root>
  );
}
