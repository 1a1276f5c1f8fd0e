/** The devices whose way of making a percentage can be tried over a job's logs. */

import type { CounterKind } from '@/core/count/kinds';
import { OWN } from '@/core/count/summed';
import type { Diagnosis } from '@/core/diagnosis/result';
import { percent } from '@/core/quantity/text';
import { blocksInSeries } from '@/core/system/chemistry';
import type { KnownBank } from '@/core/system/known';
import type { System } from '@/core/system/schema';

export interface BenchKind {
  id: string;
  name: string;
  by: CounterKind;
  /** Devices whose currents it counts, less those of others. */
  of: string[];
  less: string[];
}

/** What a charger's own count is set to at the end of its bulk where nobody has said it, % (common practice, no source). */
const USUAL_BULK_END = 80;

/** @param logged ids of devices with a log of their own */
export function benchKinds(
  system: System,
  bank: KnownBank,
  diagnosis: Diagnosis,
  logged: readonly string[],
): BenchKind[] {
  const { sources, loads, monitor } = system;
  const isLogged = ({ id }: { id: string }) => logged.includes(id);
  const nameOf = ({ id, name }: { id: string; name?: string | undefined }) => name ?? id;
  const set = monitor?.bulkEndPercent ?? USUAL_BULK_END;
  const chargers = sources.flatMap((source): BenchKind[] => {
    // What the monitor shows, less what it counts of the chargers, is what the loads take.
    const seen = sources.filter((one) => one.counted !== false);
    const ends = endsOfBulk(diagnosis, source.id);
    return ends.length === 0 || ![source, ...seen].every(isLogged)
      ? []
      : [
          {
            id: `charger ${source.id}`,
            name: `${nameOf(source)}’s own count, set to ${percent(set)} at the end of its bulk`,
            by: { by: 'charger', ends, percent: set },
            of: [OWN, source.id],
            less: seen.map((one) => one.id),
          },
        ];
  });
  // Of a monitor of several shunts what passes them is summed; where none are described, whatever has a log.
  const passes = monitor?.shunts && new Set(monitor.shunts.flatMap((one) => one.devices));
  const isSummed = (one: { id: string }) => isLogged(one) && (passes?.has(one.id) ?? true);
  const ins = sources.filter(isSummed);
  const outs = loads.filter(isSummed);
  return [
    { id: 'count', name: 'A sensor that all current passes', by: { by: 'count' }, of: [OWN], less: [] },
    {
      id: 'voltage',
      name: 'The voltage alone',
      by: { by: 'voltage', chemistry: bank.chemistry, blocks: blocksInSeries(bank) },
      of: [OWN],
      less: [],
    },
    ...chargers,
    ...(ins.length > 0 && outs.length > 0
      ? [
          {
            id: 'sum',
            name: `The sum of several shunts: ${ins.map(nameOf).join(' and ')}, less ${outs.map(nameOf).join(' and ')}`,
            by: { by: 'count' } as const,
            of: ins.map((one) => one.id),
            less: outs.map((one) => one.id),
          },
        ]
      : []),
  ];
}

const endsOfBulk = ({ charges }: Diagnosis, source: string): number[] =>
  charges
    .filter((one) => one.source === source)
    .flatMap(({ stages }) =>
      stages.flatMap((one, k) =>
        one.stage === 'bulk' && stages[k + 1]?.stage === 'absorption' ? [Date.parse(one.to)] : [],
      ),
    )
    .sort((a, b) => a - b);
