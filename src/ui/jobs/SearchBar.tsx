/** Search and filters over a list: a plain form, so that a page of results has an address of its own. */

import Link from 'next/link';
import type { ReactNode } from 'react';
import { inputClass } from '@/ui/describe/fields/FieldFrame';
import { buttonClass } from '@/ui/primitives/buttons';

interface Props {
  action: string;
  /** What the search looks through. */
  label: string;
  search: string;
  /** Whether anything is asked for. */
  narrowed: boolean;
  children?: ReactNode;
}

export const filterClass = `${inputClass} h-8 w-full text-sm`;

export function SearchBar({ action, label, search, narrowed, children }: Props) {
  return (
    <form
      action={action}
      role="search"
      className="mb-3 grid grid-cols-2 items-end gap-2 text-sm sm:flex sm:flex-wrap"
    >
      <label className="col-span-2 min-w-48 flex-1">
        <span className="text-ink-soft block text-xs">{label}</span>
        <input type="search" name="search" defaultValue={search} maxLength={100} className={filterClass} />
      </label>
      {children}
      <button type="submit" className={`${buttonClass} h-8`}>
        Search
      </button>
      {narrowed && (
        <Link href={action} className="text-accent inline-flex h-8 items-center px-1 underline">
          Show all
        </Link>
      )}
    </form>
  );
}

/** The way to the rows after these. */
interface NextPageProps {
  /** Null on the last page. */
  address: string | null;
  /** Null on the first page. */
  first: string | null;
  /** What the rows after these are. */
  onward?: string;
}

export function NextPage({ address, first, onward = 'Older' }: NextPageProps) {
  if (!address && !first) return null;
  return (
    <nav aria-label="Pages" className="mt-3 flex gap-4 text-sm">
      {first && (
        <Link href={first} className="text-accent inline-block min-h-6 underline">
          Back to the first
        </Link>
      )}
      {address && (
        <Link href={address} className="text-accent inline-block min-h-6 underline">
          {onward}
        </Link>
      )}
    </nav>
  );
}

/** An address with what is asked for; what is empty is left out. */
export function addressOf(path: string, asked: Record<string, string | undefined>): string {
  const query = new URLSearchParams(
    Object.entries(asked).flatMap(([key, value]) => (value ? [[key, value]] : [])),
  ).toString();
  return query === '' ? path : `${path}?${query}`;
}
