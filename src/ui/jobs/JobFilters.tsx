/** What the list of jobs can be narrowed by. */

import Link from 'next/link';
import { COMPLAINT_WORDS, FOUND } from '@/core/diagnosis/summary';
import { COMPLAINTS } from '@/core/system/schema';
import { DayFilter } from './DayFilter';
import { filterClass, SearchBar } from './SearchBar';

export interface JobsAsked {
  search?: string | undefined;
  complaint?: string | undefined;
  standing?: string | undefined;
  system?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
}

interface Props {
  asked: JobsAsked;
  /** Name of the system that is asked for; null when none is. */
  systemName: string | null;
}

export function JobFilters({ asked, systemName }: Props) {
  const narrowed = Object.values(asked).some(Boolean);
  return (
    <>
      <SearchBar
        key={JSON.stringify(asked)}
        action="/"
        label="Title, system or customer"
        search={asked.search ?? ''}
        narrowed={narrowed}
      >
        <label>
          <span className="text-ink-soft block text-xs">Complaint</span>
          <select name="complaint" defaultValue={asked.complaint ?? ''} className={filterClass}>
            <option value="">any</option>
            {COMPLAINTS.map((one) => (
              <option key={one} value={one}>
                {COMPLAINT_WORDS[one]}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-ink-soft block text-xs">Foremost cause is</span>
          <select name="standing" defaultValue={asked.standing ?? ''} className={filterClass}>
            <option value="">any</option>
            {FOUND.map((one) => (
              <option key={one} value={one}>
                {one}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-ink-soft block text-xs">Opened from</span>
          <DayFilter name="from" asked={asked.from} />
        </label>
        <label>
          <span className="text-ink-soft block text-xs">Until</span>
          <DayFilter name="to" asked={asked.to} />
        </label>
        {asked.system && <input type="hidden" name="system" value={asked.system} />}
      </SearchBar>
      {systemName !== null && (
        <p className="mb-2 text-sm">
          Only jobs on <bdi className="font-semibold">{systemName}</bdi>.{' '}
          <Link href="/systems" className="text-accent underline">
            All systems
          </Link>
        </p>
      )}
    </>
  );
}
