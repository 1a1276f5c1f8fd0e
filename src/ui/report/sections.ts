/** What a report says, in order: one source for the page and the PDF. */

import { DateTime } from 'luxon';
import { lastFullText } from '@/core/diagnosis/chargeTable';
import type { Diagnosis } from '@/core/diagnosis/result';
import { cellsText } from '@/core/diagnosis/cellsText';
import { parallelText } from '@/core/diagnosis/parallelOut';
import { cutoffsText, cutoffText } from '@/core/diagnosis/cutoffsText';
import { countingText, driftText } from '@/core/diagnosis/countingText';
import { chargingText } from '@/core/diagnosis/sourceTable';
import type { Change } from '@/core/bundle/schema';
import { explainedText, oddsText } from '@/core/diagnosis/odds';
import { testLine } from '@/core/diagnosis/testsMade';
import { COMPLAINT_WORDS, isFound, nothingFound } from '@/core/diagnosis/summary';
import { ampHours, amps, counted, dayText, duration, volts } from '@/core/quantity/text';
import { CHEMISTRY } from '@/core/system/chemistry';
import { checklistFor } from '@/core/system/checklist';
import { reviewSettings } from '@/core/system/review/review';
import type { Job, System } from '@/core/system/schema';
import { deviceName, sourceName } from '@/core/system/sourceName';
import { figure } from '@/ui/describe/steps/sheetText';
import type { Drawn } from '@/ui/picture/picture';
import { NO_PICTURES, type ReportPictures } from './pictured';

export interface ReportFinding {
  title: string;
  standing: string;
  evidence: string[];
  /** What is done about it, with its caution; empty where nothing can be said. */
  remedy: string;
  caution: string;
  /** Strips of what it leans on; null where it leans on no span of a log. */
  picture: Drawn | null;
}

export interface Report {
  title: string;
  system: string;
  facts: [string, string][];
  /** Hazards of the description and the wiring walk. */
  hazards: string[];
  trust: string[];
  /** Answers of the checklists that were looked at, each with its photos. */
  checks: { text: string; answer: string; note: string; photos: string[] }[];
  /** What speaks against the settings, with what to do. */
  settings: { text: string; fix: string }[];
  /** Settings that were changed, a row each. */
  changed: string[][];
  /** Causes that are possible or better. */
  findings: ReportFinding[];
  /** What is said where there is none. */
  nothing: string;
  /** What was weighed and is unlikely or worse, in one sentence; empty when nothing was. */
  dismissed: string;
  nextTest: { title: string; how: string; caution: string } | null;
  /** Moments and spans that were pinned, in order of time. */
  pins: { text: string; picture: Drawn | null }[];
  /** What was tested, and what charging, counting, discharging and the cells show: sentences under a heading each, none empty. */
  shows: { title: string; lines: string[] }[];
  /** Charge table: heading row first. */
  charges: string[][];
  cautions: string[];
}

/** Of many false syncs, and of many stretches of drift, these tell enough. */
const MOST_SYNCS = 5;
const MOST_CUTS = 5;
const worst = (intervals: NonNullable<Diagnosis['counting']>['intervals']) =>
  [...intervals].sort((a, b) => Math.abs(b.drift) - Math.abs(a.drift)).slice(0, 3);

/** Stand at the end of whatever is printed. */
export const CAUTIONS: readonly string[] = [
  'Charging gives off explosive gas: ventilate, no sparks, no smoking. Acid: goggles, gloves, rinse water.',
  'A battery can deliver thousands of amperes: insulated tools, no jewellery, isolate and fuse.',
  'Local codes and the maker’s sheet come before anything in this report; mains work belongs to licensed people.',
];

export interface Beside {
  /** Why the logs were not weighed. */
  notWeighed?: string | null;
  photos: readonly { id: string; item: string }[];
  changes: readonly Change[];
  pictures?: ReportPictures;
}

