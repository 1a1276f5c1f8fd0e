'use client';
/** Rounds from a spreadsheet or a file, and out as one. */

import { useState } from 'react';
import { BadRounds, roundsOfCsv, roundsToCsv } from '@/core/hydrometer/csv';
import type { Round } from '@/core/hydrometer/round';
import { counted } from '@/core/quantity/text';
import { buttonClass } from '@/ui/primitives/buttons';
import { today } from '@/ui/primitives/today';

interface Props {
  name: string;
  rounds: readonly Round[];
  onRounds(rounds: Round[]): Promise<void>;
}

export function SpreadsheetBox({ name, rounds, onRounds }: Props) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);

  async function take(from: string): Promise<void> {
    try {
      const found = roundsOfCsv(from, today(), () => crypto.randomUUID());
      if (found.length === 0) throw new BadRounds('There is no reading in it.');
      setProblem(null);
      setText('');
      await onRounds(found);
    } catch (error) {
      if (!(error instanceof BadRounds)) throw error;
      setProblem(error.message);
    }
  }
  function save(): void {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([roundsToCsv(rounds)], { type: 'text/csv' }));
    link.download = `${name.replace(/[^\p{L}\p{N}]+/gu, '-')}-hydrometer.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  return (
    <details className="mt-2 text-sm">
      <summary className="text-accent cursor-pointer py-1">From a spreadsheet, or out as a file</summary>
      <label className="block font-semibold">
        Rows from a spreadsheet
        <textarea
          rows={4}
          className="border-rule-strong bg-paper block w-full border px-2 py-1 font-mono text-sm font-normal"
          placeholder={'date,cell,gravity,celsius\n2026-10-19,1A,1.250,18'}
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      <p className="text-ink-soft">
        With headings, or two columns without: cell and gravity. Rows of one day are one round.
      </p>
      {problem && (
        <p role="alert" className="text-hazard mt-1">
          {problem} Nothing was taken in.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className={buttonClass} onClick={() => void take(text)}>
          Take the rows in
        </button>
        <label className={`${buttonClass} cursor-pointer`}>
          Open a CSV file
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={({ target }) => {
              const file = target.files?.[0];
              target.value = '';
              if (file) void file.text().then(take);
            }}
          />
        </label>
        <button type="button" className={buttonClass} disabled={rounds.length === 0} onClick={save}>
          Save {counted(rounds.length, 'round')} as CSV
        </button>
      </div>
    </details>
  );
}
