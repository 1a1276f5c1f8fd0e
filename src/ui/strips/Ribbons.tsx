/** The ribbons of stages above the lanes, one a source. */

import type { Diagnosis, DiagnosisCharge } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { GUTTER } from './lanes';
import { StageRibbon } from './StageRibbon';

/** Height of a ribbon, px. */
export const RIBBON = 24;

export interface Ribbon {
  id: string;
  /** Null where there is no more than one source. */
  name: string | null;
  charges: DiagnosisCharge[];
}

/** A ribbon for each source that was judged; one without a name where there is no more than one. */
export function ribbonsOf({ charging, charges }: Diagnosis, system: System): Ribbon[] {
  const ids = charging.sources.map((one) => one.source);
  if (ids.length <= 1) return [{ id: '', name: null, charges }];
  return ids.map((id) => ({
    id: id ?? '',
    name: sourceName(system, id),
    charges: charges.filter((one) => one.source === id),
  }));
}

/** As much of a name as stands beside a ribbon: its first word, where that is short enough. */
function short(name: string): string {
  const [word = ''] = name.split(' ');
  return word.length <= 8 ? word : `${word.slice(0, 7)}…`;
}

interface Props {
  ribbons: readonly Ribbon[];
  view: Span;
  x: (ms: number) => number;
  width: number;
}

export function Ribbons({ ribbons, view, x, width }: Props) {
  return (
    <>
      {ribbons.map(({ id, name, charges }) => (
        <svg
          key={id}
          width={width + GUTTER}
          height={RIBBON}
          className="block"
          role="img"
          aria-label={`Stages of charging${name ? ` by ${name}` : ''}: bulk, absorption, float`}
        >
          <text x={0} y={RIBBON / 2 + 4} fontSize={11} fill="var(--ink-soft)">
            {name === null ? 'Stage' : short(name)}
            <title>{name ?? 'Stage'}</title>
          </text>
          <g transform={`translate(${GUTTER},0)`}>
            <StageRibbon charges={charges} view={view} x={x} height={RIBBON} />
          </g>
        </svg>
      ))}
    </>
  );
}
