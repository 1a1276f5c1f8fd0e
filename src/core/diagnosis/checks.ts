/** What the answers of the checklists say for and against a cause: a look is worth less than a measurement, and "fine" says little. */

import type { Cause, Evidence } from '../causes/cause';
import type { CheckId } from '../system/checklist';
import type { Job } from '../system/schema';

/** The sentence for an answer of "fine". */
const FINE: Partial<Record<CheckId, string>> = {
  joints: 'Connections were looked at and found tight and clean.',
  cables: 'Cable sizes and fuses were found to fit.',
  electrolyte: 'Electrolyte was found to cover the plates.',
  'battery-post': 'Only one conductor was found on the battery negative.',
  case: 'The cases were found sound.',
  panels: 'The panels were found clean and unshaded.',
  'temperature-sensor': 'The charger’s temperature sensor was found on the battery.',
  cold: 'The battery was found warm enough to be charged.',
};

export function evidenceOfChecks(checks: Job['checks'], answers: Cause['answers'] = {}): Evidence[] {
  return Object.entries(answers).flatMap(([item, { found, fine, text }]) => {
    const check = checks?.[item];
    if (!check || check.answer === 'not-checked') return [];
    const was = check.answer === 'found';
    const note = was && check.note ? ` Noted: ${check.note.trim().replace(/\.?$/, '.')}` : '';
    return {
      text: was ? text + note : (FINE[item as CheckId] ?? 'It was looked at and found in order.'),
      decibans: was ? found : fine,
      group: `check-${item}`,
      spans: [],
    };
  });
}
