'use client';
/** Settings: the review, the sheet of what to set, the check of a reading against a rested battery, and the record of changes. */

import Link from 'next/link';
import { Tabs } from 'radix-ui';
import { useMemo } from 'react';
import { CALCULATORS } from '@/core/plan/calculators';
import { missingBasics } from '@/core/system/known';
import { reviewSettings } from '@/core/system/review/review';
import { useView, ViewTabs } from '@/ui/primitives/ViewTabs';
import type { ChangeShown } from '../DescribeWorkspace';
import { useTyped } from '../fields/context';
import { NoteList } from '../NoteList';
import type { DescriptionForm } from '../useDescription';
import { RestCheck } from './RestCheck';
import { Schools } from './Schools';
import { Section } from './Section';
import { SettingsSheet } from './SettingsSheet';

const VIEWS = [
  { id: 'review', name: 'Review' },
  { id: 'sheet', name: 'Settings sheet' },
  { id: 'schools', name: 'Schools' },
  { id: 'rest', name: 'Rest voltage' },
  { id: 'calculators', name: 'Calculators' },
] as const;

interface Props {
  jobId: string;
  systemId: string;
  changes: ChangeShown[];
  changeCount: number;
  description: DescriptionForm;
}

export function Settings({ jobId, systemId, changes, changeCount, description }: Props) {
  const { system, job } = useTyped();
  const review = useMemo(() => reviewSettings(system, job), [system, job]);
  const [view, setView] = useView(`/jobs/${jobId}/settings`, VIEWS);
  return (
    <ViewTabs label="Views of the settings" views={VIEWS} view={view} onView={setView}>
      <Tabs.Content value="review">
        <Section
          title="Settings review"
          about={`${review.made} checks of the description alone, before any log; ${review.waiting} wait for something that is not known.`}
        >
          {review.notes.length > 0 ? (
            <NoteList notes={review.notes} />
          ) : (
            <p>
              {missingBasics(system).length > 0
                ? 'Too little is known yet to check much. What to find out first is listed beside.'
                : 'Nothing speaks against these settings.'}
            </p>
          )}
        </Section>
      </Tabs.Content>
      <Tabs.Content value="sheet">
        <SettingsSheet
          jobId={jobId}
          systemId={systemId}
          sheet={review.sheet}
          changes={changes}
          changeCount={changeCount}
          description={description}
        />
      </Tabs.Content>
      <Tabs.Content value="schools">
        <Schools />
      </Tabs.Content>
      <Tabs.Content value="rest">
        <RestCheck />
      </Tabs.Content>
      <Tabs.Content value="calculators">
        <Section title="Little calculators" about="Filled in with this system’s figures.">
          <ul className="grid gap-2 sm:grid-cols-2">
            {CALCULATORS.map((one) => {
              const given = Object.entries(one.from?.(system) ?? {}).filter(
                ([, value]) => value !== undefined,
              );
              const query = new URLSearchParams(given.map(([key, value]) => [key, String(value)]));
              return (
                <li key={one.id}>
                  <Link
                    href={`/calculators/${one.id}?${query.toString()}`}
                    className="text-accent font-semibold underline"
                  >
                    {one.title}
                  </Link>
                  <span className="text-ink-soft block text-sm">{one.about}</span>
                </li>
              );
            })}
          </ul>
        </Section>
      </Tabs.Content>
    </ViewTabs>
  );
}
