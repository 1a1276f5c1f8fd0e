/** Names of places in descriptions and requests, in the words of the interface. */

import type { z } from 'zod';
import { cleanLine } from '../quantity/plainText';
import { capital } from '../quantity/text';
import { FIELDS } from './fields';
import { issuesOf } from './refusals';

/** Those of jobs and requests; those of systems stand in {@link FIELDS}. */
const OTHERS: ReadonlyMap<string, string> = new Map([
  ['title', 'Title of the job'],
  ['complaints', 'Complaint'],
  ['openedAt', 'Opened'],
  ['notes', 'Notes'],
  ['since', 'Since when'],
  ['changed', 'What changed'],
  ['tried', 'What was tried'],
  ['works', 'Planned work'],
  ['checks', 'Checklists'],
  ['clampA', 'Clamp-meter readings'],
  ['systemId', 'System'],
  ['systemName', 'Name of the system'],
  ['timeZone', 'Time zone'],
  ['base', 'Version that was changed'],
  ['path', 'Setting'],
  ['after', 'New value'],
  ['why', 'Why'],
  ['on', 'Date'],
  ['fileName', 'Name of the file'],
  ['size', 'Size of the file'],
  ['device', 'Device that wrote the log'],
  ['overlap', 'What to do with the overlap'],
  ['offsetSeconds', 'Clock is off by'],
  ['secondsPerDay', 'Clock drifts by'],
  ['search', 'Search'],
  ['standing', 'Standing'],
  ['complaint', 'Complaint'],
  ['from', 'From'],
  ['to', 'To'],
  ['format', 'Format'],
  ['at', 'Where the part begins'],
  ['item', 'Item of the checklist'],
]);

const inWords = (part: PropertyKey): string =>
  String(part)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase();

/** "Float voltage (second source)" for `sources.1.profile.floatV`; what has no name of its own is named by its key. */
export function nameOfPlace(path: readonly PropertyKey[]): string {
  // A bundle's places lie deeper; a form's begin with the description's name.
  const from = path.findIndex((one) => one === 'system' || one === 'job');
  const inner = from >= 0 && path.length > from + 1 ? path.slice(from + 1) : path;
  const key = inner.map((part) => (/^\d+$/.test(String(part)) ? '*' : String(part))).join('.');
  const named = Object.hasOwn(FIELDS, key) ? FIELDS[key]!.label : OTHERS.get(key);
  const nth = inner.find((part) => /^\d+$/.test(String(part)));
  const where = nth === undefined ? '' : ` (${inWords(inner[0]!)}, entry ${Number(nth) + 1})`;
  if (named) return `${named}${where}`;
  const isWord = (part: PropertyKey) => /^[a-zA-Z]+$/.test(String(part));
  const at = inner.findLastIndex(isWord);
  if (at < 0) return 'What was sent';
  const words = OTHERS.get(String(inner[at])) ?? inWords(inner[at]!);
  const label = capital(words);
  // An entry of a group whose keys come from outside.
  const entry = inner.slice(at + 1).find((part) => !/^\d+$/.test(String(part)));
  if (entry !== undefined) return `${label}, “${cleanLine(String(entry)).slice(0, 40)}”`;
  return `${label}${at === 0 && nth === undefined ? '' : where}`;
}

/** The first thing that is wrong, as one sentence that names the field. */
export function firstRefusal(error: z.ZodError): string {
  const issue = issuesOf(error)[0]!;
  return issue.path.length === 0 ? issue.message : `${nameOfPlace(issue.path)}: ${issue.message}`;
}
