/** What is seen while a job's logs are analysed. */
export default function Loading() {
  return (
    <main className="bg-rule grid flex-1 gap-px md:grid-cols-[10.5rem_1fr_21rem]" aria-busy="true">
      <div className="bg-sheet hidden md:block" />
      <div className="bg-paper p-4">
        <p role="status" className="text-ink-soft mb-3">
          Opening the job and weighing its logs …
        </p>
        {[26, 190, 140, 80].map((height) => (
          <div
            key={height}
            className="ruled border-rule bg-sheet mb-3 animate-pulse border"
            style={{ height }}
          />
        ))}
      </div>
      <div className="bg-sheet hidden md:block" />
    </main>
  );
}
