/** Charges of every source: from the timeline to stages with what ended each of them. */

import { quantile } from '../quantity/numbers';
import { overlaps } from '../quantity/span';
import { CHEMISTRY, isLead } from '../system/chemistry';
import { bankOf } from '../system/bankOf';
import type { KnownBank, KnownSystem } from '../system/known';
import { gapsIn } from '../log/grid';
import type { Timeline } from '../log/timeline';
import { mayFollow, withDrift } from './drift';
import { whatEnded } from './ended';
import { coldEdgesOf } from './coldEdges';
import { coldIdleOf, neverGave } from './coldIdle';
import { fullOnFloat, heldFullBy, isFull } from './full';
import { gassedFull } from './gassing';
import { leftEarlyOf } from './leftEarly';
import { celsiusOfLowSetting } from './bySetting';
import { findLimits } from './limit';
import { ampHoursIn, ampsAfter, before, measureStage } from './measure';
import { missingOf } from './missing';
import { nightOf } from './night';
import { likeliestPath } from './path';
import { pathDropOf } from './pathDrop';
import { refusalsOf } from './refusals';
import { judgeRegulation } from './regulation';
import { groupRuns, runsOf, stagesOf, type Run } from './runs';
import { saysOtherwise } from './saysOtherwise';
import { setAlike } from './setAlike';
import { sinksFull } from './sinksFull';
import type { Setpoints } from './setpoint';
import { findSetpoints } from './setpoints';
import { spareOf } from './spare';
import { slopeOf } from './slope';
import type { Charge, SourceCharging } from './types';
import { answersLoads, answersOf } from './together';
import { chargeViews, type ChargeView, isConstant } from './view';
import { yieldedOf } from './yielded';

/** Charges of every source that can be judged, from the timeline to stages with their ends. */
export function findCharges(system: KnownSystem, timeline: Timeline): SourceCharging[] {
  const refusals = refusalsOf(timeline) ?? [];
  return chargeViews(system, timeline).map((seen) => {
    const source = system.sources.find((one) => one.id === seen.source) ?? null;
    const bank = bankOf(system, source);
    const { capacityAh } = bank;
    // Others across the same cells may hold the bus.
    const across = source?.across ?? 'bank';
    const shared = system.sources.filter((one) => (one.across ?? 'bank') === across).length > 1;
    const onAmps = Math.max(
      3 * seen.ampNoise,
      Math.min(0.003 * capacityAh, 0.02 * quantile(seen.amps, 0.99)),
    );
    const limits = findLimits(seen, onAmps, source?.kind === 'solar');
    const night = source?.kind === 'solar' ? nightOf(seen, onAmps) : null;
    const constant = isConstant(source?.kind);
    const spare = spareOf(seen, capacityAh, onAmps, { night, constant });
    const answers = answersOf(seen, onAmps, constant, spare);
    const loads = answersLoads(seen, onAmps);
    const held = judgeRegulation(seen, bank, { limits, onAmps, source, answers, spare, loads });
    const view = withDrift(seen, held, bank, source);
    const setpoints = findSetpoints(view, held, bank, source, { shared, answers });
    const path = likeliestPath({
      view,
      held,
      answers,
      setpoints,
      onAmps,
      capacityAh,
      night,
      shared,
      follows: mayFollow(bank, source),
      lithium: !isLead(bank.chemistry),
    });
    const runs = runsOf(path);
    const charges = groupRuns(runs, view.grid.step).map((group) =>
      chargeOf(group, view, setpoints, timeline, bank, source?.profile.tailA),
    );
    const alike = source ? null : setAlike(system.sources);
    const impliedC = celsiusOfLowSetting({ source, setAlike: alike, charges, bank }, system);
    if (impliedC !== null)
      for (const stage of charges.flatMap((one) => one.stages)) stage.impliedC = impliedC;
    whatEnded(charges, view, source, system, setpoints);
    const alone = !view.ampsAreBattery && !shared;
    // A battery whose BMS refused the charge may look full and is not: a cell stands in the way.
    for (const charge of charges) {
      charge.fullOnFloat = fullOnFloat(charge.stages, bank, view, alone);
      charge.full = isFull(charge, bank, view, alone) && !refusals.some((one) => overlaps(one, charge));
    }
    const asksBelow = (setpoints.absorption?.volts ?? bank.chargeVolts.min) - 0.2 * view.blocks;
    return {
      source,
      setAlike: alike,
      bank,
      setpoints,
      charges,
      logged: {
        span: { from: view.log.time[0]!, to: view.log.time.at(-1)! },
        gaps: gapsIn(view.log.time),
      },
      cellMs: view.grid.step,
      limits,
      missing: missingOf(charges, bank),
      leftEarly: shared ? leftEarlyOf(view, charges, timeline, bank) : null,
      saysOtherwise: saysOtherwise(view, charges),
      path: pathDropOf(view, onAmps),
      slope: slopeOf(view, path, bank),
      coldIdle: coldIdleOf(view, onAmps, asksBelow),
      coldEdges: coldEdgesOf(
        view,
        onAmps,
        asksBelow,
        source?.kind === 'solar',
        source?.profile.chargeAboveC ?? null,
      ),
      neverGave: neverGave(view, onAmps),
      yielded: shared
        ? yieldedOf(view, path, onAmps, (CHEMISTRY[bank.chemistry].earlyTailPercent / 100) * capacityAh)
        : null,
      bulkAmps: bulkAmpsOf(view, runs),
      knowsBatteryAmps: view.batteryAmps !== null,
      knowsOwnAmps: !view.ampsAreBattery,
    };
  });
}

function chargeOf(
  group: Run[],
  view: ChargeView,
  setpoints: Setpoints,
  timeline: Timeline,
  bank: KnownBank,
  setTailA?: number,
): Charge {
  const stages = stagesOf(group, view.grid.step).map((one) =>
    measureStage(one, view, setpoints, timeline, bank, setTailA),
  );
  const span = { from: stages[0]!.from, to: stages[stages.length - 1]!.to };
  const heldFull = heldFullBy(stages, bank, view, setpoints);
  return {
    ...span,
    source: view.source,
    stages,
    before: before(span.from, view),
    afterAmps: ampsAfter(span.to, view),
    full: false,
    heldFull: isLead(bank.chemistry)
      ? [...heldFull, ...gassedFull(stages, bank, view)]
      : [...heldFull, ...sinksFull(stages, bank, view, heldFull)].sort((a, b) => a.from - b.from),
    fullOnFloat: [],
    ampHours: ampHoursIn(span, view, timeline),
  };
}

/** 95th percentile of the source's current over bulk, A. */
function bulkAmpsOf(view: ChargeView, runs: Run[]): number {
  const amps: number[] = [];
  for (const run of runs)
    if (run.state === 'bulk') for (let cell = run.from; cell < run.to; cell++) amps.push(view.amps[cell]!);
  return quantile(amps, 0.95);
}
