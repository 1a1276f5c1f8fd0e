/** The report on screen and on paper (A4). */

import Link from 'next/link';
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
        {report.trust.length > 0 && (
          <Section title="Can the log be believed?">
            {report.trust.map((one) => (
              <p key={one}>{one}</p>
            ))}
          </Section>
        )}
        <Section title="Findings">
          {report.findings.length === 0 && (
            <p>Of the causes weighed, none is possible or better: nothing wrong was found.</p>
          )}
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
