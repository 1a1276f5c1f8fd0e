/** A job in one line, for lists. */

import type { Complaint } from '../system/schema';
import type { Standing } from './weigh';

export interface JobSummary {
  id: string;
  title: string;
  system: string;
  complaints: Complaint[];
  openedAt: string;
  recordings: number;
  /** The foremost finding, 'nothing' when no cause is possible or better, null when no analysis was made yet. */
  headline: { title: string; standing: Standing } | 'nothing' | null;
}

export const COMPLAINT_WORDS: Record<Complaint, string> = {
  undercharging: 'never gets full',
  'drifting-soc': 'percentage drifts',
  'premature-cutoff': 'cuts off too soon',
};
