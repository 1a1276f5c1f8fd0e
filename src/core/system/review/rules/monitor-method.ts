/** What is the reading made from, and what is it blind to? */

import type { Rule } from '../rule';

export const monitorMethod: Rule = {
  code: 'monitor-method',
  says: 'what the reading is made from',
  on: 'monitor',
  review(s) {
    const method = s.monitor('method');
    if (method === 'voltage')
      return {
        weight: 'fault',
        setting: 'method',
        text: 'The reading is made from voltage alone.',
        why: s.lead()
          ? 'It jumps with each load and each charge: only a rested voltage says anything.'
          : 'On lithium it is useless: the curve is flat between 20 and 90 %.',
        fix: 'Fit a shunt, or read the rest voltage by hand.',
      };
    if (method !== 'source-count') return null;
    // Its own current is what passes the inverter: a load on the battery’s direct current does not.
    const others = [
      ...s.sources.filter((one) => one.raw.counted !== true),
      ...s.loads.filter(
        (one) => one.raw.counted === false || (one.raw.kind === 'dc' && one.raw.counted !== true),
      ),
    ];
    return {
      weight: others.length > 0 ? 'fault' : 'remark',
      setting: 'method',
      text: `The reading is an inverter’s count of its own current${s.system.monitor?.bulkEndPercent ? `, set to ${s.system.monitor.bulkEndPercent} % at the end of each bulk` : ''}.`,
      why:
        others.length > 0
          ? `It is blind to whatever else is wired to the battery: ${others.map((one) => one.name).join(', ')}.`
          : 'It fits generator sites, where no full charge is needed each time; it is blind to whatever is wired to the battery directly.',
      fix:
        others.length > 0
          ? 'Fit a shunt in the battery’s negative, with everything on its other side.'
          : 'Expect a jump at each end of bulk.',
    };
  },
};
