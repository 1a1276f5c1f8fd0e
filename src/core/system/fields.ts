/**
 * What each field of a description is called, its unit, where the technician finds it, and what is usual. One table for the forms,
 * the settings sheet, the record of changes and the list of what to find out. Paths have `*` for the place in a list. Usual ranges
 * are common practice with no source: beyond one a warning is shown, never an error.
 */

import type { Range } from './chemistry';
import { CHEMISTRY } from './chemistry';
import { presetVolts } from './known';
import type { System } from './schema';

export type Unit =
  'VA' | 'V' | 'A' | 'Ah' | '%' | 'min' | 'h' | 'd' | '°C' | 'mV/°C' | 'm' | 'mm²' | 'm³/h' | 'h/d' | '';

export interface Field {
  label: string;
  unit: Unit;
  /** Where it is found, or what it means. */
  where: string;
  /** What is usual in this system; null while too much is unknown to say. */
  usual?: (system: System) => Range | null;
}

type Usual = (system: System) => Range | null;
const fixed =
  (min: number, max: number): Usual =>
  () => ({ min, max });
/** V per 12 V block. */
const perBlock =
  (lead: [number, number], lithium: [number, number]): Usual =>
  ({ bank }) => {
    if (!bank.chemistry || !bank.cellsInSeries) return null;
    const blocks = bank.cellsInSeries / CHEMISTRY[bank.chemistry].cellsPerBlock;
    const [min, max] = bank.chemistry === 'lfp' ? lithium : lead;
    return { min: min * blocks, max: max * blocks };
  };
/** A as a share of the capacity in Ah. */
const ofCapacity =
  (min: number, max: number): Usual =>
  ({ bank }) =>
    bank.capacityAh ? { min: min * bank.capacityAh, max: max * bank.capacityAh } : null;
const charging: Usual = (system) => {
  const { chemistry, cellsInSeries } = system.bank;
  return chemistry && cellsInSeries ? presetVolts(chemistry, cellsInSeries).charge : null;
};
const floating: Usual = (system) => {
  const { chemistry, cellsInSeries } = system.bank;
  return chemistry && cellsInSeries ? presetVolts(chemistry, cellsInSeries).float : null;
};
const cells: Usual = ({ bank }) =>
  bank.chemistry === 'lfp' ? { min: 4, max: 16 } : bank.chemistry ? { min: 3, max: 24 } : { min: 1, max: 24 };
const equalising = perBlock([14.6, 16.2], [14.2, 14.6]);
const compensating: Usual = ({ bank }) =>
  bank.chemistry === 'lfp' ? { min: 0, max: 0 } : { min: -5, max: -3 };

const NAMEPLATE = 'On the nameplate.';
const MAKER = 'In the battery maker’s sheet, at 25 °C.';
const CHARGER = 'In the charger’s settings.';
const MONITOR = 'In the monitor’s settings.';
const BMS = 'In the BMS settings or its maker’s sheet.';
const LOAD = 'In the settings of the load or its disconnect.';

const field = (label: string, unit: Unit, where: string, usual?: Usual): Field => ({
  label,
  unit,
  where,
  ...(usual ? { usual } : {}),
});

