'use client';
/** One record in a list: a line that opens to why it is weak, its notes, its readings, and a way to take it off. */

import type { ReactNode } from 'react';
import { HeadCells } from '@/ui/primitives/HeadCells';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  summary: ReactNode;
  isWaiting: boolean;
  /** Why it is weaker than it could be, a sentence each. */
  weak: readonly string[];
  notes: string | undefined;
  table: { label: string; heads: readonly string[]; rows: ReactNode };
  /** On the button that takes it off. */
  removal: string;
  onRemove(): void;
}

export function RecordItem({ summary, isWaiting, weak, notes, table, removal, onRemove }: Props) {
  return (
    <li className="border-rule-strong bg-sheet mb-2 border">
      <details>
        <summary className="cursor-pointer px-3 py-2 text-sm">
          {summary}
          {isWaiting && ' (waiting to be sent)'}
        </summary>
        <div className="px-3 pb-3">
          {weak.map((one) => (
            <p key={one} className="text-ink-soft text-sm">
              {one}
            </p>
          ))}
          {notes && <p className="text-sm whitespace-pre-line">{notes}</p>}
          <TableFrame label={table.label}>
            <table className="w-full border-collapse text-right text-xs">
              <thead>
                <tr className="text-ink-soft border-rule-strong border-b">
                  <HeadCells names={table.heads} />
                </tr>
              </thead>
              <tbody className="font-mono">{table.rows}</tbody>
            </table>
          </TableFrame>
          <button type="button" className="text-accent mt-2 text-sm underline" onClick={onRemove}>
            {removal}
          </button>
        </div>
      </details>
    </li>
  );
}
