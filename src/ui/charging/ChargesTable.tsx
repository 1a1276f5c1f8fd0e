'use client';
/** All charges of a log as a table: sorted, narrowed, each opening to what was to be expected of it. */

import {
  type ColumnDef,
  type ColumnFiltersState,
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  type SortingState,
  useReactTable,
} from '@tanstack/react-table';
import { ChevronDown } from 'lucide-react';
import { DateTime } from 'luxon';
import { Fragment, useMemo, useState } from 'react';
import { type ChargeRow, chargeCard, chargeRows, ENDED_WORDS } from '@/core/diagnosis/chargeTable';
import type { Diagnosis } from '@/core/diagnosis/result';
import { MINUTE, type Span } from '@/core/quantity/span';
import { ampHours, amps, duration, percent } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { buttonClass } from '@/ui/primitives/buttons';
import { Narrow } from '@/ui/primitives/Narrow';
import { isRight, SortableHeads } from '@/ui/primitives/SortableHeads';
import { ChargeCard } from './ChargeCard';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  system: System;
  diagnosis: Diagnosis;
  onGo: (span: Span) => void;
}

const columns = createColumnHelper<ChargeRow>();
const minutes = (value: number) => (value < 1 ? '–' : duration(value * MINUTE));
/** Filters that ask for one value; none of them is 'all'. */
const same = 'equalsString';

function columnsOf(system: System) {
  const zone = system.timeZone;
  const right = { align: 'right' };
  const stage = (name: 'bulk' | 'absorption' | 'float', header: string) =>
    columns.accessor((row) => row.minutes[name], {
      id: name,
      header,
      cell: ({ getValue }) => minutes(getValue()),
      meta: right,
    });
  return [
    columns.accessor((row) => Date.parse(row.from), {
      id: 'day',
      header: 'Day',
      cell: ({ row: { original } }) => {
        const from = DateTime.fromISO(original.from, { zone });
        const to = DateTime.fromISO(original.to, { zone });
        return (
          <>
            {from.toFormat('ccc d LLL')}
            <span className="text-ink-soft block text-xs">
              {from.toFormat('HH:mm')}–
              {to.hasSame(from, 'day') ? to.toFormat('HH:mm') : to.toFormat('d LLL HH:mm')}
            </span>
          </>
        );
      },
    }),
    columns.accessor((row) => sourceName(system, row.source), {
      id: 'source',
      header: 'Source',
      filterFn: same,
    }),
    columns.accessor((row) => row.ampHours ?? undefined, {
      id: 'ampHours',
      header: 'Into it',
      cell: ({ getValue }) => (getValue() === undefined ? '–' : ampHours(getValue()!)),
      sortUndefined: 'last',
      meta: right,
    }),
    stage('bulk', 'Bulk'),
    stage('absorption', 'Absorption'),
    stage('float', 'Float'),
    columns.accessor((row) => row.endAmps ?? undefined, {
      id: 'endAmps',
      header: 'Ends at',
      cell: ({ row: { original } }) =>
        original.endAmps === null ? (
          '–'
        ) : (
          <>
            {amps(original.endAmps)}
            {original.endPercent !== null && (
              <span className="text-ink-soft block text-xs">{percent(original.endPercent)}</span>
            )}
          </>
        ),
      sortUndefined: 'last',
      meta: right,
    }),
    columns.accessor((row) => (row.endedBy ? ENDED_WORDS[row.endedBy] : '–'), {
      id: 'endedBy',
      header: 'Ended by',
      filterFn: same,
    }),
    columns.accessor((row) => (row.full ? 'yes' : 'no'), { id: 'full', header: 'Full', filterFn: same }),
  ] as ColumnDef<ChargeRow>[];
}

