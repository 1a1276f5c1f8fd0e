/** What is due over all systems, the earliest first; as a list and as a calendar. */

import ical, { ICalCalendarMethod } from 'ical-generator';
import { DUE_WORDS, dueOf, daysLater, type Planned } from '@/core/plan/due';
import type { Store } from '@/store/database';
import { plannedSystems } from '@/store/plan';

export async function planOfVisits(store: Store, only?: string): Promise<Planned[]> {
  return (await plannedSystems(store, only))
    .flatMap((one) =>
      dueOf(one).map((due) => ({ ...due, systemId: one.id, jobId: one.jobId, system: one.system.name })),
    )
    .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : a.system < b.system ? -1 : 1));
}

/** All-day events; each keeps its name from one fetch to the next, so that a calendar moves it and makes no second. */
export function calendarOf(planned: readonly Planned[]): string {
  const calendar = ical({
    name: 'Pazienza: plan of visits',
    prodId: { company: 'Pazienza', product: 'Plan of visits', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  });
  for (const { systemId, what, on, why, system } of planned)
    calendar.createEvent({
      id: `${systemId}-${what}@pazienza`,
      // Of an all-day event the end is the day after.
      start: new Date(`${on}T00:00:00Z`),
      end: new Date(`${daysLater(on, 1)}T00:00:00Z`),
      timezone: 'UTC',
      allDay: true,
      summary: `${DUE_WORDS[what]}: ${system}`,
      description: why,
    });
  return calendar.toString();
}
