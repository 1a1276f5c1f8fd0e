/**
 * What is due on a system and when: full charge, equalisation, hydrometer round, capacity test, a log after a change, the next visit. Each
 * follows from the system's facts and schools; what was done with a click counts as done on its day. Intervals are common practice, no
 * source, but those of the capacity test (IEEE Std 450, from memory).
 */

import { judgeTests } from '../capacity/judge';
import { nextTestOn } from '../capacity/text';
import { judgeRounds } from '../hydrometer/judge';
import { dueOn, ROUND_EVERY } from '../hydrometer/text';
import { DAY } from '../quantity/span';
import { counted, dayText } from '../quantity/text';
import type { DueKind } from '../records/done';
import type { SystemRecords } from '../records/records';
import { notEligible } from '../onsite/equaliseRun';
import { isLead } from '../system/chemistry';
import type { System } from '../system/schema';
import { hasSensor } from '../system/sensor';
import { RESYNC_DAYS, schoolOf, schoolsOf } from '../system/schools';

export interface PlanFacts {
  system: System;
  records: SystemRecords;
  /** Days, yyyy-mm-dd; null where there is none. Of the latest job, the last change of a setting, and the end of the last log. */
  openedOn: string | null;
  changedOn: string | null;
  loggedTo: string | null;
}

export interface Due {
  what: DueKind;
  on: string;
  why: string;
}

/** Something that is due on one of many systems. */
export interface Planned extends Due {
  systemId: string;
  jobId: string;
  system: string;
}

export const DUE_WORDS: Record<DueKind, string> = {
  'full-charge': 'Full charge',
  equalisation: 'Equalisation',
  'hydrometer-round': 'Hydrometer round',
  'capacity-test': 'Capacity test',
  'verification-log': 'Log after the change',
  visit: 'Visit',
};

/** Days after a change until a log shows whether it helped; and days that such a log has to cover. */
const VERIFY = { after: 14, covers: 7 };

export const daysLater = (day: string, days: number): string =>
  new Date(Date.parse(day) + days * DAY).toISOString().slice(0, 10);

const latest = (...days: (string | null | undefined)[]): string | null =>
  days.reduce<string | null>((last, one) => (one && (last === null || one > last) ? one : last), null);

/** The earliest first. */
export function dueOf(facts: PlanFacts): Due[] {
  return [fullCharge, equalisation, hydrometer, capacity, verification, visit]
    .flatMap((one) => one(facts) ?? [])
    .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));
}

const doneOn = ({ records }: PlanFacts, what: DueKind): string | null =>
  latest(...records.done.filter((one) => one.what === what).map((one) => one.on));

function fullCharge(facts: PlanFacts): Due | null {
  const { system, records, openedOn } = facts;
  const counts = system.monitor && hasSensor(system.monitor);
  if (!counts) return null;
  const full = latest(
    doneOn(facts, 'full-charge'),
    ...records.visit.flatMap((one) => ((one.setRight?.after ?? 0) >= 99 ? one.on : [])),
    ...records['hydrometer-round'].filter((one) => one.afterFullCharge).map((one) => daysLater(one.on, -1)),
  );
  const agreed = latest(...records.visit.map((one) => one.nextFullOn));
  const { name } = schoolOf(schoolsOf(system), 'resync');
  const days = RESYNC_DAYS[schoolsOf(system).resync];
  if (agreed && (!full || agreed > full))
    return { what: 'full-charge', on: agreed, why: 'Agreed at the last visit.' };
  const from = full ?? openedOn;
  return from
    ? {
        what: 'full-charge',
        on: daysLater(from, days),
        why: `To set the reading right, ${name}${full ? `; the last that is known of was on ${dayText(full)}` : ''}.`,
      }
    : null;
}

function equalisation(facts: PlanFacts): Due | null {
  const { bank } = facts.system;
  if (notEligible(facts.system) || !bank.equalise) return null;
  const last = latest(doneOn(facts, 'equalisation'), bank.equalise.lastOn?.slice(0, 10));
  const from = last ?? facts.openedOn;
  return from
    ? {
        what: 'equalisation',
        on: last ? daysLater(last, bank.equalise.everyDays) : from,
        why: `The maker asks for it every ${counted(bank.equalise.everyDays, 'day')}${last ? `; the last was on ${dayText(last)}` : '; when it was last done is not known'}.`,
      }
    : null;
}

function hydrometer(facts: PlanFacts): Due | null {
  const { system, records, openedOn } = facts;
  if (system.bank.chemistry !== 'flooded') return null;
  const done = doneOn(facts, 'hydrometer-round');
  const next = latest(
    dueOn(judgeRounds(records['hydrometer-round'], system)),
    done && daysLater(done, ROUND_EVERY),
  );
  const on = next ?? openedOn;
  return on
    ? {
        what: 'hydrometer-round',
        on,
        why: next
          ? `Every ${counted(ROUND_EVERY, 'day')}: the trend of each cell is the point.`
          : 'None is kept yet.',
      }
    : null;
}

function capacity(facts: PlanFacts): Due | null {
  const { system, records } = facts;
  const next = nextTestOn(judgeTests(records['capacity-test'], system));
  const done = doneOn(facts, 'capacity-test');
  if (next && (!done || next > done))
    return { what: 'capacity-test', on: next, why: 'By what the last test has found.' };
  // The rule is one for lead; a lithium battery is tested when something asks for it.
  const isLeadBank = system.bank.chemistry !== undefined && isLead(system.bank.chemistry);
  const since = done ?? (isLeadBank ? system.bank.installedOn : undefined);
  if (!since) return null;
  // The first within two years of service, then every five while all is well (IEEE Std 450, from memory).
  const years = done ? 5 : 2;
  return {
    what: 'capacity-test',
    on: daysLater(since.slice(0, 10), years * 365),
    why: done
      ? `Every five years while all is well; noted as done on ${dayText(done)}.`
      : 'The first within two years of service.',
  };
}

function verification(facts: PlanFacts): Due | null {
  const { records, loggedTo } = facts;
  const changed = latest(
    facts.changedOn,
    ...records.visit.filter((one) => one.changed && one.changed.length > 0).map((one) => one.on),
  );
  if (!changed) return null;
  const seen = latest(loggedTo, doneOn(facts, 'verification-log'));
  if (seen && seen >= daysLater(changed, VERIFY.covers)) return null;
  return {
    what: 'verification-log',
    on: daysLater(changed, VERIFY.after),
    why: `A setting was changed on ${dayText(changed)}: a log from after it shows whether that helped.`,
  };
}

function visit(facts: PlanFacts): Due | null {
  const { records } = facts;
  const agreed = latest(...records.visit.map((one) => one.nextVisitOn));
  const been = latest(doneOn(facts, 'visit'), ...records.visit.map((one) => one.on));
  return agreed && (!been || agreed > been)
    ? { what: 'visit', on: agreed, why: 'Agreed at the last visit.' }
    : null;
}
