import { store } from '@/server/store';
import { findSystem } from '@/store/jobs';
import { listSystems } from '@/store/lists';
import { NewJob } from '@/ui/jobs/NewJob';

export const dynamic = 'force-dynamic';

interface Props {
  searchParams: Promise<{ system?: string | string[] }>;
}

export default async function Page({ searchParams }: Props) {
  const { system: wanted } = await searchParams;
  const chosen = typeof wanted === 'string' ? wanted : '';
  const { rows, next } = await listSystems(store());
  const systems = rows.map(({ id, system: { name, owner } }) => ({ id, name, owner: owner ?? null }));
  const known = systems.some((one) => one.id === chosen) ? null : await findSystem(store(), chosen);
  if (known) systems.unshift({ id: chosen, name: known.system.name, owner: known.system.owner ?? null });
  return <NewJob systems={systems} more={next !== null} chosen={chosen} />;
}
