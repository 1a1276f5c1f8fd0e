/** The ribbons of stages, for a picture. */

import type { Diagnosis } from '@/core/diagnosis/result';
import type { System } from '@/core/system/schema';
import { ribbonsOf } from '@/ui/strips/Ribbons';
import type { PictureRibbon } from './picture';

export const stagesOf = (diagnosis: Diagnosis, system: System): PictureRibbon[] =>
  ribbonsOf(diagnosis, system).map(({ name, charges }) => ({
    name,
    stages: charges.flatMap((one) =>
      one.stages.map(({ stage, from, to }) => ({ stage, from: Date.parse(from), to: Date.parse(to) })),
    ),
  }));
