/**
 * What the answers of the checklists say for and against the causes. Weights in dB by sense: a look is worth less than a
 * measurement, and "fine" to the eye says little.
 */

import type { Job } from '../system/schema';
import type { Evidence } from './cause';

interface Meaning {
  item: string;
  cause: string;
  found: number;
  fine: number;
  /** What was found, as a sentence; the technician's note follows it. */
  text: string;
}

const FINE: Record<string, string> = {
  joints: 'Connections were looked at and found tight and clean.',
  cables: 'Cable sizes and fuses were found to fit.',
  electrolyte: 'Electrolyte was found to cover the plates.',
  'battery-post': 'Only one conductor was found on the battery negative.',
  case: 'The cases were found sound.',
  panels: 'The panels were found clean and unshaded.',
};

const MEANINGS: readonly Meaning[] = [
  {
    item: 'joints',
    cause: 'charge-path-drop',
    found: 6,
    fine: -2,
    text: 'A corroded or loose joint was found.',
  },
  {
    item: 'joints',
    cause: 'load-path-drop',
    found: 6,
    fine: -2,
    text: 'A corroded or loose joint was found.',
  },
  {
    item: 'cables',
    cause: 'charge-path-drop',
    found: 4,
    fine: -2,
    text: 'A cable or fuse does not fit its current.',
  },
  {
    item: 'cables',
    cause: 'load-path-drop',
    found: 4,
    fine: -2,
    text: 'A cable or fuse does not fit its current.',
  },
  {
    item: 'electrolyte',
    cause: 'fake-full',
    found: 6,
    fine: -2,
    text: 'Electrolyte was found low: bare plates sulphate.',
  },
  {
    item: 'electrolyte',
    cause: 'capacity-lost',
    found: 6,
    fine: -2,
    text: 'Electrolyte was found low: bare plates sulphate.',
  },
  {
    item: 'case',
    cause: 'capacity-lost',
    found: 8,
    fine: -1,
    text: 'A swollen, cracked or wet case was found.',
  },
  {
    item: 'battery-post',
    cause: 'source-not-counted',
    found: 8,
    fine: -6,
    text: 'A second conductor was found on the battery negative.',
  },
  {
    item: 'battery-post',
    cause: 'load-not-counted',
    found: 8,
    fine: -6,
    text: 'A second conductor was found on the battery negative.',
  },
  {
    item: 'panels',
    cause: 'source-too-small',
    found: 5,
    fine: -1,
    text: 'Panels were found dirty or shaded.',
  },
];

/** Evidence from the checklists of a job for one cause. */
export function evidenceOfChecks(checks: Job['checks'], cause: string): Evidence[] {
  return MEANINGS.flatMap(({ item, cause: of, found, fine, text }) => {
    const check = of === cause ? checks?.[item] : undefined;
    if (!check || check.answer === 'not-checked') return [];
    const was = check.answer === 'found';
    const note = was && check.note ? ` Noted: ${check.note.trim().replace(/\.?$/, '.')}` : '';
    return {
      text: was ? text + note : FINE[item]!,
      decibans: was ? found : fine,
      group: `check-${item}`,
      spans: [],
    };
  });
}
