/** Run sheet to fit or move a shunt or a clip-on sensor on this system. Common practice; the maker's sheet and local codes go first. */

import type { System } from '../system/schema';

export interface ShuntStep {
  id: string;
  text: string;
  caution?: string;
}

export function shuntSteps(system: System): ShuntStep[] {
  const { monitor, sources, loads, bank } = system;
  const hall = monitor?.method === 'hall';
  const solar = sources.filter((one) => one.kind === 'solar').map((one) => one.name);
  const others = sources.filter((one) => one.kind !== 'solar').map((one) => one.name);
  const moved = [...sources, ...loads].filter((one) => one.counted === false).map((one) => one.name);
  const list = (names: readonly string[]) => names.join(', ');
  const off: ShuntStep[] = [
    {
      id: 'loads-off',
      text: `Loads off${loads.length > 0 ? `: ${list(loads.map((one) => one.name))}` : ''}.`,
    },
    {
      id: 'sources-off',
      text: `All sources off and isolated${others.length > 0 ? `: ${list(others)}` : ''}${solar.length > 0 ? `; the panels of ${list(solar)} before its battery side` : ''}.`,
      caution:
        'A controller that loses its battery while the panels are on can be destroyed. Mains parts are for licensed people.',
    },
    {
      id: 'battery-off',
      text: 'Isolator open, main fuse out. Insulated tools, no jewellery; the other pole covered.',
      caution: 'A battery can deliver thousands of amperes.',
    },
  ];
  const ways: ShuntStep[] = hall
    ? [
        {
          id: 'conductor',
          text: `Clip the sensor round one conductor that carries everything: the battery’s ${'negative or positive, not both'}, alone in the opening.`,
        },
        {
          id: 'direction',
          text: 'Its arrow follows the charging current: on the positive towards the battery post, on the negative away from it.',
        },
        { id: 'closed', text: 'Jaws closed fully, clear of other conductors and of iron.' },
        { id: 'zero', text: 'With nothing flowing set its zero.' },
      ]
    : [
        {
          id: 'battery-side',
          text: 'One conductor only on the battery side of the shunt: that from the battery negative.',
        },
        {
          id: 'other-side',
          text: `Everything else on the other side${moved.length > 0 ? `, these from the battery post too: ${list(moved)}` : ''}.`,
        },
        {
          id: 'lugs',
          text: 'Power lugs flat on the stud, the small ring on top. Lugs that fit both studs; a jumper as thick as the cable that it joins, and as strong as the shunt.',
        },
        { id: 'torque', text: 'Torque by the maker’s sheet, both studs.' },
        {
          id: 'place',
          text: 'Clear of the other pole, nothing can fall on it, covered, air around it.',
        },
      ];
  return [
    ...off,
    ...ways,
    {
      id: 'sense',
      text: 'Sense lead straight to the battery positive through its own fuse, never from a fuse box that can be switched off.',
    },
    {
      id: 'on-again',
      text: `Isolator closed first, then sources${solar.length > 0 ? ', the battery side of a controller before its panels' : ''}, then loads.`,
    },
    {
      id: 'sign',
      text: 'Prove the sign: one charger on, the monitor reads positive; one load on, it reads negative. Then prove every device.',
    },
    {
      id: 'settings',
      text: `Enter the settings: ${hall ? 'rating of the sensor' : 'rating of the shunt'}, capacity${bank.capacityAh ? ` ${bank.capacityAh} Ah` : ''}, charged voltage, tail, detection time; the settings sheet has them with their reasons.`,
    },
    { id: 'full', text: 'Charge fully and see it go to 100 %.' },
  ];
}

/** What a shunt alone is not. */
export const BARE_SHUNT =
  'A bare shunt is no monitor: it only makes millivolts of amperes. Something has to count them, with its two sense leads on the shunt’s small screws.';
