/** A cell of text in a CSV (RFC 4180) that somebody may open in a spreadsheet: what would be run there as a formula is shown as text. */

const FORMULA = /^[=+\-@\t\r]/;

export function csvCell(text: string): string {
  const safe = FORMULA.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}
