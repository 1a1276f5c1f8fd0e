import { notFound, redirect } from 'next/navigation';
import { store } from '@/server/store';
import { findJob } from '@/store/jobs';
import { countRecordings } from '@/store/recordings';

/** A job opens where its work is: at its strips, or at its description while it has no log. */
export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  if (!(await findJob(store(), id))) notFound();
  redirect(`/jobs/${id}/${(await countRecordings(store(), id)) > 0 ? 'charging' : 'take-in'}`);
}