export const FIELDS: Record<string, Field> = {
  name: field('Name of the system', '', 'As the owner calls it.'),
  owner: field('Customer', '', 'Whose system it is; the report goes to them.'),
  timeZone: field('Time zone', '', 'Of the site: logs without an offset are read in it.'),

  'bank.chemistry': field('Chemistry', '', NAMEPLATE),
  'bank.cellsInSeries': field(
    'Cells in series',
    '',
    'Count them, or 6 for each 12 V of lead-acid, 4 for each 12 V of lithium.',
    cells,
  ),
  'bank.stringsInParallel': field(
    'Strings in parallel',
    '',
    'Count the rows that are joined at both ends.',
    fixed(1, 4),
  ),
  'bank.capacityAh': field(
    'Capacity of the whole bank',
    'Ah',
    'On the nameplate, times the strings in parallel.',
    fixed(7, 3000),
  ),
  'bank.capacityHours': field(
    'at the hour rate',
    'h',
    'Beside the capacity: C20 is 20 h, C10 is 10 h. Lithium is often given at 5 h or less.',
    fixed(1, 100),
  ),
  'bank.installedOn': field('In service since', '', 'Date stamp on the case, or the owner’s papers.'),
  'bank.chargeVolts.min': field('Charge voltage, lowest', 'V', MAKER, charging),
  'bank.chargeVolts.max': field('Charge voltage, highest', 'V', MAKER, charging),
  'bank.floatVolts.min': field('Float voltage, lowest', 'V', MAKER, floating),
  'bank.floatVolts.max': field('Float voltage, highest', 'V', MAKER, floating),
  'bank.compensationMvPerCellPerC.min': field(
    'Compensation, steepest',
    'mV/°C',
    'In the battery maker’s sheet, per cell; negative.',
    compensating,
  ),
  'bank.compensationMvPerCellPerC.max': field(
    'Compensation, flattest',
    'mV/°C',
    'In the battery maker’s sheet, per cell; negative.',
    compensating,
  ),
  'bank.fullGravity': field(
    'Specific gravity when full',
    '',
    'On the maker’s sheet, at 25 °C.',
    fixed(1.2, 1.3),
  ),
  'bank.equalise.volts': field('Equalisation voltage', 'V', 'Only where the maker asks for it.', equalising),
  'bank.equalise.minutes': field(
    'Equalisation, time held',
    'min',
    'In the battery maker’s sheet.',
    fixed(30, 240),
  ),
  'bank.equalise.everyDays': field(
    'Equalisation, every',
    'd',
    'In the battery maker’s sheet.',
    fixed(14, 180),
  ),
  'bank.equalise.byHand': field(
    'Equalised by hand only',
    '',
    'No charger does it by itself; the plan says when.',
  ),
  'bank.equalise.lastOn': field('Last equalised on', '', 'In the site’s book.'),
  'bank.maxChargeA': field(
    'Greatest charge current',
    'A',
    'In the battery maker’s sheet.',
    ofCapacity(0.1, 1),
  ),
  'bank.chargeAboveC': field(
    'Charge only above',
    '°C',
    'In the battery maker’s sheet; 0 °C for lithium unless it is heated.',
    fixed(-20, 10),
  ),
  'bank.dischargeAboveC': field('Discharge only above', '°C', 'In the battery maker’s sheet.', fixed(-40, 0)),

  'sources.*.name': field('Name', '', 'As you call it on the drawing.'),
  'sources.*.kind': field('Kind', '', 'What stands behind it.'),
  'sources.*.ratedA': field('Rated current', 'A', NAMEPLATE, ofCapacity(0.03, 0.6)),
  'sources.*.setA': field(
    'Charge current as set',
    'A',
    'In the charger’s settings, where it is less than the rating.',
    ofCapacity(0.03, 0.6),
  ),
  'sources.*.link': field('Linked to others', '', 'Of chargers that talk to each other one leads.'),
  'sources.*.runs.startPercent': field('Started at', '%', 'In the settings of its start.', fixed(20, 60)),
  'sources.*.runs.stopPercent': field('Stopped at', '%', 'In the settings of its start.', fixed(75, 100)),
  'sources.*.runs.stopsAt': field('Stopped at the end of', '', 'In the settings of its start.'),
  'sources.*.runs.throughEveryDays': field(
    'Through absorption every',
    'd',
    'Days between runs that finish the charge.',
    fixed(7, 30),
  ),
  'sources.*.hoursPerDay': field(
    'Good hours a day',
    'h/d',
    'Hours in which it can give about its rating: sun hours, mains hours, running hours.',
    fixed(1, 24),
  ),
  'sources.*.counted': field(
    'Counted by the monitor',
    '',
    'Found on the wiring walk: does its current pass the sensor?',
  ),
  'sources.*.senses': field(
    'Measures the voltage at',
    '',
    'Its own terminals, or a sense lead to the battery.',
  ),
  'sources.*.across': field('Charges', '', 'The whole bank, or one half of two blocks in series.'),
  'sources.*.conductor.metres': field(
    'Cable to the battery, one way',
    'm',
    'Measure it along its run.',
    fixed(0.3, 30),
  ),
  'sources.*.conductor.squareMm': field(
    'Cable cross-section',
    'mm²',
    'Printed on the sheath.',
    fixed(2.5, 120),
  ),
  'sources.*.profile.preset': field('Profile', '', 'Which of the charger’s profiles is chosen.'),
  'sources.*.profile.absorptionV': field('Absorption voltage', 'V', CHARGER, charging),
  'sources.*.profile.absorptionMinutes': field('Absorption time', 'min', CHARGER, ({ bank }) =>
    bank.chemistry === 'lfp' ? { min: 0, max: 120 } : { min: 120, max: 600 },
  ),
  'sources.*.profile.tailA': field('Ends absorption at', 'A', CHARGER, ofCapacity(0.01, 0.05)),
  'sources.*.profile.floatV': field('Float voltage', 'V', CHARGER, floating),
  'sources.*.profile.rebulkV': field('Re-bulks below', 'V', CHARGER, perBlock([12.1, 13.3], [12.9, 13.45])),
  'sources.*.profile.compensationMvPerCellPerC': field(
    'Temperature compensation',
    'mV/°C',
    'In the charger’s settings, per cell; 0 when it is off.',
    compensating,
  ),
  'sources.*.profile.equalise.volts': field('Equalisation voltage', 'V', CHARGER, equalising),
  'sources.*.profile.equalise.minutes': field('Equalisation, time held', 'min', CHARGER, fixed(30, 240)),
  'sources.*.profile.equalise.everyDays': field('Equalisation, every', 'd', CHARGER, fixed(14, 180)),
  'sources.*.profile.equalise.retryDays': field('Equalisation, days of retry', 'd', CHARGER, fixed(0, 90)),
  'sources.*.profile.chargeAboveC': field('Charges only above', '°C', CHARGER, fixed(-20, 10)),

  'monitor.method': field(
    'How it makes its reading',
    '',
    'Shunt, clip-on sensor, own current of the inverter, or voltage alone.',
  ),
  'monitor.capacityAh': field('Capacity set', 'Ah', MONITOR, ofCapacity(0.7, 1.1)),
  'monitor.chargedV': field('Charged voltage', 'V', MONITOR, perBlock([13.2, 14.4], [13.4, 14.4])),
  'monitor.tailPercent': field(
    'Tail current',
    '%',
    'In the monitor’s settings, per cent of the capacity set.',
    fixed(1, 6),
  ),
  'monitor.detectionMinutes': field('Detection time', 'min', MONITOR, fixed(1, 5)),
  'monitor.efficiencyPercent': field('Charge efficiency', '%', MONITOR, ({ bank }) =>
    bank.chemistry === 'lfp' ? { min: 95, max: 99 } : { min: 75, max: 95 },
  ),
  'monitor.peukert': field('Peukert exponent', '', MONITOR, ({ bank }) =>
    bank.chemistry === 'lfp' ? { min: 1, max: 1.1 } : { min: 1.1, max: 1.35 },
  ),
  'monitor.floorPercent': field('Discharge floor', '%', MONITOR, fixed(10, 60)),
  'monitor.thresholdA': field(
    'Zero threshold',
    'A',
    'Currents below it are counted as nothing.',
    ofCapacity(0, 0.005),
  ),
  'monitor.startPercent': field('Starts at', '%', 'What it shows after it lost its supply.', fixed(0, 100)),
  'monitor.bulkEndPercent': field(
    'Set at the end of bulk to',
    '%',
    'Only where an inverter makes the reading.',
    fixed(70, 95),
  ),
  'monitor.peukertBelowRate': field(
    'Exponent used below the rated current',
    '',
    'In the monitor’s manual; seldom said.',
  ),
  'monitor.sees': field('Sees', '', 'The whole bank, or one half.'),
  'monitor.ratedA': field('Shunt or sensor carries', 'A', 'Stamped on it.', ofCapacity(0.2, 10)),
  'monitor.sits': field('The shunt sits', '', 'In the bank’s negative, or between its two halves.'),
  'monitor.shunts.*.name': field('Name', '', 'As it is marked.'),
  'monitor.shunts.*.devices.*': field('Passes it', '', 'A source or a load.'),
  'monitor.emptyV': field('Calls it empty at', 'V', MONITOR, perBlock([10.5, 12.1], [10, 12.4])),
  'monitor.alarmHighV': field('Alarm, voltage above', 'V', MONITOR, perBlock([14.6, 16], [14.4, 15])),
  'monitor.alarmA': field('Alarm, current above', 'A', MONITOR, ofCapacity(0.1, 3)),
  'monitor.alarmC': field('Alarm, battery above', '°C', MONITOR, fixed(40, 60)),
  'monitor.voltageAt': field(
    'Measures the voltage at',
    '',
    'On the cells’ side or the bus side of the BMS switch.',
  ),

  'loads.*.name': field('Name', '', 'As you call it on the drawing.'),
  'loads.*.kind': field('Kind', '', 'Inverter or direct current.'),
  'loads.*.usualA': field(
    'Usual current',
    'A',
    'Clamp meter while it runs; for an inverter on its battery side.',
    ofCapacity(0.001, 1),
  ),
  'loads.*.hoursPerDay': field('Runs, hours a day', 'h/d', 'The owner knows, or the log.', fixed(0, 24)),
  'loads.*.cutoffV': field('Cuts off at', 'V', LOAD, perBlock([11, 12.2], [10.5, 12.6])),
  'loads.*.reconnectV': field('Comes back at', 'V', LOAD, perBlock([12, 13.4], [12.4, 13.4])),
  'loads.*.cutoffPercent': field(
    'Cuts off at',
    '%',
    'Only where it acts on the monitor’s reading.',
    fixed(5, 60),
  ),
  'loads.*.reconnectPercent': field(
    'Comes back at',
    '%',
    'Only where it acts on the monitor’s reading.',
    fixed(20, 100),
  ),
  'loads.*.alarmV': field('Alarms at', 'V', LOAD, perBlock([11.4, 12.7], [11, 13])),
  'loads.*.startA': field(
    'Draws at its start',
    'A',
    'Clamp meter on peak hold while it starts.',
    ofCapacity(0.05, 5),
  ),
  'loads.*.surgeA': field('Trips above', 'A', 'Its overcurrent protection.', ofCapacity(0.05, 5)),
  'loads.*.counted': field(
    'Counted by the monitor',
    '',
    'Found on the wiring walk: does its current pass the sensor?',
  ),
  'loads.*.conductor.metres': field(
    'Cable from the battery, one way',
    'm',
    'Measure it along its run.',
    fixed(0.3, 30),
  ),
  'loads.*.conductor.squareMm': field(
    'Cable cross-section',
    'mm²',
    'Printed on the sheath.',
    fixed(1.5, 120),
  ),

  'bms.cellHighV': field('Stops the charge at a cell of', 'V', BMS, fixed(3.55, 3.75)),
  'bms.cellLowV': field('Stops the discharge at a cell of', 'V', BMS, fixed(2.4, 3)),
  'bms.cellHighReleaseV': field('Lets charge again below', 'V', BMS, fixed(3.3, 3.6)),
  'bms.cellLowReleaseV': field('Lets discharge again above', 'V', BMS, fixed(2.7, 3.2)),
  'bms.balanceV': field('Balances above a cell of', 'V', BMS, fixed(3.38, 3.5)),
  'bms.balanceA': field('Bleeds a cell by', 'A', BMS, fixed(0.02, 5)),
  'bms.chargeAboveC': field('Charges only above', '°C', BMS, fixed(-5, 10)),
  'bms.dischargeAboveC': field('Discharges only above', '°C', BMS, fixed(-30, 0)),
  'bms.maxChargeA': field('Greatest charge current', 'A', BMS, ofCapacity(0.1, 1.5)),
  'bms.maxDischargeA': field('Greatest discharge current', 'A', BMS, ofCapacity(0.2, 3)),

  'batteries.*.name': field('Name', '', 'As it is marked: number the batteries before anything is touched.'),
  'batteries.*.capacityAh': field('Capacity', 'Ah', 'Its label.', ofCapacity(0.02, 1)),

  'mainPath.fuseA': field('Main fuse', 'A', 'Printed on it.', ofCapacity(0.3, 4)),
  'mainPath.cableA': field(
    'Main cable carries',
    'A',
    'By its cross-section, insulation and run, from the local code’s table.',
    ofCapacity(0.2, 4),
  ),
  'mainPath.busbarA': field(
    'Busbars carry',
    'A',
    'Stamped on them, or in their maker’s sheet.',
    ofCapacity(0.3, 6),
  ),
  'mainPath.jumperA': field(
    'Jumpers carry',
    'A',
    'As the main cable: at least as thick as the cable that they join.',
    ofCapacity(0.2, 4),
  ),
  'mainPath.generatorVa': field(
    'Generator behind the chargers',
    'VA',
    'Its continuous output, on its plate.',
  ),

  'drives.*.what': field('What is driven', '', 'As you call it.'),
  'drives.*.kind': field('Kind', '', 'Cut-off, alarm, relay, or the start of a generator.'),
  'drives.*.by': field('By whose percentage', '', 'In the settings of the device that switches.'),

  'site.coldestC': field(
    'Coldest at the battery',
    '°C',
    'Ask the owner; a box outdoors follows the night.',
    fixed(-25, 25),
  ),
  'site.warmestC': field(
    'Warmest at the battery',
    '°C',
    'Ask the owner; a box in the sun gets hotter than the air.',
    fixed(10, 50),
  ),
  'site.airflow': field(
    'Fresh air to the battery',
    'm³/h',
    'From the fan’s plate, or the free opening A in cm²: A/28.',
    fixed(0.1, 500),
  ),
};

/** The field at a path with list places as numbers, `sources.0.ratedA`. @throws when there is none */
export function fieldAt(path: string): Field {
  const key = path.replace(/\.\d+(?=\.|$)/g, '.*');
  const found = Object.hasOwn(FIELDS, key) ? FIELDS[key] : undefined;
  if (!found) throw new Error(`There is no field "${path}".`);
  return found;
}

/** What is unusual about a value, in one sentence; null when nothing is, or nothing can be said. */
export function unusual(path: string, value: number, system: System): string | null {
  const { usual, unit } = fieldAt(path);
  const range = usual?.(system);
  if (!range || !Number.isFinite(value)) return null;
  // A usual range has no sharp edge: a hair beyond it is not worth a word.
  const slack = 0.01 * Math.max(Math.abs(range.min), Math.abs(range.max)) * (unit === 'V' ? 0.5 : 1);
  if (value >= range.min - slack && value <= range.max + slack) return null;
  const figure = (number: number) => Number(number.toPrecision(4)).toString();
  const span = range.min === range.max ? figure(range.min) : `${figure(range.min)} to ${figure(range.max)}`;
  return `Unusual: ${span}${unit ? ` ${unit}` : ''} would be expected here. Check it; it is kept as you wrote it.`;
}
