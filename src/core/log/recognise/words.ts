/** What the words of a heading say: a quantity, its unit, and what it is measured on. */

export const TIME_WORDS = [
  'time',
  'timestamp',
  'date',
  'datetime',
  'ora',
  'data',
  'zeit',
  'datum',
  'clock',
  'elapsed',
  'uptime',
  'epoch',
  'when',
  'logged',
  'zeitstempel',
  'zeitpunkt',
  'uhrzeit',
  'fecha',
  'hora',
  'heure',
  'horodatage',
  'tijd',
];

export type Quantity = 'voltage' | 'current' | 'power' | 'temperature' | 'charge' | 'percent' | 'flag';

export interface UnitMeaning {
  quantity: Quantity;
  scale: number;
  offset: number;
}

export const QUANTITY_OF_UNIT: ReadonlyMap<string, UnitMeaning> = new Map<string, UnitMeaning>(
  Object.entries({
    v: { quantity: 'voltage', scale: 1, offset: 0 },
    vdc: { quantity: 'voltage', scale: 1, offset: 0 },
    volt: { quantity: 'voltage', scale: 1, offset: 0 },
    volts: { quantity: 'voltage', scale: 1, offset: 0 },
    mv: { quantity: 'voltage', scale: 0.001, offset: 0 },
    a: { quantity: 'current', scale: 1, offset: 0 },
    adc: { quantity: 'current', scale: 1, offset: 0 },
    amp: { quantity: 'current', scale: 1, offset: 0 },
    amps: { quantity: 'current', scale: 1, offset: 0 },
    ma: { quantity: 'current', scale: 0.001, offset: 0 },
    w: { quantity: 'power', scale: 1, offset: 0 },
    kw: { quantity: 'power', scale: 1000, offset: 0 },
    '°c': { quantity: 'temperature', scale: 1, offset: 0 },
    c: { quantity: 'temperature', scale: 1, offset: 0 },
    degc: { quantity: 'temperature', scale: 1, offset: 0 },
    '°f': { quantity: 'temperature', scale: 5 / 9, offset: 32 },
    f: { quantity: 'temperature', scale: 5 / 9, offset: 32 },
    degf: { quantity: 'temperature', scale: 5 / 9, offset: 32 },
    ah: { quantity: 'charge', scale: 1, offset: 0 },
    mah: { quantity: 'charge', scale: 0.001, offset: 0 },
    '%': { quantity: 'percent', scale: 1, offset: 0 },
    pct: { quantity: 'percent', scale: 1, offset: 0 },
  }),
);

/** Units that may stand all alone as a heading; the others are names there. */
const ALONE = ['%', 'a', 'ma', 'mv', '°c', '°f'];

/** Words of a heading in small letters ("Vbat" → v, bat; "battVolt" → batt, volt) and its unit, taken from brackets, a slash or the last word. */
export function wordsOf(heading: string): { words: string[]; unit: string } {
  // A unit at the end must be seen before "mV" falls apart into "m" and "V".
  const trailing = /[\s_-](mV|mA|mAh|kW|Ah|degC|degF|°C|°F|pct|%)\s*$/.exec(heading);
  const spaced = (trailing ? `${heading.slice(0, trailing.index)} [${trailing[1]}]` : heading)
    .replace(/SoC(?![a-z])/g, 'soc')
    .replace(/\b(amp(ere)?s?)[\s_-]*(hours?|hrs?)\b/gi, 'Ah')
    .replace(/\b(amperestunden|amperora|amperore)\b/gi, 'Ah')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/\bV(bat|batt|pv|in|out|load|cell|mid|bus|sys|chg|dc|pack)/gi, 'voltage $1')
    .replace(/\bU[_-]?(bat|batt|pv|in|out|load|last|cell|mid|bus|sys|chg|dc|pack)\b/gi, 'voltage $1')
    .replace(/\bI(bat|batt|pv|in|out|load|last|chg|bus|sys|dc|pack)\b/gi, 'current $1')
    .replace(/\bA(dc)\b/gi, 'current $1')
    .replace(/\bP[_-]?(bat|batt|pv|in|out|load)\b/gi, 'power $1')
    .replace(/\bT(bat|batt|amb)\b/gi, 'temperature $1');
  const bracket =
    /[[(]\s*([^\])]{1,6})\s*[\])]\s*$/.exec(spaced) ?? /(?:\/|,)\s*([°%a-zA-Z]{1,5})\s*$/.exec(spaced);
  const body = bracket ? spaced.slice(0, bracket.index) : spaced;
  const words = body
    .toLowerCase()
    .split(/[^\p{L}\p{N}°%]+/u)
    .flatMap((word) => word.split(/(?<=\p{L})(?=[\d%])/u))
    .filter((word) => word !== '');
  let unit = bracket?.[1]?.toLowerCase().replace(/\s+/g, '').replace('º', '°') ?? '';
  const last = words[words.length - 1];
  const isUnit =
    last !== undefined && QUANTITY_OF_UNIT.has(last) && (words.length > 1 || ALONE.includes(last));
  if (unit === '' && isUnit) {
    unit = last;
    words.pop();
  }
  return { words, unit };
}

