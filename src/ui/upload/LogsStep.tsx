'use client';
/** The logs of a job, those on their way in, and taking in another. */

import { useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Intake } from '@/core/log/intake';
import type { RecordingInfo } from '@/core/log/recording';
import { devicesOf, type System } from '@/core/system/schema';
import { IntakeList } from './IntakeList';
import { RecordingCard } from './RecordingCard';
import { TakeInLog } from './TakeInLog';

interface Props {
  jobId: string;
  system: System;
  recordings: RecordingInfo[];
  intakes: Intake[];
  trust: Diagnosis['trust'];
}

export function LogsStep({ jobId, system, recordings, intakes, trust }: Props) {
  const [following, setFollowing] = useState<string | null>(null);
  const nameOf = (id: string) => devicesOf(system).find((one) => one.id === id)?.name ?? id;
  return (
    <div className="grid gap-4">
      <section>
        <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
          <h2 className="font-semibold">Logs of this job</h2>
          {recordings.length > 0 && (
            <p className="flex gap-x-3 text-sm">
              <span className="text-ink-soft">All on one clock:</span>
              {(['csv', 'parquet'] as const).map((format) => (
                <a
                  key={format}
                  href={`/api/jobs/${jobId}/timeline?format=${format}`}
                  className="text-accent underline"
                  download
                >
                  {format === 'csv' ? 'CSV' : 'Parquet'}
                  <span className="sr-only"> of the whole timeline</span>
                </a>
              ))}
            </p>
          )}
        </div>
        {recordings.length === 0 ? (
          <p className="text-ink-soft text-sm">None yet.</p>
        ) : (
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y text-sm">
            {recordings.map((one) => (
              <RecordingCard
                key={one.id}
                recording={one}
                sameDevice={recordings.filter((other) => other.device === one.device)}
                deviceName={nameOf(one.device)}
                zone={system.timeZone}
                trust={trust}
              />
            ))}
          </ul>
        )}
      </section>
      <IntakeList jobId={jobId} intakes={intakes} zone={system.timeZone} following={following} />
      <TakeInLog jobId={jobId} system={system} recordings={recordings} onFollowing={setFollowing} />
    </div>
  );
}
