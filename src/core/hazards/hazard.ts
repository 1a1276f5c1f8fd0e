/** What a hazard in the logs is: a rule looks at the logs and says where they show it. One file a rule. */

import type { SourceCharging } from '../charge/types';
import type { LoadPath } from '../cutoff/types';
import type { Timeline } from '../log/timeline';
import type { Span } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import type { HazardCode } from '../system/review/rule';

export interface Hazard {
  code: HazardCode;
  /** What was seen, what it does, what to do. */
  text: string;
  spans: Span[];
}

export interface Scene {
  system: KnownSystem;
  timeline: Timeline;
  charging: readonly SourceCharging[];
  /** Resistance on the way to each load, by two voltages. */
  loadPaths: readonly LoadPath[];
}

export type HazardRule = (scene: Scene) => Hazard[];
