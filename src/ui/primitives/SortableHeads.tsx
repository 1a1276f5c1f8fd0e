'use client';
/** The heading cells of a table that can be sorted by each of its columns. */

import { flexRender, type HeaderGroup } from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';

/** Whether a column's figures stand at the right: `meta: { align: 'right' }`. */
export const isRight = (meta: unknown): boolean =>
  (meta as { align?: string } | undefined)?.align === 'right';

export function SortableHeads<Row>({ group }: { group: HeaderGroup<Row> }) {
  return group.headers.map((header) => {
    const sorted = header.column.getIsSorted();
    return (
      <th
        key={header.id}
        scope="col"
        aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
        className={`px-2 py-1 font-normal ${isRight(header.column.columnDef.meta) ? 'text-right' : ''}`}
      >
        <button
          type="button"
          className="inline-flex items-center gap-1 py-1"
          onClick={header.column.getToggleSortingHandler()}
        >
          {flexRender(header.column.columnDef.header, header.getContext())}
          {sorted === 'asc' && <ArrowUp className="size-3" aria-hidden />}
          {sorted === 'desc' && <ArrowDown className="size-3" aria-hidden />}
        </button>
      </th>
    );
  });
}