export function quantityOfWords(words: string[]): Quantity | null {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  // Joined words say at their end what they are: Batteriespannung, Ladestrom.
  const ends = (...options: string[]) => words.some((word) => options.some((one) => word.endsWith(one)));
  if (saysCharge(words)) return 'percent';
  if (
    has('voltage', 'volt', 'volts', 'v', 'u', 'tension', 'tensione', 'voltaje', 'tensión', 'spanning') ||
    ends('spannung')
  )
    return 'voltage';
  if (
    has('current', 'amps', 'amp', 'amperes', 'ampere', 'i', 'corrente', 'courant', 'corriente', 'stroom') ||
    ends('strom')
  )
    return 'current';
  if (has('power', 'watts', 'w', 'kw', 'potenza', 'puissance', 'potencia') || ends('leistung'))
    return 'power';
  if (has('temperature', 'temp', 't', 'ntc', 'temperatura', 'température') || ends('temperatur'))
    return 'temperature';
  if (words.length === 1 && has('ambient')) return 'temperature';
  if (saysMiddle(words) || saysUpper(words)) return 'voltage';
  if (has('ah')) return 'charge';
  if (has('available', 'present', 'running') || saysAllowed(words)) return 'flag';
  return null;
}

/** Whether a heading says how full the battery is: "SoC", "state of charge", "stato di carica", "Ladezustand". */
export function saysCharge(words: readonly string[]): boolean {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  if (has('soc', 'rsoc', 'percent', 'percentage', 'prozent', 'percentuale', 'ladezustand', 'ladestand'))
    return true;
  return (
    (has('state', 'level') && has('charge')) ||
    (has('level') && !has('alarm', 'warning', 'low', 'high') && subjectOf(words) === 'battery') ||
    (has('stato', 'livello') && has('carica')) ||
    (has('état', 'etat', 'niveau') && has('charge')) ||
    (has('estado', 'nivel') && has('carga'))
  );
}

const ALLOWED = [
  ...['allowed', 'allow', 'enabled', 'enable', 'permitted', 'can', 'ok', 'mos', 'mosfet', 'fet', 'switch'],
  ...[
    'erlaubt',
    'freigabe',
    'frei',
    'permessa',
    'permesso',
    'consentita',
    'abilitata',
    'permitida',
    'autorisée',
  ],
];

/** Whether a heading says that something is let through: "charge allowed", "discharge enable", "CHG FET", "Laden erlaubt". */
export const saysAllowed = (words: readonly string[]): boolean =>
  ALLOWED.some((word) => words.includes(word));

/** Whether a heading says the middle of a bank, measured from its negative end: "midpoint", "centre tap", "lower half V", "Mittelspannung". */
export function saysMiddle(words: readonly string[]): boolean {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  return (
    has('mid', 'midpoint', 'centre', 'center', 'tap') ||
    (has('half') && has('lower', 'voltage', 'v', 'volts') && !has('upper')) ||
    words.some((word) => /^mittel(spannung|punkt|abgriff|anzapfung)/.test(word))
  );
}

