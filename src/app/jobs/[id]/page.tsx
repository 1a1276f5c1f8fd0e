import { redirect } from 'next/navigation';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  redirect(`/jobs/${(await params).id}/charging`);
}
