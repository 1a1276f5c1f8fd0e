'use client';
/** How the reading parted from the truth, interval by interval, and what each error alone makes of it. */

import {
  type ColumnDef,
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  type SortingState,
  useReactTable,
} from '@tanstack/react-table';
import { DateTime } from 'luxon';
import { useMemo, useState } from 'react';
import { DRIFT_PARTS, type DriftPart } from '@/core/count/types';
import { driftText, PART_WORDS, signed } from '@/core/diagnosis/countingText';
import type { CountingOut } from '@/core/diagnosis/result';
import { ampHours, duration } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { isRight, SortableHeads } from '@/ui/primitives/SortableHeads';
import { TableFrame } from '@/ui/primitives/TableFrame';

type Interval = CountingOut['intervals'][number];

const columns = createColumnHelper<Interval>();

function columnsOf(zone: string) {
  const when = (iso: string) => DateTime.fromISO(iso, { zone }).toFormat('d LLL HH:mm');
  return [
    columns.accessor((one) => Date.parse(one.from), {
      id: 'from',
      header: 'From',
      cell: ({ row: { original } }) => when(original.from),
    }),
    columns.accessor((one) => Date.parse(one.to) - Date.parse(one.from), {
      id: 'long',
      header: 'For',
      cell: ({ getValue }) => duration(getValue()),
      meta: { align: 'right' },
    }),
    columns.accessor('ampHoursIn', {
      header: 'In',
      cell: ({ getValue }) => ampHours(getValue()),
      meta: { align: 'right' },
    }),
    columns.accessor('ampHoursOut', {
      header: 'Out',
      cell: ({ getValue }) => ampHours(getValue()),
      meta: { align: 'right' },
    }),
    columns.accessor((one) => one.readingTo, {
      id: 'reading',
      header: 'Read',
      cell: ({ row: { original } }) =>
        `${original.readingFrom.toFixed(0)} → ${original.readingTo.toFixed(0)} %`,
      meta: { align: 'right' },
    }),
    columns.accessor((one) => one.trueTo, {
      id: 'true',
      header: 'True',
      cell: ({ row: { original } }) => `${original.trueFrom.toFixed(0)} → ${original.trueTo.toFixed(0)} %`,
      meta: { align: 'right' },
    }),
    columns.accessor('drift', {
      header: 'Drift',
      cell: ({ row: { original } }) => `${signed(original.drift)} ± ${original.band.toFixed(0)}`,
      meta: { align: 'right' },
    }),
  ] as ColumnDef<Interval>[];
}