/** Whether a heading says the upper half of a bank, from its middle to its positive end: "upper half V". */
export const saysUpper = (words: readonly string[]): boolean =>
  words.includes('upper') && words.includes('half');

/** What is measured on another battery than the bank: it is no channel of ours. */
export const saysOtherBattery = (words: readonly string[]): boolean =>
  ['starter', 'start', 'aux', 'auxiliary', 'crank'].some((word) => words.includes(word));

/** What was asked for, allowed or reached at the most: not what is there at that moment. */
export const saysBound = (words: readonly string[]): boolean =>
  [
    ...['min', 'max', 'minimum', 'maximum', 'highest', 'lowest', 'peak', 'today', 'yesterday'],
    ...['delta', 'diff', 'difference', 'spread', 'setpoint', 'set', 'target', 'limit', 'soll', 'sollwert'],
    ...['setting', 'requested', 'demand', 'rated', 'nominal'],
  ].some((word) => words.includes(word));

/** Whether a temperature is that of the air: "ambient", "Temp. ambiente", "Raumtemperatur", "cabinet temp". */
export const saysAir = (words: readonly string[]): boolean =>
  words.some((word) => AIR.includes(word) || /^(umgebungs|raum|außen|aussen|luft)temperatur$/.test(word));

const AIR = [
  ...['ambient', 'amb', 'room', 'air', 'outside', 'outdoor', 'outdoors', 'env', 'environment', 'external'],
  ...['cabinet', 'enclosure', 'shelter', 'hut', 'shed', 'cabin'],
  ...['ambiente', 'esterna', 'ambiante', 'extérieure', 'exterior', 'raum', 'außen', 'aussen', 'umgebung'],
];

/** Whether ampere-hours were taken out of the battery: "consumed", "Ah used", "Ah consumati", "entnommene Ah". */
export const saysConsumed = (words: readonly string[]): boolean =>
  words.some((word) => CONSUMED.includes(word)) && !words.some((word) => LEFT_IN_IT.includes(word));

const CONSUMED = [
  ...['consumed', 'used', 'discharged', 'drawn', 'out', 'deficit', 'since'],
  ...['consumati', 'consumate', 'usati', 'prelevati', 'entnommen', 'entnommene', 'verbraucht', 'verbrauchte'],
  ...['consommés', 'consumidos', 'verbruikt', 'verbruikte'],
];
const LEFT_IN_IT = ['remaining', 'left'];

/** Whether a heading names what stands behind a source: "mains ok", "engine on", "rete presente". */
export const saysSupply = (words: readonly string[]): boolean =>
  [
    ...['mains', 'grid', 'ac', 'line', 'input', 'shore', 'rete', 'netz', 'red', 'secteur'],
    ...['engine', 'ignition', 'generator', 'genset', 'gen', 'motor', 'motore', 'moteur', 'online'],
  ].some((word) => words.includes(word));

export function subjectOf(words: readonly string[]): 'input' | 'load' | 'battery' | 'source' | null {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  if (has('panel', 'panels', 'pv', 'array', 'module', 'input', 'in', 'pannello', 'pannelli')) return 'input';
  if (
    has('mains', 'grid', 'shore', 'ac', 'line', 'rete', 'netz') &&
    !has('charger', 'output', 'battery', 'batt')
  )
    return 'input';
  if (has('load', 'loads', 'consumer', 'consumers', 'carico', 'last', 'verbraucher')) return 'load';
  if (
    has('battery', 'batt', 'bat', 'bank', 'pack', 'batteria', 'batería', 'bateria', 'shunt') ||
    words.some((word) => word.startsWith('batterie'))
  )
    return 'battery';
  if (
    has(
      'charger',
      'output',
      'out',
      'source',
      'rectifier',
      'controller',
      'solar',
      'chg',
      'alternator',
      'generator',
    )
  )
    return 'source';
  return null;
}
