/** A diagnosis without what only a picture needs: the percentage hour by hour, cells over the log, strips of the cut-offs. */

import type { Diagnosis } from './result';

type Without<T, K extends keyof T> = Omit<T, K>;
export interface Brief extends Omit<Diagnosis, 'soc' | 'cells' | 'cutoffs'> {
  cells: Without<NonNullable<Diagnosis['cells']>, 'heat'> | null;
  cutoffs: Without<Diagnosis['cutoffs'][number], 'strip'>[];
}

export function withoutSeries({ soc: _soc, cells, cutoffs, ...rest }: Diagnosis): Brief {
  return {
    ...rest,
    cells: cells && withoutHeat(cells),
    cutoffs: cutoffs.map(({ strip: _strip, ...one }) => one),
  };
}

const withoutHeat = ({ heat: _heat, ...cells }: NonNullable<Diagnosis['cells']>) => cells;
