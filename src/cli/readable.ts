/** A diagnosis as text for a terminal. */

import { DateTime } from 'luxon';
import { ENDED_WORDS } from '@/core/diagnosis/chargeTable';
import type { Diagnosis } from '@/core/diagnosis/result';
import { countingText, driftText } from '@/core/diagnosis/countingText';
import { cellsText } from '@/core/diagnosis/cellsText';
import { parallelText } from '@/core/diagnosis/parallelOut';
import { cutoffsText, cutoffText } from '@/core/diagnosis/cutoffsText';
import { testLine } from '@/core/diagnosis/testsMade';
import { chargingText } from '@/core/diagnosis/sourceTable';
import { explainedText, oddsText, POINTS_LINE, signedPoints } from '@/core/diagnosis/odds';
import { amps, ampHours, duration, volts } from '@/core/quantity/text';
import type { Job, System } from '@/core/system/schema';
import { deviceName, sourceName } from '@/core/system/sourceName';

const WIDTH = 100;

export function readable(job: Job, system: System, diagnosis: Diagnosis): string {
  const out: string[] = [`${system.name}: ${job.title}`, ''];
  const block = (title: string, lines: string[]) => out.push(title, ...lines.map((line) => `  ${line}`), '');

  if (diagnosis.trust.length > 0)
    block(
      'Can the log be believed?',
      diagnosis.trust.flatMap((note) => wrap(note.text)),
    );
  if (diagnosis.hazards.length > 0)
    block(
      'Hazards',
      diagnosis.hazards.flatMap((hazard) => wrap(hazard.text)),
    );

  block(
    'Causes weighed',
    diagnosis.findings.flatMap((finding) => [
      `${finding.standing.padEnd(12)}${finding.standing === 'cannot-tell' ? '' : `${finding.explainedBy.length > 0 ? 'comes with another fault' : oddsText(finding.decibans)}: `}${finding.title}  (${finding.cause})`,
      ...[explainedText(finding.explainedBy, diagnosis.findings)].flatMap((one) =>
        one ? wrap(one, WIDTH - 12).map((line) => `          ${line}`) : [],
      ),
      ...finding.evidence.flatMap((item) =>
        wrap(`${signedPoints(item.decibans).padStart(4)}  ${item.text}`, WIDTH - 12).map(
          (line, i) => `          ${i > 0 ? '      ' : ''}${line}`,
        ),
      ),
      ...(finding.remedy
        ? wrap(
            `to do: ${finding.remedy.text}${finding.remedy.caution ? ` Caution: ${finding.remedy.caution}` : ''}`,
            WIDTH - 12,
          ).map((line) => `          ${line}`)
        : []),
      ...(finding.missing.length > 0 ? [`          not known: ${finding.missing.join('; ')}`] : []),
      ...finding.caveats.flatMap((caveat) =>
        wrap(`but: ${caveat}`, WIDTH - 12).map((line) => `          ${line}`),
      ),
    ]),
  );
  if (diagnosis.findings.length > 0) out.push(...wrap(POINTS_LINE), '');
  if (diagnosis.testsMade.length > 0)
    block(
      'Tested',
      diagnosis.testsMade.flatMap((one) => wrap(testLine(one))),
    );
  if (diagnosis.settings.length > 0)
    block(
      'Settings to change',
      diagnosis.settings.flatMap(({ of, setting, now, advised, school, why }) => [
        `${of}  ${setting}: ${now} -> ${advised}${school ? `  (${school})` : ''}`,
        ...wrap(why, WIDTH - 4).map((line) => `    ${line}`),
      ]),
    );
  if (diagnosis.nextTest)
    block('Next test', [
      ...wrap(`${diagnosis.nextTest.title}. ${diagnosis.nextTest.how} ${diagnosis.nextTest.why}`),
      ...(diagnosis.nextTest.caution ? wrap(`Caution: ${diagnosis.nextTest.caution}`) : []),
    ]);

  const zone = system.timeZone;
  const clock = (iso: string) => DateTime.fromISO(iso, { zone }).toFormat('yyyy-MM-dd HH:mm');
  const chargingLines = chargingText(diagnosis, (id) => sourceName(system, id), clock);
  if (chargingLines.length > 0)
    block(
      'What charging shows',
      chargingLines.flatMap((one) => wrap(one)),
    );
  block(
    `Charges (${zone})`,
    diagnosis.charges.flatMap((charge) => [
      `${clock(charge.from)}  ${charge.source ?? 'source not known'}${charge.full ? ', full' : ''}`,
      ...charge.stages.map((stage) =>
        `    ${stage.stage.padEnd(11)}${duration(Date.parse(stage.to) - Date.parse(stage.from)).padStart(11)}  ${text(stage.volts, volts)}  end ${text(stage.endAmps, amps)}  ${text(stage.ampHours, ampHours)}  ${stage.endedBy === 'unknown' ? '' : `ended by: ${ENDED_WORDS[stage.endedBy]}`}`.trimEnd(),
      ),
    ]),
  );
  const countedLines = countingText(diagnosis, (id) => sourceName(system, id));
  if (countedLines.length > 0)
    block(
      'What counting shows',
      countedLines.flatMap((one) => wrap(one)),
    );
  if (diagnosis.syncs.length > 0)
    block(
      `Syncs (${zone})`,
      diagnosis.syncs.flatMap((one) => [
        `${clock(one.at)}  from ${one.from.toFixed(0)} %  ${one.judged}`,
        ...wrap(one.why, WIDTH - 4).map((line) => `    ${line}`),
      ]),
    );
  if (diagnosis.counting && diagnosis.counting.intervals.length > 0)
    block(
      `Drift between syncs (${zone})`,
      diagnosis.counting.intervals.flatMap((one) =>
        wrap(`${clock(one.from)} to ${clock(one.to)}: ${driftText(one)}`),
      ),
    );
  const nameOf = (id: string) => deviceName(system, id);
  const cutLines = cutoffsText(diagnosis, nameOf);
  if (cutLines.length > 0)
    block(
      'What discharging shows',
      cutLines.flatMap((one) => wrap(one)),
    );
  if (diagnosis.cutoffs.length > 0)
    block(
      `Cut-offs (${zone})`,
      diagnosis.cutoffs.flatMap((one) => wrap(`${clock(one.at)}  ${cutoffText(one, nameOf)}`)),
    );
  const parallelLines = parallelText(diagnosis.batteries);
  if (parallelLines.length > 0)
    block(
      'Batteries in parallel',
      parallelLines.flatMap((one) => wrap(one)),
    );
  const cellLines = cellsText(diagnosis.cells, system);
  if (cellLines.length > 0)
    block(
      'What the cells show',
      cellLines.flatMap((one) => wrap(one)),
    );
  if (diagnosis.hydrometer.length > 0)
    block(
      'What the hydrometer rounds show',
      diagnosis.hydrometer.flatMap((one) => wrap(one)),
    );
  if (diagnosis.capacity.length > 0)
    block(
      'What the capacity tests show',
      diagnosis.capacity.flatMap((one) => wrap(one)),
    );
  if (diagnosis.unexamined.length > 0)
    out.push(...wrap(`Not looked at by this version: ${diagnosis.unexamined.join(', ')}.`), '');
  return out.join('\n');
}

const text = (value: number | null, format: (value: number) => string): string =>
  (value === null ? 'not known' : format(value)).padStart(9);

function wrap(sentence: string, width = WIDTH): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of sentence.split(' ')) {
    if (line !== '' && line.length + word.length + 1 > width) {
      lines.push(line);
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  lines.push(line);
  return lines;
}
