import { listJobs } from '@/server/listJobs';
import { store } from '@/server/store';
import { JobList } from '@/ui/jobs/JobList';

export const dynamic = 'force-dynamic';

export default async function Page() {
  return <JobList jobs={await listJobs(store())} />;
}
