/** The rows of a log that had a problem, as CSV (RFC 4180). */

import type { RowProblem } from '../readCsv';
import { csvCell } from './csvCell';

/** @param count of all problems: more than were kept are told at the end */
export function problemsCsv(problems: readonly RowProblem[], count: number): string {
  const lines = problems.map(({ line, reason, row }) =>
    // Line 0 is said of the file as a whole.
    [line > 0 ? String(line) : '', csvCell(reason), csvCell(row ?? '')].join(','),
  );
  const more = count - problems.length;
  if (more > 0) lines.push(`,${csvCell(`${more} more are not listed.`)},`);
  return ['line,reason,row', ...lines].join('\r\n') + '\r\n';
}
