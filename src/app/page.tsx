import { jobQuerySchema } from '@/server/doors';
import { listJobs } from '@/server/listJobs';
import { store } from '@/server/store';
import { findSystem } from '@/store/jobs';
import { JobFilters } from '@/ui/jobs/JobFilters';
import { JobList } from '@/ui/jobs/JobList';
import { addressOf, NextPage } from '@/ui/jobs/SearchBar';

export const dynamic = 'force-dynamic';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Page({ searchParams }: Props) {
  // What cannot be asked for is not asked for: an address that was mistyped shows the whole list.
  const parsed = jobQuerySchema.safeParse(await searchParams);
  const { after, ...asked } = parsed.success ? parsed.data : {};
  const [{ rows, next }, system] = await Promise.all([
    listJobs(store(), { ...asked, after }),
    asked.system ? findSystem(store(), asked.system) : null,
  ]);
  return (
    <JobList
      jobs={rows}
      narrowed={Object.values(asked).some(Boolean)}
      filters={<JobFilters asked={asked} systemName={system ? system.system.name : null} />}
      pages={
        <NextPage
          address={next && addressOf('/', { ...asked, after: next })}
          first={after ? addressOf('/', asked) : null}
        />
      }
    />
  );
}
