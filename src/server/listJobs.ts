/** The job list: every job with what has been found so far. */

import type { Finding } from '@/core/diagnosis/diagnose';
import { reviewSettings } from '@/core/system/review/review';
import { findAnalyses } from '@/store/analyses';
import type { Store } from '@/store/database';
import { listJobs as storedJobs } from '@/store/jobs';
import type { JobSummary } from '@/core/diagnosis/summary';

export async function listJobs(store: Store): Promise<JobSummary[]> {
  const jobs = await storedJobs(store);
  const analyses = await findAnalyses(
    store,
    jobs.map((one) => one.id),
  );
  return jobs.map(({ id, systemId, job, system, recordings }) => {
    const findings = analyses.get(id)?.result.findings;
    return {
      id,
      systemId,
      title: job.title,
      system: system.name,
      complaints: job.complaints,
      openedAt: job.openedAt,
      recordings,
      toChange: reviewSettings(system, job).sheet.filter((row) => row.verdict === 'change').length,
      headline: findings ? headline(findings) : null,
    };
  });
}

/** The first finding that is possible or better; 'nothing' when there is none. */
function headline(findings: Finding[]): JobSummary['headline'] {
  const first = findings.find((one) => ['strong', 'likely', 'possible'].includes(one.standing));
  return first ? { title: first.title, standing: first.standing } : 'nothing';
}
