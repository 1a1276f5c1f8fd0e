/** When a generator is started and stopped: enough for the battery, and no more fuel than needed. Common practice, no source. */

import { percent } from '../../../quantity/text';
import type { Note, Rule } from '../rule';

/** Days after which lead wants to be charged through absorption. */
const THROUGH = 14;
/** Points between start and stop that make a run worth while. */
const RUN = 20;

export const generatorPlan: Rule = {
  code: 'generator-plan',
  says: 'when a generator is started and stopped',
  on: 'source',
  review(s, source) {
    const { runs } = source.raw;
    if (!runs) return null;
    const { startPercent, stopPercent, stopsAt, throughEveryDays } = runs;
    const notes: Note[] = [];
    const floor = s.system.monitor?.floorPercent;
    if (startPercent !== undefined && floor !== undefined && startPercent <= floor)
      notes.push({
        weight: 'fault',
        setting: 'runs.startPercent',
        text: `${source.name} starts at ${percent(startPercent)}, at or under the floor of ${percent(floor)}.`,
        why: 'Loads are cut off before it comes.',
        fix: 'Start it ten points above the floor.',
      });
    if (startPercent !== undefined && stopPercent !== undefined && stopPercent - startPercent < RUN)
      notes.push({
        weight: 'caution',
        setting: 'runs.stopPercent',
        text: `${source.name} runs from ${percent(startPercent)} to ${percent(stopPercent)}.`,
        why: 'Short runs wear the engine and charge little.',
        fix: `Leave ${RUN} points or more between start and stop.`,
      });
    const stopsEarly =
      stopsAt === 'bulk-end' ||
      (stopPercent !== undefined && stopPercent <= 90 && stopsAt !== 'absorption-end');
    const others = s.sources.some(
      (one) => one.id !== source.id && (one.raw.kind === 'solar' || one.raw.kind === 'mains'),
    );
    if (
      s.lead() &&
      stopsEarly &&
      !others &&
      (throughEveryDays === undefined || throughEveryDays > THROUGH + 7)
    )
      notes.push({
        weight: 'caution',
        setting: 'runs.throughEveryDays',
        text: `${source.name} stops at the end of bulk${throughEveryDays === undefined ? ', always' : `, but every ${throughEveryDays} days`}.`,
        why: 'Bulk leaves lead at 80 to 85 %. Stopping there saves fuel, but never finished it sulphates, and the reading is never set right.',
        fix: `Let it run through absorption every ${THROUGH} days.`,
      });
    if (s.lead() && stopsAt === 'absorption-end' && throughEveryDays === undefined)
      notes.push({
        weight: 'remark',
        setting: 'runs.stopsAt',
        text: `${source.name} runs through absorption every time.`,
        why: 'The last fifth takes hours at a few amperes: most of that fuel charges nothing.',
        fix: `Stop at the end of bulk, and run through absorption every ${THROUGH} days.`,
      });
    return notes;
  },
};
