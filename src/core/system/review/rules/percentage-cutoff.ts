/** Does a load cut off by a percentage that cannot be trusted? */

import { percent, volts } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Rule } from '../rule';

export const percentageCutoff: Rule = {
  code: 'percentage-cutoff',
  says: 'a cut-off by percentage on a reading that cannot be trusted',
  on: 'load',
  review(s, load) {
    const set = load.raw.cutoffPercent;
    // Most loads have none: leaving it out says so.
    if (set === undefined) return null;
    const { monitor } = s.system;
    const doubts: string[] = [];
    const unseen = [...s.sources, ...s.loads].filter((one) => one.raw.counted === false);
    if (!monitor) doubts.push('there is no monitor described');
    else {
      if (monitor.method === 'voltage') doubts.push('the reading is made from voltage alone');
      if (unseen.length > 0)
        doubts.push(`the monitor does not count ${unseen.map((one) => one.name).join(' and ')}`);
      const reached = chargingSources(s).flatMap((one) => one.raw.profile.absorptionV ?? []);
      if (monitor.chargedV !== undefined && reached.length > 0 && monitor.chargedV >= Math.max(...reached))
        doubts.push(
          `its charged voltage of ${volts(monitor.chargedV)} is never reached, so that it is never set right`,
        );
    }
    if (doubts.length === 0) return null;
    return {
      weight: 'fault',
      setting: 'cutoffPercent',
      text: `${load.name} cuts off at ${percent(set)}, but ${doubts.join(', and ')}.`,
      why: 'The reading drifts, and the site is shut down for nothing, or too late.',
      fix: 'Let the load cut off by voltage until the reading can be trusted.',
      advise: true,
    };
  },
};
