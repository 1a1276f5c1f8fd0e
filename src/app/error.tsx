'use client';

export default function Failed({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl p-8" role="alert">
      <h1 className="mb-2 text-xl font-semibold">This page could not be shown</h1>
      <p className="mb-4">
        Something failed on the server, most likely its database was out of reach. Nothing of yours was lost
        or changed.
      </p>
      <button type="button" onClick={reset} className="bg-accent text-on-accent px-3 py-1.5">
        Try again
      </button>
    </main>
  );
}
