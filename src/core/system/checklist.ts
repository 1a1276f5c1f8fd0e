/**
 * What is to be made safe and looked at before anything else, fitting the chemistry and the work that is planned. All of it is common
 * practice; local codes and the maker's sheet come before it. What an answer means for the causes stands with each cause.
 */

import { isLead } from './chemistry';
import type { System, Work } from './schema';

export interface CheckItem {
  id: string;
  group: 'safe' | 'look';
  text: string;
  /** What could hurt, or how to look. */
  more: string;
  /** Shown only where it applies. */
  applies?: (system: System, works: readonly Work[]) => boolean;
}

/** Of an unknown battery every caution is shown. */
const mayBeLead = ({ bank }: System) => !bank.chemistry || isLead(bank.chemistry);
const mayBeFlooded = ({ bank }: System) => !bank.chemistry || bank.chemistry === 'flooded';
const mayBeLithium = ({ bank }: System) => !bank.chemistry || bank.chemistry === 'lfp';
const planned =
  (...some: Work[]) =>
  (_: System, works: readonly Work[]) =>
    some.some((one) => works.includes(one));

export const WORK_WORDS: Record<Work, string> = {
  inspect: 'look and measure',
  'charge-test': 'a full charge',
  water: 'top up water',
  equalise: 'equalise',
  rewire: 'change wiring',
  'capacity-test': 'a capacity test',
};

const ITEMS = [
  {
    id: 'ventilation',
    group: 'safe',
    text: 'Air moves through the room or box; no sparks, no flame, no smoking',
    more: 'Charging gives off explosive gas, most of all in absorption and equalisation.',
    applies: mayBeLead,
  },
  {
    id: 'acid',
    group: 'safe',
    text: 'Goggles and gloves on, rinse water at hand',
    more: 'Acid burns eyes and skin. Rinse at once and for long, then see a doctor.',
    applies: mayBeFlooded,
  },
  {
    id: 'tools',
    group: 'safe',
    text: 'Insulated tools, no rings, no watch, no necklace',
    more: 'A battery can deliver thousands of amperes through a dropped spanner.',
  },
  {
    id: 'isolation',
    group: 'safe',
    text: 'The battery can be isolated, and its conductors are fused near the posts',
    more: 'Know where the isolator is before you need it.',
  },
  {
    id: 'mains',
    group: 'safe',
    text: 'Mains and high-voltage parts are covered and left to licensed people',
    more: 'Chargers, inverters and panel strings hold dangerous voltages, some of them after they are switched off.',
  },
  {
    id: 'maker-sheet',
    group: 'safe',
    text: 'The battery maker’s sheet has been read and allows this work',
    more: 'Never water or equalise before the sheet has been read. Sealed, gel, AGM and lithium batteries are never equalised unless their maker says so.',
    applies: planned('water', 'equalise'),
  },
  {
    id: 'equalise-watch',
    group: 'safe',
    text: 'Somebody stays with the battery while it is equalised, loads that mind the voltage are off',
    more: 'Watch temperature and level; stop when a cell boils over or grows hot.',
    applies: planned('equalise'),
  },
  {
    id: 'capacity-watch',
    group: 'safe',
    text: 'Somebody watches the discharge and stops it at the end voltage of the weakest cell',
    more: 'Do not lower a cut-off to get a better result.',
    applies: planned('capacity-test'),
  },
  {
    id: 'cold',
    group: 'safe',
    text: 'The battery is above freezing before it is charged',
    more: 'Lithium charged below freezing is damaged for good, and may become dangerous later.',
    applies: mayBeLithium,
  },
  {
    id: 'bms-intact',
    group: 'safe',
    text: 'Nothing bypasses the BMS',
    more: 'A load or charger wired straight to the cells is not protected by it.',
    applies: mayBeLithium,
  },
  {
    id: 'rewire-off',
    group: 'safe',
    text: 'All sources are off and isolated, panels before the battery side of their controller, the main fuse is out',
    more: 'A controller that loses its battery while the panels are on can be destroyed. The run sheet of the step On site has the order.',
    applies: planned('rewire'),
  },
  {
    id: 'rewire-cover',
    group: 'safe',
    text: 'The other pole is covered, and nothing can fall on the new joint',
    more: 'A shunt sits open on the battery’s negative: cover it, with air around it.',
    applies: planned('rewire'),
  },
  {
    id: 'rewire-proved',
    group: 'look',
    text: 'After the work: joints to the maker’s torque, sign and coverage proved',
    more: 'One charger on reads positive, one load on reads negative; then each device alone.',
    applies: planned('rewire'),
  },
  {
    id: 'joints',
    group: 'look',
    text: 'Connections are tight and clean',
    more: 'To the maker’s torque. Look for green or white crust, discoloured insulation, warmth.',
  },
  {
    id: 'electrolyte',
    group: 'look',
    text: 'Electrolyte covers the plates in each cell',
    more: 'Top up with distilled water only, after a full charge, unless plates are bare.',
    applies: mayBeFlooded,
  },
  {
    id: 'case',
    group: 'look',
    text: 'Cases are sound: not swollen, cracked or wet',
    more: 'A swollen or leaking battery is not charged. Leave it isolated.',
  },
  {
    id: 'cables',
    group: 'look',
    text: 'Cable sizes and fuses fit the currents',
    more: 'Read the size off the sheath; a fuse protects the cable, not the load.',
  },
  {
    id: 'battery-post',
    group: 'look',
    text: 'Nothing on the battery posts passes the shunt or the clip-on sensor by',
    more: 'One conductor only, to the battery side of a shunt, or through the sensor; anything else is not counted. The wiring step asks what it is.',
    applies: ({ monitor }) => monitor !== undefined,
  },
  {
    id: 'temperature-sensor',
    group: 'look',
    text: 'The charger’s temperature sensor sits on the battery',
    more: 'On the wall or in the charger it compensates lead for the wrong temperature, and stops lithium at the wrong cold, or too late.',
  },
  {
    id: 'panels',
    group: 'look',
    text: 'Panels are clean and unshaded at noon',
    more: 'One shaded cell can cost a whole string.',
    applies: ({ sources }) => sources.some((one) => one.kind === 'solar'),
  },
  {
    id: 'shade-morning',
    group: 'look',
    text: 'No shade on the panels in the morning',
    more: 'Come back for it, ask the owner, or look where the sun rises at this time of year.',
    applies: ({ sources }) => sources.some((one) => one.kind === 'solar'),
  },
  {
    id: 'shade-afternoon',
    group: 'look',
    text: 'No shade on the panels in the afternoon',
    more: 'Masts, trees and walls reach further in autumn than when the panels were put up.',
    applies: ({ sources }) => sources.some((one) => one.kind === 'solar'),
  },
] as const satisfies readonly CheckItem[];

export type CheckId = (typeof ITEMS)[number]['id'];
export const CHECKLIST: readonly CheckItem[] = ITEMS;

/** The items that fit a system and the planned work, in the order in which they are gone through. */
export const checklistFor = (system: System, works: readonly Work[]): CheckItem[] =>
  CHECKLIST.filter((item) => item.applies?.(system, works) ?? true);
