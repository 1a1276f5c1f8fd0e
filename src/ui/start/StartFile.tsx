'use client';
/** One file of a new job: which device wrote it, what its columns are, and what it suggests of the bank. */

import { useEffect, useState } from 'react';
import type { DeviceKind } from '@/core/log/recognise';
import { recipeKey } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import { type BankSuggestion } from '@/core/suggest/bank';
import { suggestDevice } from '@/core/suggest/device';
import type { NewDevice } from '@/core/system/newDevice';
import { ReadingQuestions } from '@/ui/upload/Confirm';
import { useReadingForm } from '@/ui/upload/readingForm';
import { type Head, type Looked, useHead } from '@/ui/upload/useHead';
import { Fact } from './FactFields';

/** What is known of a file, for the page. */
export interface FileState {
  kind: NewDevice | null;
  /** Why it cannot be taken in yet. */
  trouble: string | null;
  suggested: BankSuggestion | null;
  describe(device: string): LogDescription;
  recipe: string;
}

export const KIND_WORDS: Record<NewDevice, string> = {
  monitor: 'The battery monitor, or a logger at the battery',
  source: 'A charger',
  bms: 'The BMS',
};

interface Props {
  file: File;
  timeZone: string;
  onState(state: FileState): void;
  onRemove(): void;
}

/** Files are looked at as a monitor’s until it is known whose they are: a lone current is then the battery’s. */
const FIRST: DeviceKind = 'monitor';

export function StartFile({ file, timeZone, onState, onRemove }: Props) {
  const [said, setSaid] = useState<NewDevice | ''>('');
  const first = useHead(file, FIRST);
  const suggested = first.looked && suggestDevice(file.name, first.looked.reading);
  const guess = suggested?.value === 'load' ? null : (suggested?.value ?? null);
  const kind = said || guess;
  const head = useHead(file, kind ?? FIRST);
  const looked = head.looked;
  const [again, setAgain] = useState<{ of: Looked; looked: Looked } | null>(null);
  const shown = again && again.of === looked ? again.looked : looked;
  return (
    <li className="border-rule-strong bg-sheet border p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-semibold">
          <bdi>{file.name}</bdi>
        </h3>
        <button type="button" className="text-accent text-sm underline" onClick={onRemove}>
          Leave it out<span className="sr-only">: {file.name}</span>
        </button>
      </div>
      {(first.problem ?? head.problem) && (
        <p role="alert" className="border-hazard mt-2 border-l-3 pl-2 text-sm">
          {first.problem ?? head.problem}
        </p>
      )}
      {!first.looked && !first.problem && (
        <p className="text-ink-soft mt-1 text-sm" role="status">
          Looking at its first rows …
        </p>
      )}
      {first.looked && (
        <div className="mt-2">
          <Fact label="Written by" hint={suggested?.why ?? ''}>
            {(field) => (
              <select
                {...field}
                className="border-rule-strong bg-paper mt-0.5 block w-full border px-2 py-2 text-base sm:w-auto"
                value={kind ?? ''}
                onChange={({ target }) => setSaid(target.value as NewDevice)}
              >
                <option value="" disabled>
                  Which device?
                </option>
                {(Object.keys(KIND_WORDS) as NewDevice[]).map((one) => (
                  <option key={one} value={one}>
                    {KIND_WORDS[one]}
                  </option>
                ))}
              </select>
            )}
          </Fact>
        </div>
      )}
      {shown && (
        <Columns
          key={`${kind}${shown.reading.columns.findIndex((one) => one.role === 'time')}`}
          kind={kind}
          looked={shown}
          timeZone={timeZone}
          head={head}
          onTimeColumn={(heading) =>
            void head.lookAgain(heading).then((found) => {
              if (found && looked) setAgain({ of: looked, looked: found });
            })
          }
          onState={onState}
        />
      )}
    </li>
  );
}

function Columns({
  kind,
  looked,
  timeZone,
  head,
  onTimeColumn,
  onState,
}: {
  kind: NewDevice | null;
  looked: Looked;
  timeZone: string;
  head: Head;
  onTimeColumn(heading: string): void;
  onState(state: FileState): void;
}) {
  const form = useReadingForm(looked, null, timeZone);
  const [suggested, setSuggested] = useState<BankSuggestion | null>(null);
  const trouble = kind === null ? 'Say which device wrote it.' : form.trouble;
  const asked = form.trouble === null ? JSON.stringify(form.description(kind ?? FIRST)) : null;
  useEffect(() => {
    if (asked === null) return;
    let stale = false;
    void head
      .suggest(JSON.parse(asked) as LogDescription, timeZone)
      .then((bank) => !stale && setSuggested(bank));
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the question is told by its text; head is new at every drawing
  }, [asked, timeZone]);
  useEffect(() => {
    onState({
      kind,
      trouble,
      suggested,
      describe: form.description,
      recipe: recipeKey(kind ?? FIRST, looked.reading.dialect.delimiter, looked.preview.headings),
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the form is told by the text of its description
  }, [kind, trouble, suggested, asked]);
  const used = form.columns.filter((one) => one.role !== null).length;
  return (
    <>
      <details className="mt-2 text-sm" open={form.trouble !== null || undefined}>
        <summary className="text-accent cursor-pointer underline">
          {used} of {form.columns.length} columns are read: what each of them is
        </summary>
        <div className="mt-2 grid gap-3">
          <ReadingQuestions
            looked={looked}
            form={form}
            device={kind ?? FIRST}
            timeZone={timeZone}
            timesOf={head.timesOf}
            onTimeColumn={onTimeColumn}
          />
        </div>
      </details>
      {trouble && <p className="mt-2 text-sm">{trouble}</p>}
    </>
  );
}
