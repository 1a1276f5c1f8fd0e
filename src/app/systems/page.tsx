import { listJobs } from '@/server/listJobs';
import { store } from '@/server/store';
import { listSystems } from '@/store/jobs';
import { SystemList } from '@/ui/jobs/SystemList';

export const dynamic = 'force-dynamic';

export default async function Page() {
  const [systems, jobs] = await Promise.all([listSystems(store()), listJobs(store())]);
  return <SystemList systems={systems} jobs={jobs} />;
}
