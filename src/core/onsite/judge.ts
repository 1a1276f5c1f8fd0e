/** A visit judged, stop by stop; and what it feeds into the description. */

import { counted } from '../quantity/text';
import { sameValue } from '../system/merge';
import type { Job, System } from '../system/schema';
import { judgeAcceptance, stillToSee } from './acceptance';
import { judgeDisplays } from './displays';
import { judgeDrives } from './drives';
import { judgeEqualise } from './equaliseRun';
import { judgeMemory } from './memory';
import { judgeProof } from './judgeProof';
import { provenCounted } from './proof';
import { judgeRatings } from './ratings';
import type { Said } from './said';
import { judgeSetRight } from './setRight';
import { judgeShares } from './shares';
import { isSplit } from './splitBank';
import { type StopId, STOPS, type Visit } from './visit';

export type Judged = Record<StopId, Said[]>;

/** The stops that this system has, in order. */
export const stopsOf = (system: System): StopId[] =>
  STOPS.filter((one) => {
    if (one === 'split-bank') return isSplit(system);
    if (one === 'memory') return system.monitor !== undefined;
    if (one === 'proof') return system.monitor !== undefined && system.monitor.method !== 'voltage';
    if (one === 'equalise') return system.bank.chemistry === 'flooded' || system.bank.equalise !== undefined;
    return true;
  });

export function judgeVisit(system: System, visit: Partial<Visit>, checks?: Job['checks']): Judged {
  const { displays } = visit;
  return {
    displays: [...judgeDisplays(system, displays), ...judgeShares(system, displays)],
    memory: judgeMemory(system, visit.memory),
    photos: [],
    proof: judgeProof(system, visit.proof, displays?.postsV),
    ratings: judgeRatings(system, visit),
    shunt: [],
    'split-bank': [],
    drives: judgeDrives(system, visit.drives),
    reading: judgeSetRight(system, visit),
    equalise: judgeEqualise(system, visit.equalise, visit.on, checks),
    acceptance: judgeAcceptance(system, visit.acceptance, visit.setA),
    sign: judgeSign(system, visit),
  };
}

function judgeSign(system: System, visit: Partial<Visit>): Said[] {
  if (!visit.signedBy) return [];
  const left = stillToSee(visit.acceptance, system);
  return left.length === 0
    ? [{ weight: 'fine', text: 'Everything that the acceptance asks for was seen.' }]
    : [
        {
          weight: 'open',
          text: `Signed with ${counted(left.length, 'point')} not seen: ${left.join('; ')}.`,
          follows: 'They stand on the sheet as not seen.',
        },
      ];
}

const RANK = { fault: 0, caution: 1, open: 2, fine: 3 } as const;
/** Everything that was said at some stops of a visit, faults first. */
export const allSaid = (judged: Judged, stops: readonly StopId[]): Said[] =>
  stops.flatMap((one) => judged[one]).sort((a, b) => RANK[a.weight] - RANK[b.weight]);

/** Whether anything at all was typed at a stop. */
export function isBegun(visit: Partial<Visit>, stop: StopId): boolean {
  const has = (value: unknown): boolean =>
    typeof value === 'object' && value !== null ? Object.values(value).some(has) : value !== undefined;
  switch (stop) {
    case 'displays':
      return has(visit.displays);
    case 'memory':
      return has(visit.memory);
    case 'photos':
      return has(visit.screens);
    case 'proof':
      return has(visit.proof);
    case 'ratings':
      return has(visit.mainPath) || has(visit.setA) || has(visit.bmsMaxDischargeA) || has(visit.shuntA);
    case 'shunt':
      return has(visit.shuntSteps);
    case 'split-bank':
      return false;
    case 'drives':
      return has(visit.drives);
    case 'reading':
      return has(visit.setRight);
    case 'equalise':
      return has(visit.equalise);
    case 'acceptance':
      return has(visit.acceptance) || has(visit.changed);
    case 'sign':
      return has(visit.signedBy);
  }
}

/**
 * The description with what the visit has proved or read: which devices are counted, ratings, charge currents as set, what is driven by
 * what. What the visit does not say stays as it was. The same object where nothing changes.
 */
export function fedBy(system: System, visit: Visit): System {
  const counted = provenCounted(system, visit.proof, visit.displays?.postsV);
  const withCounted = <D extends { id: string; counted: boolean | null }>(one: D): D =>
    counted[one.id] === undefined || counted[one.id] === one.counted
      ? one
      : { ...one, counted: counted[one.id]! };
  const next: System = {
    ...system,
    sources: system.sources.map((one) => {
      const set = visit.setA?.[one.id];
      return withCounted(set === undefined ? one : { ...one, setA: set });
    }),
    loads: system.loads.map((one) => {
      const start = visit.proof?.devices?.[one.id]?.startA;
      return withCounted(start === undefined ? one : { ...one, startA: start });
    }),
    ...(visit.mainPath ? { mainPath: { ...system.mainPath, ...visit.mainPath } } : {}),
    ...(visit.drives ? { drives: visit.drives } : {}),
    ...(visit.shuntA !== undefined && system.monitor
      ? { monitor: { ...system.monitor, ratedA: visit.shuntA } }
      : {}),
    ...(visit.bmsMaxDischargeA !== undefined || visit.bmsMaxChargeA !== undefined
      ? {
          bms: {
            ...system.bms,
            ...(visit.bmsMaxDischargeA === undefined ? {} : { maxDischargeA: visit.bmsMaxDischargeA }),
            ...(visit.bmsMaxChargeA === undefined ? {} : { maxChargeA: visit.bmsMaxChargeA }),
          },
        }
      : {}),
  };
  if (visit.equalise?.ended === 'held' && next.bank.equalise)
    next.bank = { ...next.bank, equalise: { ...next.bank.equalise, lastOn: visit.on } };
  return sameValue(next, system) ? system : next;
}

/** What of a visit goes into the description: where it has not changed, nothing is fed again. */
export const fedParts = (visit: Visit): unknown[] => [
  visit.proof,
  visit.displays?.postsV,
  visit.setA,
  visit.mainPath,
  visit.drives,
  visit.shuntA,
  visit.bmsMaxDischargeA,
  visit.bmsMaxChargeA,
  visit.equalise?.ended,
];
