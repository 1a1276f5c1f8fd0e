'use client';
/** What is fetched more than once: lists that are searched, and progress that is asked for again and again (TanStack Query). */

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { ask, type Checks } from './ask';

/** Tried again by {@link ask} already. */
const makeClient = () =>
  new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });

export function Queries({ children }: { children: ReactNode }) {
  const [client] = useState(makeClient);
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}

/** For a query: the value, or its problem thrown as an error. */
export async function asked<T>(url: string, schema: Checks<T>, signal: AbortSignal): Promise<T> {
  const answer = await ask(url, schema, { signal });
  if (!answer.ok) throw new Error(answer.problem);
  return answer.value;
}
