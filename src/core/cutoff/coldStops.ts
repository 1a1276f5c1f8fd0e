/** A BMS that stops the discharge in the cold, where it logs nothing itself: below its limit nothing is ever drawn. */

import { interpolateAt } from '../log/interpolateAt';
import { anyLogWith, batteryCurrent, type Timeline } from '../log/timeline';
import { quantile } from '../quantity/numbers';
import type { KnownSystem } from '../system/known';

/** °C by which sensors differ; and how far under the limit nothing may be drawn any more. */
const SENSORS = 1.5;
const UNDER = 1;
/** Samples under the limit that say something, the part of them in which something may be drawn, and what draws, parts of what is usual. */
const BELOW = { fewest: 10, drawn: 0.05, usual: 0.2 };

/** Whether a temperature is one at which the BMS of this log lets go; never where its limit is not known, or loads run below it. */
export function coldStops(system: KnownSystem, timeline: Timeline): (celsius: number) => boolean {
  const limit = system.bms?.dischargeAboveC ?? system.bank.dischargeAboveC;
  const heat = anyLogWith(timeline, 'battery_temperature');
  const battery = batteryCurrent(timeline);
  if (limit === undefined || !heat || !battery) return () => false;
  const celsius = interpolateAt(heat.time, heat.channels.battery_temperature!, battery.time);
  const drawn = battery.amps.filter((one) => one < 0);
  const runs = BELOW.usual * quantile(drawn, 0.5);
  let below = 0;
  let draws = 0;
  celsius.forEach((one, i) => {
    if (!(one < limit - UNDER)) return;
    below++;
    if (battery.amps[i]! < runs) draws++;
  });
  const acts = below >= BELOW.fewest && draws <= BELOW.drawn * below;
  return (at) => acts && at <= limit + SENSORS;
}
