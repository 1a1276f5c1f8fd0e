'use client';
/** Settings that were tried, put on the settings sheet with the reason: one change for the record for each that differs. */

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { counted } from '@/core/quantity/text';
import { fieldAt } from '@/core/system/fields';
import { AskDialog, DayField, DialogEnd, LinesField } from '@/ui/primitives/AskDialog';
import { today } from '@/ui/primitives/today';
import { postChange } from '@/ui/primitives/postChange';
import { useToast } from '@/ui/primitives/Toasts';

export interface SettingRow {
  path: string;
  before: number | null;
  after: number | null;
}

interface Props {
  systemId: string;
  systemVersion: number;
  /** Those that differ from what is set. */
  rows: readonly SettingRow[];
  /** What the replay says for them. */
  reason: string;
  /** Where they have to be set too, "the monitor". */
  on: string;
  disabled: boolean;
}

export function TakeOver({ disabled, ...props }: Props) {
  return (
    <AskDialog
      trigger="Take over"
      title="Take over to the settings sheet"
      disabled={disabled || props.rows.length === 0}
    >
      {(close) => <TakeOverForm {...props} onDone={close} />}
    </AskDialog>
  );
}

interface FormProps extends Omit<Props, 'disabled'> {
  onDone(): void;
}

function TakeOverForm({ systemId, systemVersion, rows, reason, on: device, onDone }: FormProps) {
  const router = useRouter();
  const tell = useToast();
  const [left, setLeft] = useState<string[]>([]);
  const [on, setOn] = useState(today);
  const [why, setWhy] = useState(reason);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const taken = rows.filter((one) => !left.includes(one.path));

  async function take(): Promise<void> {
    setBusy(true);
    setProblem(null);
    let base = systemVersion;
    let done = 0;
    try {
      for (const { path, after } of taken) {
        const answer = await change(systemId, { base, path, after, why, on });
        if ('problem' in answer) {
          setProblem(
            done > 0
              ? `${counted(done, 'setting')} of ${taken.length} taken over. ${answer.problem}`
              : answer.problem,
          );
          return;
        }
        base = answer.version;
        done++;
      }
      tell(`${counted(done, 'setting')} taken over. Set ${done === 1 ? 'it' : 'them'} on ${device} too.`);
      onDone();
    } finally {
      setBusy(false);
      if (done > 0) router.refresh();
    }
  }

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void take();
      }}
    >
      <p className="text-ink-soft text-sm">
        Each is set in the description and kept for the record; set it on {device} too. Logs from before that
        day are still judged by what was set then.
      </p>
      <ul className="mt-2 text-sm">
        {rows.map(({ path, before, after }) => {
          const { label, unit } = fieldAt(path);
          return (
            <li key={path} className="border-rule border-t py-1 first:border-0">
              <label className="flex flex-wrap items-baseline gap-x-2">
                <input
                  type="checkbox"
                  className="accent-accent size-4 self-center"
                  checked={!left.includes(path)}
                  onChange={({ target }) =>
                    setLeft((now) => (target.checked ? now.filter((one) => one !== path) : [...now, path]))
                  }
                />
                <span className="min-w-36">{label}</span>
                <span className="font-mono">
                  {before ?? 'not set'} → {after ?? 'not set'} {after === null ? '' : unit}
                </span>
              </label>
            </li>
          );
        })}
      </ul>
      <DayField label="Changed on" value={on} onChange={setOn} />
      <LinesField label="Why" rows={4} value={why} onChange={setWhy} />
      <DialogEnd problem={problem} disabled={busy || taken.length === 0}>
        Change and record
      </DialogEnd>
    </form>
  );
}

/** One change for the record; a description that somebody else has changed meanwhile is taken as it stands now. */
async function change(
  systemId: string,
  body: Parameters<typeof postChange>[1],
): Promise<{ version: number } | { problem: string }> {
  for (let attempt = 0; attempt < 2; attempt++) {
    const answer = await postChange(systemId, body);
    if (answer.kind === 'changed') return { version: answer.version };
    if (answer.kind === 'refused') return { problem: Object.values(answer.problems)[0]! };
    body = { ...body, base: answer.version };
  }
  return { problem: 'Somebody is changing this system at the same time. Try again.' };
}
