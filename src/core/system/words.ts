/** What the words of a description are called on screen and in reports. */

import { CHEMISTRY } from './chemistry';
import { CHEMISTRIES, type METHODS, type PRESETS, type SOURCE_KINDS } from './schema';

type Words<T extends readonly string[]> = Record<T[number], string>;

const list = <Id extends string>(words: Record<Id, string>): { id: Id; name: string }[] =>
  Object.entries<string>(words).map(([id, name]) => ({ id: id as Id, name }));

export const KIND_WORDS: Words<typeof SOURCE_KINDS> = {
  mains: 'mains charger',
  solar: 'solar controller',
  generator: 'generator',
  alternator: 'alternator',
  converter: 'converter from another battery',
};

export const METHOD_WORDS: Words<typeof METHODS> = {
  shunt: 'counts through a shunt',
  hall: 'counts with a clip-on sensor',
  'source-count': 'an inverter counts its own current',
  voltage: 'from voltage alone',
};

export const PRESET_WORDS: Words<typeof PRESETS> = {
  flooded: 'flooded preset',
  agm: 'AGM preset',
  gel: 'gel preset',
  lithium: 'lithium preset',
  own: 'set freely',
  'own-lead-only': 'set freely, for lead only',
};

export const CHEMISTRY_OPTIONS = CHEMISTRIES.map((id) => ({ id, name: CHEMISTRY[id].name }));
export const KIND_OPTIONS = list(KIND_WORDS);
export const METHOD_OPTIONS = list(METHOD_WORDS);
export const PRESET_OPTIONS = list(PRESET_WORDS);
export const SENSES_OPTIONS = list({
  'own-terminals': 'its own terminals',
  battery: 'the battery, by a sense lead',
});
export const PART_OPTIONS = list({
  bank: 'the whole bank',
  lower: 'the lower half',
  upper: 'the upper half',
});
export const VOLTAGE_AT_OPTIONS = list({ cells: 'the cells’ side of the BMS switch', bus: 'the bus side' });
export const LINK_OPTIONS = list({ leads: 'it leads', follows: 'it follows' });
export const STOPS_AT_OPTIONS = list({ 'bulk-end': 'bulk', 'absorption-end': 'absorption' });
export const SITS_OPTIONS = list({
  negative: 'in the bank’s negative',
  'between-halves': 'between the two halves',
});
export const LOAD_KIND_OPTIONS = list({ inverter: 'inverter', dc: 'direct current' });
