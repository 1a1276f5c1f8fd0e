/** What follows from something that was read or proved on site. */

/** Facts of a visit that speak for or against a cause; each cause says what they weigh. */
export const FACTS = [
  'source-unseen',
  'sources-shown',
  'load-unseen',
  'loads-shown',
  'sensor-turned',
  'sign-right',
  'scale-off',
  'scale-right',
  'zero-off',
  'zero-right',
  'count-lost',
  'never-synced',
  'has-synced',
  'charged-voltage-above-highest',
  'long-since-full',
  'lately-full',
  'deeper-than-capacity',
  'emptied',
  'charged-too-high',
  'charge-path-loses',
  'charge-path-sound',
  'load-path-loses',
  'load-path-sound',
  'halves-apart',
] as const;
export type FactCode = (typeof FACTS)[number];

export interface Said {
  /** A fault, worth a look, in order, or still open. */
  weight: 'fault' | 'caution' | 'fine' | 'open';
  text: string;
  /** What to do about it, or what it means. */
  follows?: string;
  fact?: FactCode;
}
