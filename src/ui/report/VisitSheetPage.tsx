/** The sheet of a visit on screen and paper. */

import Link from 'next/link';
import { PrintButton } from '@/ui/report/PrintButton';
import type { VisitSheet } from './visitSheet';

export function VisitSheetPage({
  jobId,
  visitId,
  sheet,
}: {
  jobId: string;
  visitId: string;
  sheet: VisitSheet;
}) {
  return (
    <main className="mx-auto w-full max-w-4xl p-4">
      <div className="no-print mb-3 flex flex-wrap items-center gap-3">
        <Link href={`/jobs/${jobId}/on-site`} className="text-accent underline">
          Back to the round
        </Link>
        <PrintButton />
        <a href={`/api/jobs/${jobId}/visits/${visitId}`} className="text-accent underline">
          PDF
        </a>
      </div>
      <article className="border-rule-strong bg-sheet border p-6 text-sm print:border-0 print:p-0">
        <p className="text-ink-soft">Sheet of a visit · {sheet.system}</p>
        <h1 className="mb-2 text-xl font-semibold">{sheet.title}</h1>
        <dl className="mb-3 grid grid-cols-[max-content_1fr] gap-x-4">
          {sheet.facts.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-soft">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
        {sheet.sections.map((one) => (
          <section key={one.title} className="mb-3">
            <h2 className="border-rule-strong mb-1 border-b font-semibold">{one.title}</h2>
            {one.read.length > 0 && (
              <dl className="grid gap-x-6 sm:grid-cols-2">
                {one.read.map(([name, value], k) => (
                  <div key={k} className="flex justify-between gap-3">
                    <dt className="text-ink-soft">{name}</dt>
                    <dd className="text-right">{value}</dd>
                  </div>
                ))}
              </dl>
            )}
            {one.lines.length > 0 && (
              <ul className="mt-1 list-disc pl-5">
                {one.lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            )}
          </section>
        ))}
        {sheet.changed.length > 0 && (
          <section className="mb-3">
            <h2 className="border-rule-strong mb-1 border-b font-semibold">Changed</h2>
            <ul className="list-disc pl-5">
              {sheet.changed.map((one, k) => (
                <li key={k}>
                  {one.what}: {one.before ? `${one.before} → ` : ''}
                  {one.after}. {one.why}
                </li>
              ))}
            </ul>
          </section>
        )}
        {sheet.notLookedAt.length > 0 && (
          <section className="mb-3">
            <h2 className="border-rule-strong mb-1 border-b font-semibold">Not looked at</h2>
            <p>{sheet.notLookedAt.join('; ')}.</p>
          </section>
        )}
        {sheet.photos.length > 0 && (
          <section className="mb-3">
            <h2 className="border-rule-strong mb-1 border-b font-semibold">Photos</h2>
            <div className="flex flex-wrap gap-3">
              {sheet.photos.map(({ id, of }) => (
                <figure key={id} className="w-40">
                  {/* eslint-disable-next-line @next/next/no-img-element -- it comes small from our own database */}
                  <img src={`/api/photos/${id}`} alt={of} className="border-rule-strong max-h-32 border" />
                  <figcaption className="text-ink-soft text-xs">{of}</figcaption>
                </figure>
              ))}
            </div>
          </section>
        )}
        {sheet.cautions.map((one) => (
          <p key={one} className="text-ink-soft">
            {one}
          </p>
        ))}
        <p className="mt-4 font-semibold">
          {sheet.signature ? `Signed: ${sheet.signature}` : 'Not signed yet: ______________________'}
        </p>
      </article>
    </main>
  );
}
