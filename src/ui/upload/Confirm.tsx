'use client';
/** What the columns of a log were taken for, to confirm or to change before it is sent. */

import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';
import {
  channelInfo,
  NAMED_CHANNELS,
  RAW_CHANNEL_NAMES,
  REPORTED_STAGES,
  type ReadChannel,
  WRITTEN_UNITS,
} from '@/core/log/channels';
import type { ColumnReading } from '@/core/log/recognise';
import type { Recipe } from '@/core/log/intake';
import type { HeadTimes } from '@/core/log/preview';
import type { LogDescription } from '@/core/log/takeIn';
import type { DateOrder } from '@/core/log/timeFormat';
import { duration } from '@/core/quantity/text';
import { labelOf, type ReadingForm, useReadingForm } from './readingForm';
import { SignCheck } from './SignCheck';
import { Trace } from './Trace';
import type { Head, Looked } from './useHead';

const SURE = { certain: 'certain', likely: 'likely', ask: 'please say' };
const boxClass = 'border-rule-strong bg-paper border px-1';

interface QuestionProps {
  looked: Looked;
  form: ReadingForm;
  device: string;
  timeZone: string;
  timesOf: Head['timesOf'];
  /** Another column is said to hold the time. */
  onTimeColumn: (heading: string) => void;
}

interface Props extends Omit<QuestionProps, 'form'> {
  recipe: Recipe | null;
  onConfirm: (description: LogDescription) => void;
}

export function Confirm({ recipe, onConfirm, ...props }: Props) {
  const form = useReadingForm(props.looked, recipe, props.timeZone);
  return (
    <div className="mt-4 grid gap-3">
      <h3 className="text-sm font-semibold">Is this what the columns are?</h3>
      <ReadingQuestions {...props} form={form} />
      {form.trouble && <p className="text-sm">{form.trouble}</p>}
      <button
        type="button"
        disabled={form.trouble !== null}
        onClick={() => onConfirm(form.description(props.device))}
        className="bg-accent text-on-accent disabled:bg-rule disabled:text-ink-soft justify-self-start px-3 py-1.5"
      >
        Take it in
      </button>
    </div>
  );
}

