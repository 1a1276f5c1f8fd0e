import { inShort } from '@/core/system/inShort';
import { dayText } from '@/core/quantity/text';
import { systemQuerySchema } from '@/server/doors';
import { store } from '@/server/store';
import { listSystems } from '@/store/lists';
import { addressOf, NextPage } from '@/ui/jobs/SearchBar';
import { SystemList } from '@/ui/jobs/SystemList';

export const dynamic = 'force-dynamic';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Page({ searchParams }: Props) {
  const parsed = systemQuerySchema.safeParse(await searchParams);
  const { after, search } = parsed.success ? parsed.data : {};
  const { rows, next } = await listSystems(store(), { search, after });
  return (
    <SystemList
      systems={rows.map(({ id, system, jobs, count }) => ({
        id,
        name: system.name,
        owner: system.owner ?? '',
        battery: inShort(system),
        hasGravity: system.bank.chemistry === 'flooded',
        jobs: jobs.map((one) => ({ ...one, openedAt: dayText(one.openedAt) })),
        count,
      }))}
      search={search ?? ''}
      pages={
        <NextPage
          address={next && addressOf('/systems', { search, after: next })}
          first={after ? addressOf('/systems', { search }) : null}
          onward="More"
        />
      }
    />
  );
}
