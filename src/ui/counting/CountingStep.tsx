'use client';
/** The step on counting: the reading beside the truth, the syncs, the drift between them. */

import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import Link from 'next/link';
import { countingText } from '@/core/diagnosis/countingText';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { Waiting } from '@/ui/primitives/Waiting';
import { useView, ViewTabs } from '@/ui/primitives/ViewTabs';
import { ChargeCurve } from './ChargeCurve';

const DriftView = dynamic(() => import('./DriftView').then((one) => one.DriftView), { loading: Waiting });
const SettingsBench = dynamic(() => import('./SettingsBench').then((one) => one.SettingsBench), {
  loading: Waiting,
});
const SyncsTable = dynamic(() => import('./SyncsTable').then((one) => one.SyncsTable), { loading: Waiting });

const VIEWS = [
  { id: 'charge', name: 'Charge' },
  { id: 'syncs', name: 'Syncs' },
  { id: 'drift', name: 'Drift' },
  { id: 'bench', name: 'Settings bench' },
] as const;

interface Props {
  jobId: string;
  systemId: string;
  system: System;
  systemVersion: number;
  diagnosis: Diagnosis;
  recordings: readonly RecordingInfo[];
  lit: Span[];
}

export function CountingStep({ jobId, systemId, system, systemVersion, recordings, diagnosis, lit }: Props) {
  const hasLogs = recordings.length > 0;
  const [view, setView] = useView(`/jobs/${jobId}/counting`, VIEWS);
  const { counting, soc } = diagnosis;
  if (!hasLogs || !counting || !soc)
    return (
      <div className="border-rule-strong bg-sheet border p-8">
        <p className="mb-3">
          {hasLogs
            ? 'No log of this job has the current into the battery, so nothing can be counted.'
            : 'There is no log of this job yet: nothing can be counted.'}
        </p>
        <Link href={`/jobs/${jobId}/logs`} className="bg-accent text-on-accent inline-block px-3 py-1.5">
          Take in a log
        </Link>
      </div>
    );
  const [first, ...rest] = countingText(diagnosis, (id) => sourceName(system, id));
  return (
    <ViewTabs label="Views of counting" views={VIEWS} view={view} onView={setView}>
      <Tabs.Content value="charge">
        <ChargeCurve system={system} diagnosis={diagnosis} lit={lit} />
        <div className="mt-3 max-w-3xl text-sm">
          <p className="mb-2 font-semibold">{first}</p>
          <ul className="flex list-disc flex-col gap-1 pl-5">
            {rest.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      </Tabs.Content>
      <Tabs.Content value="syncs">
        <SyncsTable jobId={jobId} system={system} diagnosis={diagnosis} />
      </Tabs.Content>
      <Tabs.Content value="drift">
        <DriftView system={system} counting={counting} />
      </Tabs.Content>
      <Tabs.Content value="bench">
        <SettingsBench {...{ jobId, systemId, system, systemVersion, recordings, diagnosis }} />
      </Tabs.Content>
    </ViewTabs>
  );
}