export function DriftView({ system, counting }: { system: System; counting: CountingOut }) {
  const { intervals } = counting;
  const [sorting, setSorting] = useState<SortingState>([{ id: 'from', desc: false }]);
  const [chosen, setChosen] = useState<Interval | null>(
    () => [...intervals].sort((a, b) => Math.abs(b.drift) - Math.abs(a.drift))[0] ?? null,
  );
  const definitions = useMemo(() => columnsOf(system.timeZone), [system.timeZone]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the table's functions change with its state, as the library has it
  const table = useReactTable({
    data: intervals,
    columns: definitions,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  if (intervals.length === 0)
    return (
      <p>
        {counting.hasReading
          ? 'There is no stretch between two syncs that is long enough to judge the drift by.'
          : 'The monitor’s percentage was not logged, so its drift cannot be measured.'}
      </p>
    );
  return (
    <section aria-label="Drift">
      {chosen && <Waterfall interval={chosen} zone={system.timeZone} />}
      <div className="mt-3">
        <TableFrame label="Table of intervals">
          <table className="w-full border-collapse text-xs">
            <thead>
              {table.getHeaderGroups().map((group) => (
                <tr key={group.id} className="border-rule-strong text-ink-soft border-b text-left">
                  <SortableHeads group={group} />
                </tr>
              ))}
            </thead>
            <tbody>
              {table.getRowModel().rows.map((row) => (
                <tr
                  key={row.original.from}
                  className={`border-rule hover:bg-accent-soft cursor-pointer border-b align-top ${chosen?.from === row.original.from ? 'bg-accent-soft' : ''}`}
                  onClick={() => setChosen(row.original)}
                >
                  {row.getVisibleCells().map((cell, k) => (
                    <td
                      key={cell.id}
                      className={`px-2 py-1 whitespace-nowrap ${isRight(cell.column.columnDef.meta) ? 'text-right font-mono' : ''}`}
                    >
                      {k === 0 ? (
                        <button
                          type="button"
                          aria-pressed={chosen?.from === row.original.from}
                          onClick={() => setChosen(row.original)}
                        >
                          {flexRender(cell.column.columnDef.cell, cell.getContext())}
                        </button>
                      ) : (
                        flexRender(cell.column.columnDef.cell, cell.getContext())
                      )}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </TableFrame>
      </div>
      <p className="text-ink-soft mt-2 max-w-3xl text-xs">
        Drift in points of per cent: what the reading moved by less what the battery did. Each part is what
        that error alone would make of it; together they are the drift.
      </p>
    </section>
  );
}

const ROW = 20;
const NAMES = 92;

/** The parts of one interval laid end to end, from nothing to its drift. */
function Waterfall({ interval, zone }: { interval: Interval; zone: string }) {
  const parts = DRIFT_PARTS.map((name): [DriftPart, number] => [name, interval.parts[name] ?? 0]).filter(
    ([, value]) => Math.abs(value) >= 0.1,
  );
  const steps: { name: string; from: number; to: number }[] = [];
  for (const [name, value] of parts) {
    const from = steps.at(-1)?.to ?? 0;
    steps.push({ name: PART_WORDS[name], from, to: from + value });
  }
  steps.push({ name: 'drift', from: 0, to: interval.drift });
  const low = Math.min(0, ...steps.map((one) => Math.min(one.from, one.to)));
  const high = Math.max(0, ...steps.map((one) => Math.max(one.from, one.to)));
  const width = 560;
  const scale = (value: number) => NAMES + ((value - low) / Math.max(1, high - low)) * (width - NAMES - 60);
  const when = (iso: string) => DateTime.fromISO(iso, { zone }).toFormat('d LLL HH:mm');
  return (
    <figure className="border-rule-strong bg-sheet border p-3">
      <figcaption className="mb-2 text-sm">
        <span className="font-semibold">
          {when(interval.from)} to {when(interval.to)}.
        </span>{' '}
        {driftText(interval)}
      </figcaption>
      <svg
        viewBox={`0 0 ${width} ${steps.length * ROW}`}
        className="w-full max-w-[700px]"
        role="img"
        aria-label={steps.map(({ name, from, to }) => `${name} ${signed(to - from)}`).join(', ')}
      >
        <line x1={scale(0)} x2={scale(0)} y1={0} y2={steps.length * ROW} stroke="var(--rule-strong)" />
        {steps.map(({ name, from, to }, k) => (
          <g key={name}>
            <text
              x={0}
              y={k * ROW + 14}
              fontSize={12}
              fill="var(--ink)"
              fontWeight={name === 'drift' ? 600 : 400}
            >
              {name}
            </text>
            <rect
              x={Math.min(scale(from), scale(to))}
              width={Math.max(1, Math.abs(scale(to) - scale(from)))}
              y={k * ROW + 4}
              height={ROW - 8}
              fill={name === 'drift' ? 'var(--ink)' : to >= from ? 'var(--accent)' : 'var(--sheet)'}
              stroke={name === 'drift' ? 'var(--ink)' : 'var(--accent)'}
            />
            <text
              x={Math.max(scale(from), scale(to)) + 5}
              y={k * ROW + 14}
              fontSize={12}
              fill="var(--ink)"
              className="font-mono"
            >
              {signed(to - from)}
            </text>
          </g>
        ))}
      </svg>
    </figure>
  );
}
