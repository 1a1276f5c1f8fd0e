/** The settings review: every rule over a description, what they found, what would be set instead, and what to find out first. */

import { FIELDS, fieldAt, type Unit } from '../fields';
import { valueAt } from '../paths';
import type { System } from '../schema';
import { ADVICE, type Advice } from './advice';
import { isAsked } from './asked';
import type { HazardCode, Note, Weight } from './rule';
import { RULES } from './rules';
import {
  batteryOf,
  halfOf,
  type LoadView,
  NotKnown,
  type SourceView,
  type Subject,
  subjectOf,
} from './subject';

export interface ReviewNote extends Note {
  rule: string;
  /** Device id: a source, a load, `monitor`, `bms`, or `bank`. */
  of: string;
  ofName: string;
  /** Path of the setting in the system, `sources.0.profile.floatV`; null when it is about no single one. */
  path: string | null;
}

/** keep: as it is; change: advised otherwise; not-known: to be read off first, then compared. */
export type Verdict = 'keep' | 'change' | 'not-known';

export interface SheetRow {
  of: string;
  ofName: string;
  setting: string;
  path: string;
  label: string;
  unit: Unit;
  now: number | string | null;
  advised: number | string;
  verdict: Verdict;
  school: string | null;
  why: string;
}

export interface FindOut {
  path: string;
  ofName: string;
  label: string;
  where: string;
  /** How many checks wait for it. */
  opens: number;
}

export interface Hazard {
  code: HazardCode;
  text: string;
}

export interface Review {
  notes: ReviewNote[];
  sheet: SheetRow[];
  findOut: FindOut[];
  hazards: Hazard[];
  /** Checks that could be made, and that wait for something. */
  made: number;
  waiting: number;
}

const WEIGHTS: readonly Weight[] = ['fault', 'caution', 'remark'];

interface Place {
  of: string;
  ofName: string;
  /** Prefix of its settings' paths. */
  at: string;
  raw: object | undefined;
}

/** @param job lets the review know today's date and what the wiring walk found; without it those are not known. */
export function reviewSettings(system: System, job: Subject['job'] = null): Review {
  const s = subjectOf(system, job);
  const notes: ReviewNote[] = [];
  const lacking = new Map<string, number>();
  let made = 0;
  let waiting = 0;
  for (const rule of RULES)
    for (const [place, run] of runsOf(rule, s)) {
      try {
        const found = run();
        made++;
        for (const note of found === null ? [] : Array.isArray(found) ? (found as Note[]) : [found as Note])
          notes.push({
            ...note,
            rule: rule.code,
            of: place.of,
            ofName: place.ofName,
            path: pathOf(note.setting, place),
          });
      } catch (error) {
        if (!(error instanceof NotKnown)) throw error;
        waiting++;
        lacking.set(error.path, (lacking.get(error.path) ?? 0) + 1);
      }
    }
  // What can hurt somebody comes first.
  const rank = (note: ReviewNote) => (note.hazard ? -1 : WEIGHTS.indexOf(note.weight));
  notes.sort((a, b) => rank(a) - rank(b));
  return {
    notes,
    sheet: sheetOf(s, notes),
    findOut: [...lacking]
      .map(([path, opens]) => ({ ...describe(path, system), path, opens }))
      // Of equals, the one that stands first on the form.
      .sort((a, b) => b.opens - a.opens || formOrder(a.path) - formOrder(b.path)),
    hazards: notes.flatMap(({ hazard, text, fix }) =>
      hazard ? [{ code: hazard, text: `${text} ${fix}` }] : [],
    ),
    made,
    waiting,
  };
}

type Runs = [Place, () => ReturnType<(typeof RULES)[number]['review']>][];

function runsOf(rule: (typeof RULES)[number], s: Subject): Runs {
  switch (rule.on) {
    case 'source':
      return s.sources.map((source, i) => [
        sourcePlace(source, i),
        () => rule.review(batteryOf(s, source), source),
      ]);
    case 'load':
      return s.loads.map((load, i) => [loadPlace(load, i), () => rule.review(s, load)]);
    default: {
      const place = singlePlace(rule.on, s);
      if (rule.about && !isAsked(s.system.monitor?.method, rule.about)) return [];
      return place ? [[place, () => rule.review(rule.on === 'monitor' ? seenBy(s) : s)]] : [];
    }
  }
}

/** A monitor is judged by the part of the bank that it sees. */
const seenBy = (s: Subject): Subject => halfOf(s, s.system.monitor?.sees ?? 'bank');