export function ChargesTable({ system, diagnosis, onGo }: Props) {
  const rows = useMemo(() => chargeRows(diagnosis.charges, system), [diagnosis, system]);
  const [sorting, setSorting] = useState<SortingState>([{ id: 'day', desc: true }]);
  const [columnFilters, setColumnFilters] = useState<ColumnFiltersState>([]);
  const [open, setOpen] = useState<number | null>(null);
  const definitions = useMemo(() => columnsOf(system), [system]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the table's functions change with its state, as the library has it
  const table = useReactTable({
    data: rows,
    columns: definitions,
    state: { sorting, columnFilters, columnVisibility: { source: severalSources(rows) } },
    onSortingChange: setSorting,
    onColumnFiltersChange: setColumnFilters,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
  });
  const shown = table.getRowModel().rows;
  const width = table.getVisibleLeafColumns().length;
  return (
    <section aria-label="Charges">
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2 text-sm">
        {(
          [
            ['source', 'Source'],
            ['full', 'Full'],
            ['endedBy', 'Ended by'],
          ] as const
        )
          .filter(([id]) => table.getColumn(id)!.getIsVisible())
          .map(([id, label]) => (
            <Narrow
              key={id}
              label={label}
              options={[...new Set(table.getCoreRowModel().rows.map((row) => String(row.getValue(id))))]
                .sort()
                .map((one) => [one, one === '–' ? 'no absorption' : one])}
              value={String(table.getColumn(id)!.getFilterValue() ?? '')}
              onValue={(value) => table.getColumn(id)!.setFilterValue(value === '' ? undefined : value)}
            />
          ))}
        <p className="text-ink-soft ml-auto" aria-live="polite">
          {shown.length} of {rows.length} {rows.length === 1 ? 'charge' : 'charges'}
        </p>
      </div>
      <TableFrame label="Table of charges">
        <table className="w-full border-collapse text-xs">
          <thead>
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id} className="border-rule-strong text-ink-soft border-b text-left">
                <SortableHeads group={group} />
                <th scope="col" className="w-8 px-2 py-1">
                  <span className="sr-only">Open</span>
                </th>
              </tr>
            ))}
          </thead>
          <tbody>
            {shown.map((row) => {
              const { index, from, to } = row.original;
              const isOpen = open === index;
              return (
                <Fragment key={index}>
                  <tr
                    className={`border-rule hover:bg-accent-soft cursor-pointer border-b align-top ${isOpen ? 'bg-accent-soft' : ''}`}
                    onClick={() => setOpen(isOpen ? null : index)}
                  >
                    {row.getVisibleCells().map((cell) => (
                      <td
                        key={cell.id}
                        className={`px-2 py-1 whitespace-nowrap ${isRight(cell.column.columnDef.meta) ? 'text-right font-mono' : ''}`}
                      >
                        {flexRender(cell.column.columnDef.cell, cell.getContext())}
                      </td>
                    ))}
                    <td className="px-2 py-1">
                      <button
                        type="button"
                        aria-expanded={isOpen}
                        aria-label={`Charge of ${DateTime.fromISO(from, { zone: system.timeZone }).toFormat('d LLL HH:mm')}`}
                        className="p-1"
                        onClick={(event) => {
                          event.stopPropagation();
                          setOpen(isOpen ? null : index);
                        }}
                      >
                        <ChevronDown className={`size-4 ${isOpen ? 'rotate-180' : ''}`} aria-hidden />
                      </button>
                    </td>
                  </tr>
                  {isOpen && (
                    <tr className="border-rule-strong border-b">
                      <td colSpan={width + 1} className="p-3">
                        <ChargeCard lines={chargeCard(diagnosis.charges[index]!, system)} />
                        <button
                          type="button"
                          className={`${buttonClass} mt-2`}
                          onClick={() => onGo({ from: Date.parse(from), to: Date.parse(to) })}
                        >
                          Show on the strips
                        </button>
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
          </tbody>
        </table>
        {shown.length === 0 && <p className="p-3 text-sm">No charge fits. Choose fewer conditions.</p>}
      </TableFrame>
    </section>
  );
}

const severalSources = (rows: readonly ChargeRow[]): boolean =>
  new Set(rows.map((row) => row.source)).size > 1;
