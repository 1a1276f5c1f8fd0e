'use client';
/** The step on cells: which of them stands apart, by how much, and what becomes of it. */

import { Tabs } from 'radix-ui';
import Link from 'next/link';
import { cellsText } from '@/core/diagnosis/cellsText';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { System } from '@/core/system/schema';
import { useView, ViewTabs } from '@/ui/primitives/ViewTabs';
import { BatteryTable } from './BatteryTable';
import { CellHeat } from './CellHeat';
import { CellTable } from './CellTable';
import { CellTraces } from './CellTraces';

interface Props {
  jobId: string;
  systemId: string;
  system: System;
  diagnosis: Diagnosis;
  hasLogs: boolean;
}

const VIEWS = [
  { id: 'table', name: 'Side by side' },
  { id: 'traces', name: 'Strips' },
  { id: 'heat', name: 'Heat map' },
] as const;

export function CellsStep({ jobId, systemId, system, diagnosis, hasLogs }: Props) {
  const path = `/jobs/${jobId}/cells`;
  const [view, setView] = useView(path, VIEWS);
  const { cells } = diagnosis;
  const hydrometer = system.bank.chemistry === 'flooded' && (
    <Hydrometer systemId={systemId} lines={diagnosis.hydrometer} />
  );
  const batteries = <BatteryTable batteries={diagnosis.batteries} />;
  if (!cells && diagnosis.batteries.length > 0)
    return (
      <>
        {batteries}
        {hydrometer}
      </>
    );
  if (!cells && hydrometer) return hydrometer;
  if (!cells)
    return (
      <div className="border-rule-strong bg-sheet max-w-3xl border p-8">
        <p className="mb-3">
          {hasLogs
            ? 'None of these logs carries the voltages of cells, or the voltage between two halves.'
            : 'There is no log of this job yet: no cell can be compared.'}
        </p>
        <p className="mb-3 text-sm">
          The BMS of a lithium battery logs its cells. For a series bank of lead a monitor with a lead to the
          midpoint logs the two halves.
        </p>
        <Link href={`/jobs/${jobId}/logs`} className="bg-accent text-on-accent inline-block px-3 py-1.5">
          Take in a log
        </Link>
      </div>
    );
  return (
    <section aria-label="Cells">
      {batteries}
      <ul className="mb-3 flex max-w-3xl list-disc flex-col gap-1 pl-5 text-sm">
        {cellsText(cells, system).map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <ViewTabs label="Cells" views={VIEWS} view={view} onView={setView}>
        <Tabs.Content value="table">
          <CellTable cells={cells} />
        </Tabs.Content>
        <Tabs.Content value="traces">
          <CellTraces cells={cells} zone={system.timeZone} />
        </Tabs.Content>
        <Tabs.Content value="heat">
          <CellHeat cells={cells} zone={system.timeZone} />
        </Tabs.Content>
      </ViewTabs>
      {hydrometer}
    </section>
  );
}

/** Flooded cells are known by their acid. */
function Hydrometer({ systemId, lines }: { systemId: string; lines: readonly string[] }) {
  return (
    <section aria-label="Hydrometer rounds" className="border-rule-strong bg-sheet mt-3 max-w-3xl border p-3">
      <h2 className="mb-1 font-semibold">Hydrometer rounds</h2>
      {lines.length === 0 ? (
        <p className="mb-2 text-sm">
          No round was written down yet. Cells of a flooded battery are compared by their acid, the day after
          a full charge.
        </p>
      ) : (
        <ul className="mb-2 list-disc pl-5 text-sm">
          {lines.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <Link
        href={`/systems/${systemId}/hydrometer`}
        className="bg-accent text-on-accent inline-block px-3 py-1.5"
      >
        {lines.length === 0 ? 'Write down a round' : 'Rounds, and a new one'}
      </Link>
    </section>
  );
}
