'use client';
/** Make safe and look: the checklist that fits this battery and the work that is planned, with notes and photos. */

import { useController } from 'react-hook-form';
import { type CheckItem, checklistFor, WORK_WORDS } from '@/core/system/checklist';
import { type Answer, ANSWERS, WORKS } from '@/core/system/schema';
import type { PhotoShown } from '../DescribeWorkspace';
import { Checkboxes } from '../fields/Checkboxes';
import { useTyped } from '../fields/context';
import { inputClass } from '../fields/FieldFrame';
import { Photos, usePhotos } from './Photos';
import { Section } from './Section';

const ANSWER_WORDS: Record<Answer, string> = {
  fine: 'fine',
  found: 'found something',
  'not-checked': 'not checked',
};

export function MakeSafe({ jobId, photos: start }: { jobId: string; photos: PhotoShown[] }) {
  const { system, job } = useTyped();
  const photos = usePhotos(jobId, start);
  const items = checklistFor(system, job.works ?? []);
  return (
    <form noValidate onSubmit={(event) => event.preventDefault()}>
      <Section
        title="Planned work"
        about="The lists below fit the battery and what you mean to do. Local codes and the maker’s sheet come before them."
      >
        <Checkboxes
          name="job.works"
          legend="What will be done"
          options={WORKS.map((id) => ({ id, name: WORK_WORDS[id] }))}
        />
      </Section>
      {(['safe', 'look'] as const).map((group) => (
        <Section key={group} title={group === 'safe' ? 'Make safe' : 'Look'}>
          <ul>
            {items
              .filter((one) => one.group === group)
              .map((item) => (
                <Item key={item.id} item={item} photos={photos} />
              ))}
          </ul>
        </Section>
      ))}
    </form>
  );
}

function Item({ item, photos }: { item: CheckItem; photos: ReturnType<typeof usePhotos> }) {
  const { field } = useController({ name: `job.checks.${item.id}` });
  const check = (field.value as { answer?: Answer; note?: string } | undefined) ?? {};
  const answer = check.answer ?? 'not-checked';
  return (
    <li className="border-rule border-t py-2 first:border-0 first:pt-0">
      <fieldset>
        <legend className="float-left mb-1 w-full">
          <span className="font-semibold">{item.text}</span>
          <span className="text-ink-soft block text-sm">{item.more}</span>
        </legend>
        <div className="clear-both flex flex-wrap items-center gap-x-4 gap-y-1.5">
          {ANSWERS.map((one) => (
            <label key={one} className="flex min-h-6 items-center gap-1.5">
              <input
                type="radio"
                name={`check-${item.id}`}
                className="size-4 accent-(--accent)"
                checked={answer === one}
                onChange={() => field.onChange({ ...check, answer: one })}
              />
              {ANSWER_WORDS[one]}
            </label>
          ))}
          <input
            type="text"
            aria-label={`Note: ${item.text}`}
            placeholder="note"
            className={`${inputClass} min-w-40 flex-1`}
            value={check.note ?? ''}
            onChange={({ target }) =>
              field.onChange({ answer, ...(target.value === '' ? {} : { note: target.value }) })
            }
            onBlur={field.onBlur}
          />
          <Photos item={item.id} of={item.text} photos={photos} />
        </div>
      </fieldset>
    </li>
  );
}
