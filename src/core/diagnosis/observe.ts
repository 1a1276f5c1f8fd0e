/** Everything that can be seen in a job's logs, gathered once for all causes. */

import { DateTime } from 'luxon';
import { DAY, HOUR, lengthOf, mergeSpans, overlaps, type Span } from '../quantity/span';
import { blocksInSeries, isLead } from '../system/chemistry';
import { knownSystem, type KnownSystem } from '../system/known';
import type { System } from '../system/schema';
import { alignClocks } from '../log/align';
import { corrected, isWrong } from '../count/corrected';
import { counterLog } from '../count/counterLog';
import { countingOf } from '../count/counting';
import { metersOf } from '../count/meters';
import { wrongOf } from '../count/trueCurrent';
import { cellsOf } from '../cells/cells';
import { cutOffsOf } from '../cutoff/cutOffs';
import { integrate, longSilences } from '../log/grid';
import type { Series } from '../log/channels';
import { batteryCurrent, timelineOf, type Timeline } from '../log/timeline';
import { judgeTrust, type TrustNote } from '../log/trust';
import { besideEachOther } from '../parallel/beside';
import { cellsOfBatteries } from '../parallel/cellsOfBatteries';
import { setApart } from '../parallel/setApart';
import { refusalsOf } from '../charge/refusals';
import { type Balance, balanceOf } from '../charge/balance';
import { findCharges } from '../charge/charges';
import type { SourceCharging, Stage } from '../charge/types';
import { type Hazard, hazardsIn } from '../hazards';
import { type DayBalance, type Observations, REACHED } from '../causes/cause';

/** What the logs show, without what is weighed with it: it changes only with the logs, their clocks and the system. */
export interface Observed extends Omit<
  Observations,
  'job' | 'system' | 'bank' | 'rounds' | 'capacityTests' | 'visits'
> {
  hazards: Hazard[];
  balance: Balance | null;
  trust: TrustNote[];
}

/** Reads every sample: the expensive part of a diagnosis. @param series logs already on UTC; may be empty: then only the description speaks. */
export function observe(system: System, series: readonly Series[]): Observed {
  const { timeline, batteries } = setApart(system, alignClocks(timelineOf(series), system));
  const known = knownSystem(system);
  const beside = besideEachOther(batteries, system.bank.capacityAh ?? NaN);
  if (timeline.series.length === 0)
    return {
      batteries: beside,
      span: null,
      charging: [],
      counting: null,
      days: [],
      refusals: null,
      cutoffs: null,
      cells: null,
      hazards: [],
      balance: null,
      trust: [],
    };
  const { charging, counting } = known ? seenOf(known, timeline) : { charging: [], counting: null };
  const cutoffs = known ? cutOffsOf(known, timeline, counting) : null;
  return {
    batteries: beside,
    span: timeline.span,
    charging,
    counting,
    days: known ? balanceDays(known, timeline, charging) : [],
    refusals: refusalsOf(timeline),
    cutoffs,
    cells: known ? (cellsOf(known, timeline) ?? cellsOfBatteries(known, timeline, batteries)) : null,
    hazards: known ? hazardsIn({ system: known, timeline, charging, loadPaths: cutoffs?.paths ?? [] }) : [],
    balance: known ? balanceOf(known, timeline, charging) : null,
    trust: judgeTrust(system, timeline),
  };
}

/** Charges and counting. Where the monitor's current is plainly wrong, charges are judged again by what it ought to have been. */
function seenOf(system: KnownSystem, timeline: Timeline): Pick<Observed, 'charging' | 'counting'> {
  const charging = findCharges(system, timeline);
  const log = counterLog(system, timeline);
  if (!log) return { charging, counting: null };
  const meters = metersOf(system, timeline, log, charging);
  const wrong = wrongOf(meters, system);
  const again = isWrong(wrong) ? findCharges(system, corrected(timeline, log, wrong)) : charging;
  return { charging: again, counting: countingOf({ system, timeline, log, charging: again, meters, wrong }) };
}

/** Of a longer log the last days are balanced: what was ten years ago says nothing of the battery of today. */
const MOST_DAYS = 4000;

/** Days of the site's clock, with what went through the battery and how far charging got. */
function balanceDays(system: KnownSystem, timeline: Timeline, charging: SourceCharging[]): DayBalance[] {
  const { span } = timeline;
  const counting = batteryCurrent(timeline);
  const stages = charging.flatMap((one) => one.charges).flatMap((charge) => charge.stages);
  const days: DayBalance[] = [];
  const from = Math.max(span.from, span.to - MOST_DAYS * DAY);
  let day = DateTime.fromMillis(from, { zone: system.timeZone }).startOf('day');
  const stretches = stretchesOf(timeline);
  while (day.toMillis() < span.to) {
    const ahead = stretches.find((one) => one.to >= day.toMillis());
    // Days of a long silence of all logs say nothing.
    if (ahead && ahead.from > day.plus({ days: 1 }).toMillis())
      day = DateTime.fromMillis(ahead.from, { zone: system.timeZone }).startOf('day');
    const next = day.plus({ days: 1 });
    const window: Span = { from: day.toMillis(), to: next.toMillis() };
    const through = counting ? integrate(counting.time, counting.amps, window) : { in: NaN, out: NaN };
    days.push({
      ...window,
      date: day.toISODate()!,
      ampHoursIn: through.in,
      ampHoursOut: through.out,
      // Only where charges would be seen: a monitor that runs on without the charger's log shows none.
      hours: Math.max(0, ...charging.map(({ logged }) => covered(window, logged.span, logged.gaps) / HOUR)),
      reached: reachedOn(window, stages, system),
    });
    day = next;
  }
  return days;
}

/** Where any of the logs has samples, long silences of all left out. */
function stretchesOf(timeline: Timeline): Span[] {
  const stretches = timeline.series.flatMap(({ time }) => {
    const span = { from: time[0]!, to: time[time.length - 1]! };
    const silences = longSilences(time, span);
    return [span.from, ...silences.map((one) => one.to)].map((from, i) => ({
      from,
      to: silences[i]?.from ?? span.to,
    }));
  });
  return mergeSpans(stretches);
}

function covered(window: Span, log: Span, gaps: Span[]): number {
  const cut = (span: Span): number =>
    Math.max(0, Math.min(span.to, window.to) - Math.max(span.from, window.from));
  return cut(log) - gaps.reduce((total, gap) => total + cut(gap), 0);
}

function reachedOn(window: Span, stages: Stage[], system: KnownSystem): DayBalance['reached'] {
  let best = 0;
  for (const stage of stages) {
    if (!overlaps(stage, window)) continue;
    const cut = { from: Math.max(stage.from, window.from), to: Math.min(stage.to, window.to) };
    // Lithium is as good as full at the voltage, however shortly it is held there.
    const atTop = !isLead(system.bank.chemistry) && stage.topVolts >= system.bank.chargeVolts.min;
    const rank = Math.max(
      REACHED.indexOf(stage.stage as (typeof REACHED)[number]),
      atTop ? REACHED.indexOf('absorption') : 0,
    );
    const least = stage.stage === 'bulk' ? 0.25 * HOUR : 0.05 * HOUR;
    if (rank > best && lengthOf(cut) >= least && (rank > 1 || stage.volts > 11 * blocksInSeries(system.bank)))
      best = rank;
  }
  return REACHED[best]!;
}