/** What each column is, and what the log does not say by itself. */
export function ReadingQuestions({ looked, form, device, timeZone, timesOf, onTimeColumn }: QuestionProps) {
  const { reading, preview } = looked;
  const { asks } = form;
  return (
    <>
      <ColumnTable looked={looked} form={form} onTimeColumn={onTimeColumn} />
      <details className="text-sm">
        <summary className="text-accent cursor-pointer underline">The first rows as they stand</summary>
        <div
          className="border-rule mt-1 overflow-x-auto border"
          tabIndex={0}
          role="region"
          aria-label="First rows"
        >
          <table className="border-collapse text-xs">
            <thead>
              <tr className="border-rule-strong border-b text-left">
                {preview.headings.map((heading, i) => (
                  <th key={i} className="px-2 py-1 whitespace-nowrap">
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {preview.rows.map((row, i) => (
                <tr key={i} className="border-rule border-b font-mono">
                  {preview.headings.map((_, k) => (
                    <td key={k} className="px-2 py-0.5 whitespace-nowrap">
                      {row[k]}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
      {form.signs.map((one) => (
        <SignCheck key={one.column.index} {...one} onAnswer={form.answerSign} />
      ))}
      {form.columns.some((one) => one.question) && (
        <ul className="list-disc pl-5 text-sm">
          {form.columns
            .filter((one) => one.question)
            .map((one) => (
              <li key={one.index}>{one.question}</li>
            ))}
        </ul>
      )}
      {asks.order && (
        <label className="block text-sm">
          Dates have{' '}
          <select
            className={boxClass}
            value={form.dateOrder}
            onChange={(event) => form.setDateOrder(event.target.value as DateOrder)}
          >
            <option value="">…</option>
            <option value="dmy">the day first</option>
            <option value="mdy">the month first</option>
          </select>
        </label>
      )}
      {asks.start && (
        <label className="block text-sm">
          The first row was written at{' '}
          <input
            type="datetime-local"
            step={1}
            className={boxClass}
            value={form.startAt}
            onChange={(event) => form.setStartAt(event.target.value)}
          />
        </label>
      )}
      {asks.words.map((word) => (
        <label key={word} className="block text-sm">
          “{word}” means{' '}
          <select
            className={boxClass}
            value={Object.hasOwn(form.words, word) ? form.words[word] : ''}
            onChange={(event) => form.setWord(word, event.target.value)}
          >
            <option value="" disabled>
              …
            </option>
            {REPORTED_STAGES.map((stage) => (
              <option key={stage}>{stage}</option>
            ))}
            <option value="none">no stage</option>
          </select>
        </label>
      ))}
      <div className="text-sm">
        {reading.time?.format.kind !== 'epoch' && (
          <label>
            Times without an offset are read in{' '}
            <select
              className={boxClass}
              value={form.timeZone}
              onChange={(event) => form.setTimeZone(event.target.value)}
            >
              {[...new Set([form.timeZone, timeZone, 'UTC', ...Intl.supportedValuesOf('timeZone')])].map(
                (zone) => (
                  <option key={zone}>{zone}</option>
                ),
              )}
            </select>
          </label>
        )}
        <FirstRows form={form} device={device} zone={timeZone} timesOf={timesOf} />
      </div>
    </>
  );
}

function ColumnTable({
  looked: { reading, preview },
  form,
  onTimeColumn,
}: {
  looked: Looked;
  form: ReadingForm;
  onTimeColumn: (heading: string) => void;
}) {
  const format = reading.time?.format;
  const clockColumn = format?.kind === 'date-and-clock' ? format.clockColumn : -1;
  const roles = form.columns.map((one) => one.role);
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-xs">
        <thead>
          <tr className="border-rule-strong border-b text-left">
            <th className="py-1 pr-3">Heading</th>
            <th className="py-1 pr-3">Trace</th>
            <th className="py-1 pr-3">First values</th>
            <th className="py-1 pr-3">Taken for</th>
            <th className="py-1 pr-3">How sure</th>
            <th className="py-1">Reversed</th>
          </tr>
        </thead>
        <tbody>
          {form.columns.map((one) => (
            <tr key={one.index} className="border-rule border-b">
              <td className="py-1 pr-3 font-semibold">{one.heading}</td>
              <td className="py-1 pr-3">
                {preview.traces[one.index] && one.role !== 'time' && (
                  <Trace values={preview.traces[one.index]!} />
                )}
              </td>
              <td className="py-1 pr-3 font-mono">
                {one.samples.slice(0, one.role === 'time' ? 1 : 2).join('  ')}
              </td>
              <td className="py-1 pr-3 whitespace-nowrap">
                <select
                  aria-label={`${one.heading} is`}
                  className="border-rule-strong bg-paper max-w-52 border px-1 py-0.5"
                  value={one.role ?? ''}
                  onChange={({ target: { value } }) => {
                    if (value === 'time') return onTimeColumn(one.heading);
                    form.change(one.index, {
                      role: (value || null) as typeof one.role,
                      sure: 'certain',
                      question: undefined as never,
                    });
                  }}
                >
                  <option value="">{one.index === clockColumn ? 'the time of day' : 'left out'}</option>
                  <option value="time">time</option>
                  {[
                    ...new Set<ReadChannel>([
                      ...NAMED_CHANNELS,
                      ...RAW_CHANNEL_NAMES,
                      ...roles.filter((role): role is ReadChannel => role !== null && role !== 'time'),
                    ]),
                  ].map((channel) => (
                    <option key={channel} value={channel}>
                      {labelOf(channel)}
                    </option>
                  ))}
                </select>
                <UnitChoice
                  column={one}
                  onChange={({ scale, offset }) => form.change(one.index, { scale, offset })}
                />
              </td>
              <td className="py-1 pr-3">{one.role === null && one.sure !== 'ask' ? '' : SURE[one.sure]}</td>
              <td className="py-1">
                {one.role?.endsWith('current') && (
                  <input
                    type="checkbox"
                    aria-label={`${one.heading}: charging reads negative`}
                    checked={one.invert}
                    onChange={(event) => form.answerSign(one.index, event.target.checked)}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The unit that a column is written in, where its channel has several. */
function UnitChoice({
  column: { heading, role, scale, offset },
  onChange,
}: {
  column: ColumnReading;
  onChange: (part: Pick<ColumnReading, 'scale' | 'offset'>) => void;
}) {
  const units = role === null || role === 'time' ? undefined : WRITTEN_UNITS[channelInfo(role).unit];
  if (!units) return null;
  const at = units.findIndex((one) => one.scale === scale && one.offset === offset);
  return (
    <select
      aria-label={`Unit of ${heading}`}
      className="border-rule-strong bg-paper ml-1 border px-1 py-0.5"
      value={at}
      onChange={({ target: { value } }) => onChange(units[Number(value)]!)}
    >
      {at < 0 && <option value={-1}>× {scale.toPrecision(3)}</option>}
      {units.map(({ unit }, i) => (
        <option key={unit} value={i}>
          {unit}
        </option>
      ))}
    </select>
  );
}

/** When the first rows were written, read as the form says: a wrong zone or order of the date shows here. */
function FirstRows({
  form,
  device,
  zone,
  timesOf,
}: {
  form: ReadingForm;
  device: string;
  zone: string;
  timesOf: Head['timesOf'];
}) {
  const [times, setTimes] = useState<HeadTimes | string | null>(null);
  const asked = JSON.stringify(form.description(device));
  const ready = form.trouble === null;
  useEffect(() => {
    if (!ready) return;
    let stale = false;
    void timesOf(JSON.parse(asked) as LogDescription, zone).then((answer) => !stale && setTimes(answer));
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the question is told by its text; timesOf is new at every drawing
  }, [asked, ready, zone]);
  if (!ready) return null;
  // The line has its place from the start: the button below must not move away under a click.
  if (times === null) return <p className="text-ink-soft mt-1">Looking at the times of the first rows …</p>;
  if (typeof times === 'string') return <p className="mt-1">{times}</p>;
  const text = (ms: number) => DateTime.fromMillis(ms, { zone }).toFormat('d LLL yyyy HH:mm:ss');
  return (
    <p className="text-ink-soft mt-1">
      The first rows run from {text(times.from)} to {text(times.to)}, one every {duration(times.stepMs)}.
    </p>
  );
}
