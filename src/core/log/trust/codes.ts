/** What a note of trust can be about. */

export type TrustCode =
  | 'clock-offset'
  | 'sign-disagrees'
  | 'scale-disagrees'
  | 'gaps'
  | 'wild-values'
  | 'written-on-change'
  | 'stuck-value'
  | 'voltage-disagrees'
  | 'sampled-too-coarsely';

/** How a log is written, and what nothing was judged by: no doubt about what was judged. */
export const SAID_APART: readonly TrustCode[] = ['gaps', 'wild-values', 'written-on-change'];
