import { calendarOf, planOfVisits } from '@/server/planOfVisits';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** The plan of visits as iCalendar: a feed to subscribe to, or a file. */
export const GET = through(
  'GET /api/plan/calendar',
  async ({ query }) =>
    new Response(calendarOf(await planOfVisits(store(), query.system)), {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': 'attachment; filename="plan-of-visits.ics"',
        'cache-control': 'no-store',
      },
    }),
);
