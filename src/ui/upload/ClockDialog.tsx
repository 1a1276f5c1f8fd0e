'use client';
/** The clock of a log: what the other logs say of it, laid over each other; zone, offset and drift to set by hand. */

import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useId, useState } from 'react';
import type { Clock } from '@/core/log/clock';
import type { ClockEstimate } from '@/core/log/overlay';
import type { RecordingInfo } from '@/core/log/recording';
import { duration } from '@/core/quantity/text';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { useToast } from '@/ui/primitives/Toasts';
import { setClocks } from './clocks';
import { OverlayChart } from './OverlayChart';

interface Props {
  recording: RecordingInfo;
  deviceName: string;
  zone: string;
  open: boolean;
  onClose: () => void;
}

interface Advice extends ClockEstimate {
  against: string;
  advised: Clock;
}

export function ClockDialog({ recording, deviceName, zone, open, onClose }: Props) {
  const router = useRouter();
  const tell = useToast();
  const id = useId();
  const { clock } = recording;
  const [timeZone, setTimeZone] = useState(clock.timeZone);
  const [minutes, setMinutes] = useState(String(clock.offsetSeconds / 60));
  const [perDay, setPerDay] = useState(String(clock.secondsPerDay));
  const [advice, setAdvice] = useState<Advice | 'looking' | 'nothing' | 'broken'>('looking');
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    if (!open) return;
    let stale = false;
    fetch(`/api/recordings/${recording.id}/clock`)
      .then(async (answer) =>
        answer.ok ? (((await answer.json()) as Advice | null) ?? 'nothing') : 'broken',
      )
      .catch(() => 'broken' as const)
      .then((found) => !stale && setAdvice(found));
    return () => {
      stale = true;
    };
  }, [open, recording.id]);

  async function set(next: Clock) {
    setBusy(true);
    const undo = await setClocks([{ id: recording.id, clock: next }]);
    setBusy(false);
    if (typeof undo === 'string') return tell(undo);
    onClose();
    router.refresh();
    tell(`The clock of ${deviceName} was set.`, () => void undo().then(() => router.refresh()));
  }

  const offset = Number(minutes.replace(',', '.'));
  const drift = Number(perDay.replace(',', '.'));
  const problem = !Number.isFinite(offset)
    ? 'The offset is a number of minutes, such as −60.'
    : !(Math.abs(drift) < 3600)
      ? 'The drift is a number of seconds a day, below an hour.'
      : null;
  const figure = (label: string, unit: string, value: string, onChange: (text: string) => void) => (
    <label className="text-sm">
      <span className="block">{label}</span>
      <input
        inputMode="decimal"
        className="border-rule-strong bg-paper w-24 border px-2 py-1 text-right font-mono"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />{' '}
      <span className="text-ink-soft">{unit}</span>
    </label>
  );

  return (
    <Dialog.Root open={open} onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed top-1/2 left-1/2 max-h-[90dvh] w-[min(44rem,calc(100vw-2rem))] -translate-1/2 overflow-y-auto border p-4"
        >
          <Dialog.Title className="font-semibold">Clock: {deviceName}</Dialog.Title>
          <p className="text-ink-soft text-sm">{recording.fileName}</p>
          <section className="mt-3 text-sm">
            {advice === 'looking' && <p role="status">Comparing it with the other logs …</p>}
            {advice === 'nothing' && (
              <p>
                No other log of this job has seen the same at the same time: nothing speaks of this clock.
              </p>
            )}
            {advice === 'broken' && <p role="alert">The server was not reached: close this and try again.</p>}
            {typeof advice === 'object' && (
              <>
                <p>{adviceSentence(advice)}</p>
                <OverlayChart
                  overlay={advice.overlay}
                  against={advice.against}
                  own={deviceName}
                  zone={zone}
                />
                {!agrees(advice) && (
                  <button
                    type="button"
                    className={`${mainButtonClass} mt-2`}
                    disabled={busy}
                    onClick={() => void set(advice.advised)}
                  >
                    Set it so
                  </button>
                )}
              </>
            )}
          </section>
          <form
            className="border-rule mt-3 grid gap-3 border-t pt-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (!problem)
                void set({ timeZone, offsetSeconds: Math.round(offset * 60), secondsPerDay: drift });
            }}
          >
            <h3 className="text-sm font-semibold">By hand</h3>
            <div className="flex flex-wrap gap-4">
              <label className="text-sm" htmlFor={`${id}-zone`}>
                <span className="block">Zone of its times</span>
                <select
                  id={`${id}-zone`}
                  className="border-rule-strong bg-paper border px-2 py-1"
                  value={timeZone}
                  disabled={!recording.zoned}
                  onChange={(event) => setTimeZone(event.target.value)}
                >
                  {[...new Set([clock.timeZone, 'UTC', ...Intl.supportedValuesOf('timeZone')])].map((one) => (
                    <option key={one}>{one}</option>
                  ))}
                </select>
              </label>
              {figure('Added to its times', 'min', minutes, setMinutes)}
              {figure('Added for every day', 's', perDay, setPerDay)}
            </div>
            {!recording.zoned && (
              <p className="text-ink-soft text-xs">
                Its times carry their own offset from UTC: the zone does not matter.
              </p>
            )}
            {problem && (
              <p role="alert" className="text-hazard text-sm">
                {problem}
              </p>
            )}
            <div className="flex flex-wrap justify-end gap-2">
              <Dialog.Close className={buttonClass}>Leave it</Dialog.Close>
              <button type="submit" className={buttonClass} disabled={busy || problem !== null}>
                Set the clock
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Whether the two agree as they stand: setting the clock would gain nothing that shows. */
const agrees = ({ offset }: Advice): boolean =>
  !offset.sure && offset.shifted >= 0.7 && offset.shifted - offset.unshifted < 0.04;

function adviceSentence(advice: Advice): string {
  const { offset, against } = advice;
  const { ms, secondsPerDay, seen, shifted, unshifted, distinct, sure } = offset;
  const parts = [
    ...(Math.abs(ms) < 1000 ? [] : [`${ms < 0 ? '−' : '+'}${duration(Math.abs(ms))}`]),
    ...(secondsPerDay === 0 ? [] : [`${secondsPerDay} s a day`]),
  ];
  if (agrees(advice))
    return `It agrees with that of ${against}: their ${seen}s move together as they stand (correlation ${unshifted.toFixed(2)}), and no shift makes that noticeably better.`;
  const shift = `Shifted by ${parts.join(' and ') || 'nothing'} against ${against}, their ${seen}s agree best: correlation ${shifted.toFixed(2)} instead of ${unshifted.toFixed(2)}`;
  return sure
    ? `${shift}, ${distinct.toFixed(2)} better than at any other shift. This is sure.`
    : `${shift}. That is too little in common to be sure: judge by the curves.`;
}
