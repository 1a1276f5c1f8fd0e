/** The plan by when it is due. */

import { daysLater, type Planned } from '@/core/plan/due';

export interface PlanGroup {
  title: string;
  planned: Planned[];
}

/** Empty groups are left out. @param today yyyy-mm-dd */
export function groupsOf(planned: readonly Planned[], today: string): PlanGroup[] {
  const [week, month] = [daysLater(today, 7), daysLater(today, 30)];
  const within = (from: string, to: string) => planned.filter((one) => one.on >= from && one.on < to);
  return [
    { title: 'Overdue', planned: planned.filter((one) => one.on < today) },
    { title: 'This week', planned: within(today, week) },
    { title: 'Within thirty days', planned: within(week, month) },
    { title: 'Later', planned: planned.filter((one) => one.on >= month) },
  ].filter((one) => one.planned.length > 0);
}
