'use client';
/** What to set, device by device, and the record of what was changed, when and why. */

import { Dialog } from 'radix-ui';
import { dayText } from '@/core/quantity/text';
import { useId, useState } from 'react';
import { z } from 'zod';
import { changeSchema } from '@/core/bundle/schema';
import type { SheetRow } from '@/core/system/review/review';
import { systemSchema } from '@/core/system/schema';
import { resyncSentence } from '@/core/system/schools';
import { DateInput } from '@/ui/primitives/DateInput';
import { ask } from '@/ui/primitives/ask';
import { postChange } from '@/ui/primitives/postChange';
import { useToast } from '@/ui/primitives/Toasts';
import type { ChangeShown } from '../DescribeWorkspace';
import { useTyped } from '../fields/context';
import { inputClass } from '../fields/FieldFrame';
import { readNumber } from '../fields/secondUnit';
import type { DescriptionForm } from '../useDescription';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { today } from '@/ui/primitives/today';
import { Section } from './Section';
import { SheetTable } from './SheetTable';
import { figure, groupedByDevice } from './sheetText';

interface Props {
  jobId: string;
  systemId: string;
  sheet: readonly SheetRow[];
  /** The latest changes, and how many there are. */
  changes: ChangeShown[];
  changeCount: number;
  description: DescriptionForm;
}

const PUT_BACK = z.object({ version: z.number(), system: systemSchema });
const CHANGES = z.array(changeSchema.extend({ id: z.string() }));

export function SettingsSheet({ jobId, systemId, sheet, changes: start, changeCount, description }: Props) {
  const { system } = useTyped();
  const [changes, setChanges] = useState(start);
  const [earlier, setEarlier] = useState(changeCount - start.length);
  const [open, setOpen] = useState<SheetRow | null>(null);
  const tell = useToast();

  async function undo(change: ChangeShown): Promise<void> {
    await description.settledVersion('system');
    const answer = await ask(`/api/systems/${systemId}/changes/${change.id}`, PUT_BACK, {
      method: 'DELETE',
    });
    if (!answer.ok) return tell(`${change.label} was not put back. ${answer.problem}`);
    description.adopt('system', answer.value.version, answer.value.system);
    setChanges((now) => now.filter((one) => one.id !== change.id));
    tell(`${change.label} put back.`);
  }

  async function showEarlier(): Promise<void> {
    const last = changes.at(-1);
    const answer = await ask(`/api/systems/${systemId}/changes?after=${last?.id ?? ''}`, CHANGES);
    if (!answer.ok) return tell(answer.problem);
    const more = answer.value;
    setChanges((now) => [...now, ...more]);
    setEarlier((now) => (more.length === 0 ? 0 : Math.max(0, now - more.length)));
  }

  return (
    <>
      <Section
        title="Settings sheet"
        about="A setting that works is kept, whatever school it was made by. Do not raise a limit to hide a fault."
        aside={
          <a href={`/jobs/${jobId}/settings-sheet`} className={buttonClass}>
            Print
          </a>
        }
      >
        {sheet.length === 0 && (
          <p className="text-ink-soft">Too little is known to advise on anything yet.</p>
        )}
        {groupedByDevice(sheet).map(([device, rows]) => (
          <div key={device} className="mb-3">
            <h3 className="font-semibold">{device}</h3>
            <SheetTable
              rows={rows}
              last={(row) => (
                <button
                  type="button"
                  className="text-accent min-h-6 px-1 underline"
                  aria-label={`Change ${row.ofName}: ${row.label}`}
                  onClick={() => setOpen(row)}
                >
                  Change
                </button>
              )}
            />
          </div>
        ))}
        {system.monitor && <p className="text-sm">{resyncSentence(system)}</p>}
      </Section>

      <Section title="Changed settings" about="Kept with the system for whoever comes next.">
        {changes.length === 0 ? (
          <p className="text-ink-soft text-sm">Nothing was changed for the record yet.</p>
        ) : (
          <ul className="text-sm">
            {changes.map((one) => (
              <li
                key={one.id}
                className="border-rule flex flex-wrap items-baseline gap-x-3 border-t py-1 first:border-0"
              >
                <span className="font-mono">{dayText(one.on)}</span>
                <span className="font-semibold">{one.label}</span>
                <span className="font-mono">
                  {figure(one.before, one.unit)} → {figure(one.after, one.unit)}
                </span>
                <span className="min-w-40 flex-1">{one.why}</span>
                <button
                  type="button"
                  className={buttonClass}
                  onClick={() => void undo(one)}
                  aria-label={`Put back ${one.label}`}
                >
                  Put back
                </button>
              </li>
            ))}
          </ul>
        )}
        {earlier > 0 && (
          <button type="button" className={`${buttonClass} mt-2`} onClick={() => void showEarlier()}>
            Show earlier changes ({earlier})
          </button>
        )}
      </Section>

      <ChangeDialog
        key={open?.path ?? 'closed'}
        row={open}
        systemId={systemId}
        description={description}
        onClose={() => setOpen(null)}
        onChanged={(change) => {
          setChanges((now) => [change, ...now]);
          setOpen(null);
        }}
      />
    </>
  );
}

