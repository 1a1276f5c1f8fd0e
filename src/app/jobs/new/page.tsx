import { store } from '@/server/store';
import { listSystems } from '@/store/jobs';
import { NewJob } from '@/ui/jobs/NewJob';

export const dynamic = 'force-dynamic';

export default async function Page() {
  return <NewJob systems={await listSystems(store())} />;
}