const sourcePlace = ({ id, name, raw }: SourceView, i: number): Place => ({
  of: id,
  ofName: name,
  at: `sources.${i}`,
  raw,
});
const loadPlace = ({ id, name, raw }: LoadView, i: number): Place => ({
  of: id,
  ofName: name,
  at: `loads.${i}`,
  raw,
});

function singlePlace(on: 'bank' | 'monitor' | 'bms', { system }: Subject): Place | null {
  if (on === 'bank') return { of: 'bank', ofName: 'Battery', at: 'bank', raw: system.bank };
  const raw = system[on];
  return raw ? { of: on, ofName: on === 'bms' ? 'BMS' : 'Monitor', at: on, raw } : null;
}

/** A note of the bank may be about the site. */
function pathOf(setting: string | undefined, place: Place): string | null {
  if (!setting) return null;
  return setting === 'airflow' ? 'site.airflow' : `${place.at}.${setting}`;
}

function sheetOf(s: Subject, notes: readonly ReviewNote[]): SheetRow[] {
  const rows: SheetRow[] = [];
  const add = (place: Place, setting: string, advise: () => Advice | null) => {
    const advice = known(advise);
    if (!advice) return;
    const path = `${place.at}.${setting}`;
    const now = settingAt(place.raw, setting);
    const against = notes.filter((one) => one.path === path && one.advise);
    if (now === null && advice.value === 'off') return;
    const verdict: Verdict =
      now === null ? 'not-known' : against.length > 0 && advice.value !== now ? 'change' : 'keep';
    const { label, unit } = fieldAt(path);
    rows.push({
      of: place.of,
      ofName: place.ofName,
      setting,
      path,
      label,
      unit,
      now,
      advised: verdict === 'keep' ? now! : advice.value,
      verdict,
      // A setting that works is kept, by whatever school it was made.
      school: verdict === 'keep' ? null : advice.school,
      why:
        verdict === 'change'
          ? [...against.map((one) => `${one.text} ${one.why}`), advice.why].join(' ')
          : advice.why,
    });
  };
  for (const row of ADVICE)
    if (row.on === 'source')
      s.sources.forEach((source, i) =>
        add(sourcePlace(source, i), row.setting, () => row.advise(batteryOf(s, source), source)),
      );
    else if (row.on === 'load')
      s.loads.forEach((load, i) => add(loadPlace(load, i), row.setting, () => row.advise(s, load)));
    else {
      const { on } = row;
      const place = singlePlace(on, s);
      const used = on !== 'monitor' || isAsked(s.system.monitor?.method, row.setting);
      if (place && used) add(place, row.setting, () => row.advise(on === 'monitor' ? seenBy(s) : s));
    }
  const order = [...s.sources.map((one) => one.id), 'monitor', ...s.loads.map((one) => one.id), 'bms'];
  return rows.sort((a, b) => order.indexOf(a.of) - order.indexOf(b.of));
}

function known(advise: () => Advice | null): Advice | null {
  try {
    return advise();
  } catch (error) {
    if (error instanceof NotKnown) return null;
    throw error;
  }
}

/** A setting's value; null when it is not known. */
function settingAt(thing: object | undefined, path: string): number | string | null {
  const value = valueAt(thing, path);
  return typeof value === 'number' || typeof value === 'string' ? value : null;
}

const FORM_ORDER = Object.keys(FIELDS);
function formOrder(path: string): number {
  const pattern = path.replace(/\.\d+(?=\.|$)/g, '.*');
  return FORM_ORDER.findIndex((one) => one === pattern || one.startsWith(`${pattern}.`));
}

/** What a fact is called and where it is found. A group, such as a cable, goes by its first field. */
function describe(path: string, system: System): Pick<FindOut, 'ofName' | 'label' | 'where'> {
  const pattern = path.replace(/\.\d+(?=\.|$)/g, '.*');
  const key = FIELDS[pattern] ? pattern : Object.keys(FIELDS).find((one) => one.startsWith(`${pattern}.`));
  const [list, index] = path.split('.') as [string, string];
  const device = list === 'sources' || list === 'loads' ? (system[list][Number(index)]?.name ?? '') : '';
  const names: Record<string, string> = { bank: 'Battery', monitor: 'Monitor', bms: 'BMS', site: 'Site' };
  const { label, where } = FIELDS[key ?? ''] ?? { label: pattern, where: '' };
  return { ofName: device || (names[list] ?? ''), label, where };
}
