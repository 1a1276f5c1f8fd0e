'use client';
/** A log that was taken in: what it holds, whether it can be believed, its clock, and what can be done with it. */

import { useRouter } from 'next/navigation';
import { DateTime } from 'luxon';
import { useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { isPlain } from '@/core/log/clock';
import type { RecordingInfo } from '@/core/log/recording';
import { DAY } from '@/core/quantity/span';
import { counted, duration } from '@/core/quantity/text';
import { ANYTHING, ask } from '@/ui/primitives/ask';
import { useToast } from '@/ui/primitives/Toasts';
import { useRemoval } from '@/ui/primitives/useRemoval';
import { ClockDialog } from './ClockDialog';
import { clockText, setClocks } from './clocks';

interface Props {
  recording: RecordingInfo;
  /** Every log of the same device: one clock has written them all. */
  sameDevice: RecordingInfo[];
  deviceName: string;
  zone: string;
  trust: Diagnosis['trust'];
}

const linkClass = 'text-accent inline-block min-h-6 underline';

export function RecordingCard({ recording: one, sameDevice, deviceName, zone, trust }: Props) {
  const router = useRouter();
  const tell = useToast();
  const removal = useRemoval();
  const [clockOpen, setClockOpen] = useState(false);
  const replacing = one.replaces.length > 0;

  async function remove(restore: boolean): Promise<void> {
    const address = `/api/recordings/${one.id}`;
    const refresh = () => router.refresh();
    if (!restore)
      return void (await removal({ address, what: one.fileName, onGone: refresh, onBack: refresh }));
    const back = await ask(`${address}?restore`, ANYTHING, { method: 'DELETE' });
    if (!back.ok) return tell(`${one.fileName} was not taken back. ${back.problem}`);
    refresh();
    tell(`${one.fileName} was taken back; what it had replaced is there again.`);
  }

  async function setRight({
    offsetSeconds,
    secondsPerDay,
  }: NonNullable<Diagnosis['trust'][number]['clock']>) {
    // What was found holds from the first of them on; a later one has drifted until its own beginning.
    const begin = Math.min(...sameDevice.map(({ from }) => from));
    const driftedSeconds = (from: number) => Math.round((secondsPerDay * (from - begin)) / DAY);
    const undo = await setClocks(
      sameDevice.map(({ id, clock, from }) => ({
        id,
        clock: {
          ...clock,
          offsetSeconds: clock.offsetSeconds + offsetSeconds + driftedSeconds(from),
          secondsPerDay: clock.secondsPerDay + secondsPerDay,
        },
      })),
    );
    router.refresh();
    if (typeof undo === 'string') return tell(undo);
    tell(`The clock of ${deviceName} was set right.`, () => void undo().then(() => router.refresh()));
  }

  return (
    <li className="grid gap-x-4 px-3 py-2 sm:grid-cols-[1fr_14rem_1fr]">
      <span>
        <bdi className="font-semibold">{one.fileName}</bdi>
        <span className="text-ink-soft block">
          <bdi>{deviceName}</bdi>
        </span>
        <span className="flex flex-wrap items-baseline gap-x-3">
          {(['csv', 'parquet'] as const).map((format) => (
            <a
              key={format}
              href={`/api/recordings/${one.id}/export?format=${format}`}
              className={linkClass}
              download
            >
              {format === 'csv' ? 'CSV' : 'Parquet'}
              <span className="sr-only"> of {one.fileName}</span>
            </a>
          ))}
          {replacing && (
            <button type="button" className={linkClass} onClick={() => void remove(true)}>
              Take back<span className="sr-only"> {one.fileName} for what it replaced</span>
            </button>
          )}
          <button type="button" className={linkClass} onClick={() => void remove(false)}>
            Remove<span className="sr-only"> {one.fileName}</span>
          </button>
        </span>
      </span>
      <span className="font-mono text-xs">
        {DateTime.fromMillis(one.from, { zone }).toFormat('d LLL yyyy HH:mm')}
        <span className="text-ink-soft block">
          {duration(one.to - one.from)}, {one.sampleCount.toLocaleString('en')} samples
        </span>
        <button
          type="button"
          className="text-accent min-h-6 font-sans underline"
          onClick={() => setClockOpen(true)}
        >
          {isPlain(one.clock) ? 'Clock as written' : `Clock ${clockText(one.clock)}`}
          <span className="sr-only">, {one.fileName}</span>
        </button>
      </span>
      <span className="text-ink-soft">
        {one.channels.map((channel) => channel.replace(/_/g, ' ')).join(', ')}
        {trust
          .filter((note) => note.devices.includes(one.device))
          .map((note) => (
            <span key={note.text} className="text-ink border-rule-strong my-1 block border-l-3 pl-2">
              {note.text}{' '}
              {note.clock?.device === one.device && (
                <button type="button" className={linkClass} onClick={() => void setRight(note.clock!)}>
                  Set its clock right
                </button>
              )}
            </span>
          ))}
        {one.unweighed && (
          <span className="text-ink border-accent my-1 block border-l-3 pl-2">
            {one.unweighed} Remove it, or set its clock if that is what is wrong.
          </span>
        )}
        {one.problemCount > 0 && (
          <span className="text-ink block">
            {counted(one.problemCount, 'row')} had a problem.{' '}
            {one.problems[0] && one.problems[0].line > 0 ? `Line ${one.problems[0].line}: ` : ''}
            <bdi>{one.problems[0]?.reason}</bdi>{' '}
            <a href={`/api/recordings/${one.id}/problems`} className={linkClass} download>
              List<span className="sr-only"> of the problems in {one.fileName}</span>
            </a>
          </span>
        )}
      </span>
      <ClockDialog
        key={`${one.clockVersion}${clockOpen}`}
        recording={one}
        deviceName={deviceName}
        zone={zone}
        open={clockOpen}
        onClose={() => setClockOpen(false)}
      />
    </li>
  );
}