interface DialogProps {
  row: SheetRow | null;
  systemId: string;
  description: DescriptionForm;
  onClose(): void;
  onChanged(change: ChangeShown): void;
}

function ChangeDialog({ row, systemId, description, onClose, onChanged }: DialogProps) {
  const id = useId();
  const [after, setAfter] = useState(row ? String(row.advised) : '');
  const [why, setWhy] = useState(row?.verdict === 'change' ? row.why : '');
  const [on, setOn] = useState(today);
  const [problems, setProblems] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);

  async function change(setting: SheetRow): Promise<void> {
    setBusy(true);
    setProblems({});
    const value = after.trim() === 'off' ? null : (readNumber(after) ?? null);
    try {
      for (let attempt = 0; attempt < 2; attempt++) {
        const base = await description.settledVersion('system');
        const answer = await postChange(systemId, { base, path: setting.path, after: value, why, on });
        if (answer.kind === 'conflict') {
          description.adopt('system', answer.version, answer.value);
          continue;
        }
        if (answer.kind === 'refused') return setProblems(answer.problems);
        description.adopt('system', answer.version, answer.system);
        return onChanged(answer.change);
      }
      setProblems({ '': 'Somebody is changing this system at the same time. Try again.' });
    } finally {
      setBusy(false);
    }
  }

  const field = (name: string, label: string, input: React.ReactNode) => (
    <div className="mt-2">
      <label htmlFor={`${id}-${name}`} className="block text-sm font-semibold">
        {label}
      </label>
      {input}
      {problems[name] && (
        <p role="alert" className="text-hazard text-sm">
          {problems[name]}
        </p>
      )}
    </div>
  );
  return (
    <Dialog.Root open={row !== null} onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed top-1/2 left-1/2 max-h-[90dvh] w-[min(30rem,calc(100vw-2rem))] -translate-1/2 overflow-y-auto border p-4"
        >
          {row && (
            <form
              onSubmit={(event) => {
                event.preventDefault();
                void change(row);
              }}
            >
              <Dialog.Title className="font-semibold">
                {row.ofName}: {row.label}
              </Dialog.Title>
              <p className="text-ink-soft text-sm">
                Now {figure(row.now, row.unit)}. The change is set in this description and kept for the
                record; set it on the device too.
              </p>
              {field(
                'after',
                `New value${row.unit ? `, ${row.unit}` : ''} (“off” for none)`,
                <input
                  id={`${id}-after`}
                  className={`${inputClass} w-40 font-mono`}
                  value={after}
                  onChange={({ target }) => setAfter(target.value)}
                />,
              )}
              {field(
                'on',
                'Changed on',
                <DateInput id={`${id}-on`} className={inputClass} value={on} onChange={setOn} />,
              )}
              {field(
                'why',
                'Why',
                <textarea
                  id={`${id}-why`}
                  rows={4}
                  className={`${inputClass} h-auto w-full py-1`}
                  value={why}
                  onChange={({ target }) => setWhy(target.value)}
                />,
              )}
              {(problems[''] ?? problems.path) && (
                <p role="alert" className="text-hazard mt-2 text-sm">
                  {problems[''] ?? problems.path}
                </p>
              )}
              <div className="mt-3 flex justify-end gap-2">
                <Dialog.Close className={buttonClass}>Leave it</Dialog.Close>
                <button type="submit" className={mainButtonClass} disabled={busy}>
                  Change and record
                </button>
              </div>
            </form>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
