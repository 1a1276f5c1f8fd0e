/** What is known of the job and its system, to read. What is not known is said. */

import { COMPLAINT_WORDS } from '@/core/diagnosis/summary';
import { CHEMISTRY } from '@/core/system/chemistry';
import type { Job, System } from '@/core/system/schema';

const unknown = 'not known';

export function Description({ job, system }: { job: Job; system: System }) {
  const { bank, sources, monitor, loads } = system;
  return (
    <div className="grid gap-4 lg:grid-cols-2">
      <Sheet
        title="Job"
        rows={[
          ['Complaint', job.complaints.map((one) => COMPLAINT_WORDS[one]).join(', ')],
          ['Opened', job.openedAt.slice(0, 10)],
          ['Notes', job.notes || unknown],
        ]}
      />
      <Sheet
        title="Bank"
        rows={[
          ['Chemistry', bank.chemistry ? CHEMISTRY[bank.chemistry].name : unknown],
          ['Cells in series', String(bank.cellsInSeries)],
          ['Strings', String(bank.stringsInParallel)],
          ['Capacity', `${bank.capacityAh} Ah at ${bank.capacityHours} h`],
          ['In service since', bank.installedOn ?? unknown],
          [
            'Charge voltage at 25 °C',
            bank.chargeVolts ? `${bank.chargeVolts.min} to ${bank.chargeVolts.max} V` : unknown,
          ],
          ['Float', bank.floatVolts ? `${bank.floatVolts.min} to ${bank.floatVolts.max} V` : unknown],
        ]}
      />
      {sources.map((source) => (
        <Sheet
          key={source.id}
          title={source.name}
          rows={[
            ['Rating', `${source.ratedA} A, ${source.kind}`],
            ['Absorption', `${source.profile.absorptionV} V`],
            [
              'Absorption time',
              source.profile.absorptionMinutes ? `${source.profile.absorptionMinutes} min` : unknown,
            ],
            ['Ends at', source.profile.tailA ? `${source.profile.tailA} A` : unknown],
            ['Float', source.profile.floatV ? `${source.profile.floatV} V` : unknown],
            ['Counted by the monitor', source.counted === null ? unknown : source.counted ? 'yes' : 'no'],
          ]}
        />
      ))}
      <Sheet
        title="Monitor"
        rows={
          monitor
            ? [
                ['Capacity set', `${monitor.capacityAh} Ah`],
                ['Charged voltage', `${monitor.chargedV} V`],
                ['Tail current', `${monitor.tailPercent} %`],
                ['Charge efficiency', `${monitor.efficiencyPercent} %`],
                ['Peukert exponent', String(monitor.peukert)],
              ]
            : [['Monitor', 'none']]
        }
      />
      <Sheet
        title="Loads"
        rows={loads.map((load) => [
          load.name,
          load.cutoffV ? `cuts off at ${load.cutoffV} V` : `cut-off ${unknown}`,
        ])}
      />
    </div>
  );
}

function Sheet({ title, rows }: { title: string; rows: string[][] }) {
  return (
    <section className="border-rule-strong bg-sheet border p-3">
      <h2 className="mb-1 font-semibold">{title}</h2>
      <dl className="grid grid-cols-[10rem_1fr] gap-x-3 gap-y-0.5 text-sm">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-soft">{name}</dt>
            <dd className={value === unknown ? 'text-ink-soft italic' : ''}>{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
