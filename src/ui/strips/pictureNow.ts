/** The strips in view as a picture. */

import type { Diagnosis } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { drawPicture, type Drawn } from '@/ui/picture/picture';
import { stagesOf } from '@/ui/picture/stagesOf';
import { traceExtent } from './draw';
import type { Lane } from './lanes';
import type { TileSource } from './tileSource';

interface Now {
  lanes: readonly Lane[];
  source: TileSource;
  view: Span;
  width: number;
  lit: Span[];
  diagnosis: Diagnosis;
  system: System;
}

export function pictureNow({ lanes, source, view, width, lit, diagnosis, system }: Now): Drawn {
  const wide = Math.max(320, width);
  return drawPicture(
    {
      span: view,
      zone: system.timeZone,
      ribbons: stagesOf(diagnosis, system).map(({ name, stages }) => ({
        name,
        stages: stages.filter((one) => one.to > view.from && one.from < view.to),
      })),
      lanes: lanes.map((lane) => ({
        title: lane.title,
        unit: lane.unit,
        height: lane.height,
        traces: lane.traces.map((trace) => ({
          label: trace.label,
          dash: trace.dash,
          ...traceExtent(trace, source, view, wide),
        })),
      })),
      lit: lit.filter((one) => one.to > view.from && one.from < view.to),
    },
    wide,
  );
}
