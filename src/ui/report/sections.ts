/** What a report says, in order: one source for the page and the PDF. */

import { DateTime } from 'luxon';
import type { Diagnosis } from '@/core/diagnosis/diagnose';
import { COMPLAINT_WORDS } from '@/core/diagnosis/summary';
import { amps, ampHours, duration, volts } from '@/core/quantity/text';
import { CHEMISTRY } from '@/core/system/chemistry';
import type { Job, System } from '@/core/system/schema';

export interface ReportFinding {
  title: string;
  standing: string;
  evidence: string[];
}

export interface Report {
  title: string;
  system: string;
  facts: [string, string][];
  trust: string[];
  /** Causes that are possible or better. */
  findings: ReportFinding[];
  /** What was weighed and is unlikely or worse, in one sentence; empty when nothing was. */
  dismissed: string;
  nextTest: { title: string; how: string; caution: string } | null;
  /** Charge table: heading row first. */
  charges: string[][];
  cautions: string[];
}

/** Stand at the end of whatever is printed. */
export const CAUTIONS: readonly string[] = [
  'Charging gives off explosive gas: ventilate, no sparks, no smoking. Acid: goggles, gloves, rinse water.',
  'A battery can deliver thousands of amperes: insulated tools, no jewellery, isolate and fuse.',
  'Local codes and the maker’s sheet come before anything in this report; mains work belongs to licensed people.',
];

const NOTABLE = ['strong', 'likely', 'possible'];

export function reportOf(job: Job, system: System, diagnosis: Diagnosis): Report {
  const { bank } = system;
  const clock = (iso: string) =>
    DateTime.fromISO(iso, { zone: system.timeZone }).toFormat('d LLL yyyy HH:mm');
  const dismissed = diagnosis.findings.filter(
    (one) => one.standing === 'unlikely' || one.standing === 'excluded',
  );
  const first = diagnosis.charges[0];
  const last = diagnosis.charges.at(-1);
  return {
    title: job.title,
    system: system.name,
    facts: [
      ['Complaint', job.complaints.map((one) => COMPLAINT_WORDS[one]).join(', ')],
      [
        'Battery',
        [
          bank.chemistry ? CHEMISTRY[bank.chemistry].name : 'chemistry not known',
          bank.cellsInSeries ? `${bank.cellsInSeries} cells` : 'cells not known',
          bank.capacityAh ? `${bank.capacityAh} Ah` : 'capacity not known',
        ].join(', '),
      ],
      [
        'Charger',
        system.sources
          .map((one) => `${one.name}, ${one.ratedA === undefined ? 'rating not known' : `${one.ratedA} A`}`)
          .join('; ') || 'none told',
      ],
      [
        'Charges seen',
        first && last ? `${diagnosis.charges.length}, ${clock(first.from)} to ${clock(last.to)}` : 'none',
      ],
    ],
    trust: diagnosis.trust.map((one) => one.text),
    findings: diagnosis.findings
      .filter((one) => NOTABLE.includes(one.standing))
      .map((one) => ({
        title: one.title,
        standing: one.standing,
        evidence: one.evidence.map((item) => item.text),
      })),
    dismissed:
      dismissed.length > 0
        ? `Weighed and found unlikely or excluded: ${dismissed.map((one) => one.title.toLowerCase()).join('; ')}.`
        : '',
    nextTest: diagnosis.nextTest
      ? {
          title: diagnosis.nextTest.title,
          how: diagnosis.nextTest.how,
          caution: diagnosis.nextTest.caution ?? '',
        }
      : null,
    charges: [
      ['Begins', 'Bulk', 'Absorption', 'Held at', 'Ends at', 'Into it', 'Full'],
      ...diagnosis.charges.map((charge) => {
        const total = (stage: string) =>
          charge.stages
            .filter((one) => one.stage === stage)
            .reduce((sum, one) => sum + Date.parse(one.to) - Date.parse(one.from), 0);
        const absorption = charge.stages.filter((one) => one.stage === 'absorption').at(-1);
        const into = charge.stages.reduce((sum, one) => sum + (one.ampHours ?? 0), 0);
        return [
          clock(charge.from),
          total('bulk') > 0 ? duration(total('bulk')) : '–',
          total('absorption') > 0 ? duration(total('absorption')) : 'not reached',
          absorption?.volts == null ? '–' : volts(absorption.volts),
          absorption?.endAmps == null ? '–' : amps(absorption.endAmps),
          ampHours(into),
          charge.full ? 'yes' : 'no',
        ];
      }),
    ],
    cautions: [...CAUTIONS],
  };
}
