import { planOfVisits } from '@/server/planOfVisits';
import { store } from '@/server/store';
import { PlanPage } from '@/ui/plan/PlanPage';

export const dynamic = 'force-dynamic';

export default async function Page() {
  return <PlanPage planned={await planOfVisits(store())} today={new Date().toISOString().slice(0, 10)} />;
}
