/** What is seen while a job's logs are analysed. */
export default function Loading() {
  return (
    <main className="grid flex-1 gap-px bg-rule md:grid-cols-[10.5rem_1fr_21rem]" aria-busy="true">
      <div className="hidden bg-sheet md:block" />
      <div className="bg-paper p-4">
        <p role="status" className="mb-3 text-ink-soft">
          Opening the job and weighing its logs …
        </p>
        {[26, 190, 140, 80].map((height) => (
          <div key={height} className="ruled mb-3 animate-pulse border border-rule bg-sheet" style={{ height }} />
        ))}
      </div>
      <div className="hidden bg-sheet md:block" />
    </main>
  );
}
