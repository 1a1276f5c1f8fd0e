import { store } from '@/server/store';
import { listSystems } from '@/store/jobs';
import { NewJob } from '@/ui/jobs/NewJob';

export const dynamic = 'force-dynamic';

interface Props {
  searchParams: Promise<{ system?: string }>;
}

export default async function Page({ searchParams }: Props) {
  const systems = (await listSystems(store())).map(({ id, system }) => ({ id, name: system.name }));
  return <NewJob systems={systems} chosen={(await searchParams).system ?? ''} />;
}
