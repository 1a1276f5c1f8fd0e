'use client';
/** The settings that were tried, put on the settings sheet with the reason: one change for the record for each that differs. */

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { CounterSettings, SettingName } from '@/core/count/settings';
import { counted } from '@/core/quantity/text';
import { fieldAt } from '@/core/system/fields';
import type { System } from '@/core/system/schema';
import { AskDialog, DayField, DialogEnd, LinesField } from '@/ui/primitives/AskDialog';
import { today } from '@/ui/primitives/today';
import { postChange } from '@/ui/primitives/postChange';
import { useToast } from '@/ui/primitives/Toasts';

interface Props {
  systemId: string;
  systemVersion: number;
  system: System;
  settings: CounterSettings;
  /** What the replay says for them. */
  reason: string;
  disabled: boolean;
}

/** How the exponent works is the device's own way, no setting. */
const TAKEN: readonly Exclude<SettingName, 'peukertBelowRate'>[] = [
  'capacityAh',
  'chargedV',
  'tailPercent',
  'detectionMinutes',
  'efficiencyPercent',
  'peukert',
  'thresholdA',
];

interface Row {
  path: `monitor.${(typeof TAKEN)[number]}`;
  before: number | undefined;
  after: number;
}

const rowsOf = ({ monitor }: System, settings: CounterSettings): Row[] =>
  TAKEN.flatMap((name) => {
    const after = Number(settings[name].toFixed(3));
    const before = monitor?.[name];
    return before === after ? [] : [{ path: `monitor.${name}` as const, before, after }];
  });

export function TakeOver({ systemId, systemVersion, system, settings, reason, disabled }: Props) {
  const rows = rowsOf(system, settings);
  return (
    <AskDialog
      trigger="Take over"
      title="Take over to the settings sheet"
      disabled={disabled || rows.length === 0 || !system.monitor}
    >
      {(close) => <TakeOverForm {...{ systemId, systemVersion, rows, reason }} onDone={close} />}
    </AskDialog>
  );
}

interface FormProps extends Pick<Props, 'systemId' | 'systemVersion' | 'reason'> {
  rows: Row[];
  onDone(): void;
}

function TakeOverForm({ systemId, systemVersion, rows, reason, onDone }: FormProps) {
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
      tell(`${counted(done, 'setting')} taken over. Set ${done === 1 ? 'it' : 'them'} on the monitor too.`);
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
        Each is set in the description and kept for the record; set it on the monitor too. Logs from before
        that day are still judged by what was set then.
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
                  {before ?? 'not known'} → {after} {unit}
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
