/** The sheet of a visit, as sections of lines: for the page, the printer and the PDF. */

import { minutesBetween } from '@/core/onsite/equaliseRun';
import { stillToSee } from '@/core/onsite/acceptance';
import { displayRows } from '@/core/onsite/displays';
import { DRIVEN_WORDS, DRIVER_WORDS } from '@/core/onsite/drives';
import { isBegun, judgeVisit, stopsOf } from '@/core/onsite/judge';
import { readPhotoItem, photoThings } from '@/core/onsite/photoItem';
import { proveDevices } from '@/core/onsite/proof';
import { chainsOf } from '@/core/onsite/ratings';
import { waysToSet } from '@/core/onsite/setRight';
import type { Visit } from '@/core/onsite/visit';
import { amps, dayText, percent, volts } from '@/core/quantity/text';
import { inShort } from '@/core/system/inShort';
import type { Job, System } from '@/core/system/schema';
import { stopName } from '@/core/onsite/stopNames';

export interface SheetSection {
  title: string;
  /** What was read: name and figure. */
  read: [string, string][];
  /** What follows. */
  lines: string[];
}

export interface VisitSheet {
  title: string;
  system: string;
  facts: [string, string][];
  sections: SheetSection[];
  changed: { what: string; before: string; after: string; why: string }[];
  notLookedAt: string[];
  photos: { id: string; of: string }[];
  /** Null while nobody has signed. */
  signature: string | null;
  cautions: string[];
}

export interface PhotoOfVisit {
  id: string;
  item: string;
}

export function sheetOf(job: Job, system: System, visit: Visit, photos: readonly PhotoOfVisit[]): VisitSheet {
  const judged = judgeVisit(system, visit, job.checks);
  const stops = stopsOf(system);
  const read = readAt(system, visit);
  const sections = stops.flatMap((stop): SheetSection[] => {
    const lines = judged[stop].map(({ text, follows, weight }) =>
      weight === 'fine' || !follows ? text : `${text} ${follows}`,
    );
    const figures = read[stop] ?? [];
    if (!isBegun(visit, stop)) return [];
    return lines.length + figures.length > 0 ? [{ title: stopName(stop, system), read: figures, lines }] : [];
  });
  const things = new Map(photoThings(system).map(({ id, name }) => [id, name]));
  return {
    title: job.title,
    system: system.name,
    facts: [
      ['System', system.name],
      ['Battery', inShort(system)],
      ['Visit', dayText(visit.on)],
      ...(visit.nextFullOn ? [['Next full charge', dayText(visit.nextFullOn)] as [string, string]] : []),
      ...(visit.nextVisitOn ? [['Next visit', dayText(visit.nextVisitOn)] as [string, string]] : []),
    ],
    sections,
    changed: (visit.changed ?? []).map(({ what, before = '', after, why = '' }) => ({
      what,
      before,
      after,
      why,
    })),
    notLookedAt: [
      ...(visit.passedOver ?? []).map((one) => stopName(one, system)),
      ...(visit.acceptance || visit.signedBy
        ? stillToSee(visit.acceptance, system).map((one) => `acceptance: ${one}`)
        : []),
    ],
    photos: photos.flatMap(({ id, item }) => {
      const found = readPhotoItem(item);
      return found ? [{ id, of: `${things.get(found.thing) ?? found.thing}, ${found.moment}` }] : [];
    }),
    signature: visit.signedBy ? `${visit.signedBy}, ${dayText(visit.signedOn ?? visit.on)}` : null,
    cautions: [
      'A battery can deliver thousands of amperes: insulated tools, no jewellery, isolate and fuse, tighten to the maker’s torque.',
      'Mains and high-voltage work belongs to licensed people; local codes and the maker’s sheet come before this sheet.',
    ],
  };
}

type Pairs = [string, string][];
const pairs = (...all: (readonly [string, number | undefined, (value: number) => string])[]): Pairs =>
  all.flatMap(([name, value, text]) =>
    value === undefined ? [] : [[name, text(value)] as [string, string]],
  );

