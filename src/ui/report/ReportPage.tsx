/** The report on screen and on paper (A4). */

import Link from 'next/link';
import { SvgPicture } from '@/ui/picture/SvgPicture';
import { PrintButton } from './PrintButton';
import type { Report } from './sections';

export function ReportPage({ jobId, report }: { jobId: string; report: Report }) {
  const [heading, ...rows] = report.charges;
  return (
    <main className="mx-auto w-full max-w-3xl p-4 text-sm print:max-w-none print:p-0">
      <div className="no-print mb-4 flex items-center gap-3">
        <Link href={`/jobs/${jobId}/charging`} className="text-accent underline">
          Back to the job
        </Link>
        <span className="flex-1" />
        <PrintButton />
        <a href={`/api/jobs/${jobId}/report`} className="bg-accent text-on-accent px-3 py-1.5" download>
          Download PDF
        </a>
      </div>
      <article className="border-rule-strong bg-sheet border p-6 print:border-0 print:bg-white print:p-0">
        <p className="text-ink-soft">Report · {report.system}</p>
        <h1 className="mb-3 text-xl font-semibold">{report.title}</h1>
        <dl className="mb-4 grid grid-cols-[8rem_1fr] gap-y-0.5">
          {report.facts.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-soft">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
        {report.hazards.length > 0 && (
          <Section title="Hazards">
            {report.hazards.map((one) => (
              <p key={one} className="border-hazard mb-1 border-l-3 pl-2">
                {one}
              </p>
            ))}
          </Section>
        )}
        {report.checks.length > 0 && (
          <Section title="Looked at">
            {report.checks.map((one) => (
              <div key={one.text} className="mb-1 break-inside-avoid">
                <p>
                  {one.text}: <strong>{one.answer}</strong>
                  {one.note && `. ${one.note}`}
                </p>
                {one.photos.length > 0 && (
                  <div className="my-1 flex flex-wrap gap-2">
                    {one.photos.map((photo, i) => (
                      // eslint-disable-next-line @next/next/no-img-element -- it comes small from our own database
                      <img
                        key={photo}
                        src={`/api/photos/${photo}`}
                        alt={`Photo ${i + 1}: ${one.text}`}
                        className="border-rule max-h-56 w-auto max-w-full border"
                      />
                    ))}
                  </div>
                )}
              </div>
            ))}
          </Section>
        )}
        {report.settings.length > 0 && (
          <Section title="Settings">
            <ul className="list-disc pl-5">
              {report.settings.map((one) => (
                <li key={one.text}>
                  {one.text} {one.fix}
                </li>
              ))}
            </ul>
            <p className="no-print mt-1">
              <Link href={`/jobs/${jobId}/settings-sheet`} className="text-accent underline">
                The settings sheet
              </Link>
            </p>
          </Section>
        )}
        {report.changed.length > 0 && (
          <Section title="Changed settings">
            <ul>
              {report.changed.map(([on, label, before, after, why], i) => (
                <li key={i}>
                  <span className="font-mono">{on}</span> {label}: {before} → {after}. {why}
                </li>
              ))}
            </ul>
          </Section>
        )}
        {report.trust.length > 0 && (
          <Section title="Can the log be believed?">
            {report.trust.map((one) => (
              <p key={one}>{one}</p>
            ))}
          </Section>
        )}
        <Section title="Findings">
          {report.findings.length === 0 && <p>{report.nothing}</p>}
          {report.findings.map((one) => (
            <div key={one.title} className="mb-2 break-inside-avoid">
              <p className="font-semibold">
                {one.title} <span className="text-ink-soft font-normal">({one.standing})</span>
              </p>
              <ul className="list-disc pl-5">
                {one.evidence.map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
              {one.picture && <SvgPicture drawn={one.picture} />}
              {one.remedy && (
                <p>
                  <strong>What to do.</strong> {one.remedy}
                </p>
              )}
              {one.caution && <p className="border-hazard border-l-3 pl-2">{one.caution}</p>}
            </div>
          ))}
          <p className="text-ink-soft">{report.dismissed}</p>
        </Section>
        {report.nextTest && (
          <Section title="Next test">
            <p className="font-semibold">{report.nextTest.title}</p>
            <p>{report.nextTest.how}</p>
            <p>{report.nextTest.caution}</p>
          </Section>
        )}
        {report.pins.length > 0 && (
          <Section title="Pinned on the strips">
            <ul className="list-disc pl-5">
              {report.pins.map((one) => (
                <li key={one.text} className="break-inside-avoid">
                  {one.text}
                  {one.picture && <SvgPicture drawn={one.picture} />}
                </li>
              ))}
            </ul>
          </Section>
        )}
        {report.shows.map(({ title, lines }) => (
          <Section key={title} title={title}>
            <ul className="list-disc pl-5">
              {lines.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          </Section>
        ))}
        <Section title="Charges">
          <div className="overflow-x-auto">
            <table className="w-full border-collapse text-xs">
              <thead>
                <tr className="border-rule-strong border-b">
                  {heading!.map((one, i) => (
                    <th key={one} className={`py-1 ${i === 0 ? 'text-left' : 'text-right'}`}>
                      {one}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <tr key={row[0]} className="border-rule break-inside-avoid border-b">
                    {row.map((cell, i) => (
                      <td key={i} className={`py-0.5 ${i === 0 ? '' : 'text-right font-mono'}`}>
                        {cell}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Section>
        <Section title="Cautions">
          <ul className="list-disc pl-5">
            {report.cautions.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </Section>
      </article>
    </main>
  );
}

function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mb-4">
      <h2 className="border-rule mb-1 border-b font-semibold">{title}</h2>
      {children}
    </section>
  );
}
