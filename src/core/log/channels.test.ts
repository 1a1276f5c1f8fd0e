/** Words that chargers use for their stages: common practice of the trade, no source. */

import { REPORTED_STAGES, stageNumber } from './channels';

test.each([
  ['Bulk', 'bulk'],
  ['BULK_CHARGE', 'bulk'],
  ['1 - bulk', 'bulk'],
  ['Constant current', 'bulk'],
  ['Absorption stage', 'absorption'],
  ['Absorbing', 'absorption'],
  ['2: Absorption (CV)', 'absorption'],
  ['boost', 'absorption'],
  ['boost charge', 'bulk'],
  ['Float charging', 'float'],
  ['Erhaltungsladung', 'float'],
  ['mantenimento', 'float'],
  ['Equalising', 'equalise'],
  ['not charging', 'off'],
  ['Resting', 'off'],
  ['MPPT tracking', 'bulk'],
  ['Soft start', 'bulk'],
  ['Taper', 'absorption'],
  ['Charging', undefined],
  ['3', undefined],
  ['', undefined],
])('"%s" is %s', (word, stage) => {
  expect(REPORTED_STAGES[stageNumber(word)]).toBe(stage);
});