export function reportOf(
  job: Job,
  system: System,
  diagnosis: Diagnosis,
  { photos, changes, pictures = NO_PICTURES }: Beside = { photos: [], changes: [] },
): Report {
  const { bank } = system;
  const review = reviewSettings(system, job);
  const nameOf = (id: string) => deviceName(system, id);
  const clock = (iso: string) =>
    DateTime.fromISO(iso, { zone: system.timeZone }).toFormat('d LLL yyyy HH:mm');
  const dismissed = diagnosis.findings.filter(
    (one) => one.standing === 'unlikely' || one.standing === 'excluded',
  );
  const first = diagnosis.charges[0];
  const last = diagnosis.charges.at(-1);
  const chargingLines = [
    ...(last ? [lastFullText(diagnosis.charging.lastFull, Date.parse(last.to), clock)] : []),
    ...chargingText(diagnosis, (id) => sourceName(system, id), clock),
  ];
  const countingLines = [
    ...countingText(diagnosis, (id) => sourceName(system, id)),
    ...diagnosis.syncs
      .filter((one) => one.judged === 'false')
      .slice(0, MOST_SYNCS)
      .map((one) => `False sync ${clock(one.at)}, from ${one.from.toFixed(0)} %. ${one.why}`),
    ...worst(diagnosis.counting?.intervals ?? []).map(
      (one) => `${clock(one.from)} to ${clock(one.to)}: ${driftText(one)}`,
    ),
  ];
  const dischargingLines = [
    ...cutoffsText(diagnosis, nameOf),
    ...diagnosis.cutoffs.slice(0, MOST_CUTS).map((one) => `${clock(one.at)}: ${cutoffText(one, nameOf)}`),
    ...(diagnosis.cutoffs.length > MOST_CUTS
      ? [`And ${counted(diagnosis.cutoffs.length - MOST_CUTS, 'cut-off')} more.`]
      : []),
  ];
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
          .join('; ') || 'none described',
      ],
      [
        'Charges seen',
        first && last ? `${diagnosis.charges.length}, ${clock(first.from)} to ${clock(last.to)}` : 'none',
      ],
    ],
    hazards: diagnosis.hazards.map((one) => one.text),
    trust: diagnosis.trust.map((one) => one.text),
    checks: checklistFor(system, job.works ?? []).flatMap((item) => {
      const check = job.checks?.[item.id];
      const taken = photos.filter((one) => one.item === item.id).map((one) => one.id);
      if ((!check || check.answer === 'not-checked') && taken.length === 0) return [];
      const answer = check?.answer === 'fine' ? 'fine' : check?.answer === 'found' ? 'found' : 'not checked';
      return [{ text: item.text, answer, note: check?.note ?? '', photos: taken }];
    }),
    settings: review.notes.filter((one) => one.weight !== 'remark').map(({ text, fix }) => ({ text, fix })),
    changed: changes.map((one) => [
      dayText(one.on),
      one.label,
      figure(one.before, one.unit),
      figure(one.after, one.unit),
      one.why,
    ]),
    nothing: nothingFound(diagnosis),
    findings: diagnosis.findings.filter(isFound).map((one) => ({
      title: one.title,
      standing: `${one.standing}, ${one.explainedBy.length > 0 ? 'comes with another fault' : oddsText(one.decibans)}`,
      evidence: [
        ...[explainedText(one.explainedBy, diagnosis.findings)].filter((text) => text !== null),
        ...one.evidence.map((item) => item.text),
      ],
      remedy: one.remedy?.text ?? '',
      caution: one.remedy?.caution ?? '',
      picture: pictures.findings.get(one.cause) ?? null,
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
    pins: [...(job.pins ?? [])]
      .sort((a, b) => a.from.localeCompare(b.from))
      .map((one) => ({
        text: `${clock(one.from)} to ${clock(one.to)}: ${one.note}`,
        picture: pictures.pins.get(one.id) ?? null,
      })),
    shows: [
      {
        title: 'What was tested',
        lines: diagnosis.testsMade.map(testLine),
      },
      {
        title: 'What was ruled out by hand',
        lines: diagnosis.findings.flatMap(({ title, ruledOut }) =>
          ruledOut ? [`${title} (${dayText(ruledOut.on)}): ${ruledOut.why}`] : [],
        ),
      },
      { title: 'What charging shows', lines: chargingLines },
      { title: 'What counting shows', lines: countingLines },
      { title: 'What discharging shows', lines: dischargingLines },
      { title: 'Batteries in parallel', lines: parallelText(diagnosis.batteries) },
      { title: 'What the cells show', lines: cellsText(diagnosis.cells, system) },
      { title: 'What the hydrometer rounds show', lines: diagnosis.hydrometer },
      { title: 'What the capacity tests show', lines: diagnosis.capacity },
    ].filter((one) => one.lines.length > 0),
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
