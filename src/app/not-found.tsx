import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="mb-2 text-xl font-semibold">There is nothing here</h1>
      <p>
        The job may have been removed, or the address is mistyped.{' '}
        <Link href="/" className="text-accent underline">
          Go to the list of jobs
        </Link>
      </p>
    </main>
  );
}