/** What was read at each stop. */
function readAt(system: System, visit: Visit): Partial<Record<string, Pairs>> {
  const { displays, memory, acceptance, setRight, equalise, proof } = visit;
  const times = (value: number) => String(value);
  const out: Partial<Record<string, Pairs>> = {};
  out.displays = [
    ...(displays?.at ? [['Read at', displays.at] as [string, string]] : []),
    ...pairs(
      ['Posts', displays?.postsV, volts],
      ['Lower half', displays?.lowerV, volts],
      ['Upper half', displays?.upperV, volts],
    ),
    ...displayRows(system, displays).flatMap(({ name, shows }): Pairs => {
      const parts = [
        ...(shows.noPercent ? ['no percentage'] : []),
        ...(shows.percent === undefined ? [] : [percent(shows.percent)]),
        ...(shows.volts === undefined ? [] : [volts(shows.volts)]),
        ...(shows.amps === undefined ? [] : [amps(shows.amps)]),
      ];
      return parts.length > 0 ? [[name, parts.join(', ')]] : [];
    }),
  ];
  const ampHours = (value: number) => `${value} Ah`;
  out.memory = pairs(
    ['Deepest discharge', memory?.deepestAh, ampHours],
    ['Last discharge', memory?.lastAh, ampHours],
    ['Mean discharge', memory?.meanAh, ampHours],
    ['Drawn in all', memory?.drawnAh, ampHours],
    ['Cycles', memory?.cycles, times],
    ['Set to full', memory?.syncs, times],
    ['Days since full', memory?.daysSinceFull, times],
    ['Lowest voltage', memory?.lowestV, volts],
    ['Highest voltage', memory?.highestV, volts],
  );
  out.proof = [
    ...pairs(['Everything off', proof?.offA, amps], ['Isolator open', proof?.isolatedA, amps]),
    ...proveDevices(system, proof, displays?.postsV).flatMap(({ id, name, expected }): Pairs => {
      const shows = proof?.devices?.[id]?.showsA;
      return shows === undefined
        ? []
        : [[name, `${amps(shows)}${expected ? `, about ${amps(expected.amps)} expected` : ''}`]];
    }),
  ];
  const { out: outwards, in: inwards } = chainsOf(system, visit);
  out.ratings =
    visit.mainPath || visit.setA || visit.shuntA || visit.bmsMaxDischargeA
      ? [
          ...pairs(
            ['Runs at once', outwards.running || undefined, amps],
            ['Largest start', outwards.starting > outwards.running ? outwards.starting : undefined, amps],
            ['Chargers together', inwards.running || undefined, amps],
          ),
          ...outwards.links.flatMap((one): Pairs => (one.amps === null ? [] : [[one.name, amps(one.amps)]])),
        ]
      : [];
  out.drives = (visit.drives ?? []).map((one): [string, string] => [
    one.what,
    `${DRIVEN_WORDS[one.kind]}, by ${DRIVER_WORDS[one.by]}`,
  ]);
  out.reading = [
    ...(setRight?.way
      ? [
          ['Way', waysToSet(system, displays).find((one) => one.id === setRight.way)!.title] as [
            string,
            string,
          ],
        ]
      : []),
    ...pairs(['Before', setRight?.before, percent], ['After', setRight?.after, percent]),
  ];
  out.equalise = equalise?.startedAt
    ? [
        ['Started', equalise.startedAt],
        ...(equalise.reachedAt ? [['Reached', equalise.reachedAt] as [string, string]] : []),
        ...(equalise.reachedAt && equalise.stoppedAt
          ? [['Held', `${minutesBetween(equalise.reachedAt, equalise.stoppedAt)} min`] as [string, string]]
          : []),
      ]
    : [];
  out.acceptance = pairs(
    ['Into the battery on float', acceptance?.floatBatteryA, amps],
    ['The loads draw', acceptance?.floatLoadsA, amps],
    ['The chargers give', acceptance?.chargeA, amps],
    ['Monitor', acceptance?.monitorPercent, percent],
    ['BMS', acceptance?.bmsPercent, percent],
    ['Rest voltage', acceptance?.restV, volts],
  );
  return out;
}
