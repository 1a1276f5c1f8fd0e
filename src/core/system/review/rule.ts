/** What a review rule is, and what it says. One small rule a file in `rules/`; `rules/index.ts` lists them. */

import type { Monitor } from '../schema';
import type { LoadView, SourceView, Subject } from './subject';

/** Hazards that a description, a walk along the wiring or a log can show. */
export type HazardCode =
  | 'lithium-charged-below-freezing'
  | 'equalise-on-sealed-or-lithium'
  | 'over-voltage'
  | 'over-temperature'
  | 'cell-over-voltage'
  | 'hydrogen'
  | 'deep-discharge'
  | 'hot-joint'
  | 'uncounted-conductor-on-battery-post';

/** A fault cannot work or does harm; a caution will go wrong some day; a remark is worth knowing. */
export type Weight = 'fault' | 'caution' | 'remark';

export interface Note {
  weight: Weight;
  /** The setting it is about, relative to its device, such as `profile.absorptionV`. */
  setting?: string;
  /** What is, with its figures. */
  text: string;
  why: string;
  /** What to do. */
  fix: string;
  /** True when the sheet's advice for this setting is the cure. */
  advise?: boolean;
  hazard?: HazardCode;
}

export type Notes = Note | readonly Note[] | null;

interface Described {
  code: string;
  /** What it looks at, in a few words. */
  says: string;
  /** The setting of the monitor that it is about: a device that has none is not asked for it. */
  about?: keyof Monitor;
}

export type Rule = Described &
  (
    | { on: 'bank' | 'monitor' | 'bms'; review(s: Subject): Notes }
    | { on: 'source'; review(s: Subject, source: SourceView): Notes }
    | { on: 'load'; review(s: Subject, load: LoadView): Notes }
  );
