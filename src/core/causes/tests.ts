/** Tests that a technician can make to tell causes apart. Minutes are hands-on work, by common practice. */

export interface FieldTest {
  title: string;
  how: string;
  minutes: number;
  caution?: string;
}

const GAS = 'Charging gives off explosive gas: ventilate, no sparks, no smoking.';
const SHORT = 'A battery can deliver thousands of amperes: insulated tools, no jewellery.';

export const FIELD_TESTS = {
  'read-charger-settings': {
    title: 'Read the charger’s settings',
    how: 'Read charge voltage, absorption time and compensation from the charger itself and write them down before anything is changed.',
    minutes: 10,
  },
  'lengthen-absorption': {
    title: 'Lengthen absorption once and watch the current',
    how: 'Set the absorption time to four hours for one charge, within the battery maker’s sheet, and log until the current has fallen to the tail.',
    minutes: 20,
    caution: GAS,
  },
  'meter-at-terminals': {
    title: 'Measure at the battery terminals',
    how: 'While the charger absorbs, measure the voltage at the battery posts with a meter of your own, and the battery’s temperature.',
    minutes: 15,
    caution: SHORT,
  },
  'balance-over-a-week': {
    title: 'Balance over a week',
    how: 'Log the battery’s own current for seven days with usual loads and compare ampere-hours in and out.',
    minutes: 30,
  },
  'millivolts-over-joints': {
    title: 'Millivolts over each joint',
    how: 'Under a steady current of a tenth of the capacity or more, measure from post to lug and across each joint and fuse, and write down millivolts and amperes.',
    minutes: 20,
    caution: SHORT,
  },
  'clamp-each-conductor': {
    title: 'Clamp meter on each conductor',
    how: 'With all sources and loads running, clamp each conductor at the battery and compare with what the monitor shows.',
    minutes: 15,
    caution: SHORT,
  },
  'capacity-test': {
    title: 'Capacity test',
    how: 'Charge until full, rest, discharge at a known current to the end voltage of the weakest cell, and read the ampere-hours. The calculator of that name says how long it should last, when to stop and what it comes to.',
    minutes: 90,
    caution: GAS,
  },
  'mains-top-up': {
    title: 'Fill the battery once from a mains charger',
    how: 'Charge until the current has fallen to the tail, then leave the system to itself and log the following week.',
    minutes: 45,
    caution: GAS,
  },
  'current-cool-and-hot': {
    title: 'Current at a cool start and when hot',
    how: 'Note the charger’s current in bulk in the first minutes and again after an hour, with the temperature of its case and its supply voltage under load.',
    minutes: 15,
  },
  'run-alone': {
    title: 'Run each source alone',
    how: 'Switch the other sources off for one charge and log whether this one now goes through bulk and absorption to the tail.',
    minutes: 20,
    caution: GAS,
  },
  'compare-sensor': {
    title: 'Compare the temperature sensor with a thermometer',
    how: 'Hold a thermometer to the battery case beside the charger’s sensor and compare; read the compensation that is set, in mV per °C and per cell or per 12 V.',
    minutes: 15,
  },
  'warm-the-battery': {
    title: 'Warm the battery and try again',
    how: 'Bring the battery above its charging limit by a heater that its maker allows or by the room, and see whether charging begins.',
    minutes: 40,
    caution: 'Never charge lithium below freezing, and never bypass the block to try.',
  },
  'balance-at-low-current': {
    title: 'Balance at low current',
    how: 'Hold the charge at a low current near the balancing voltage for some hours, within the maker’s sheet, and log the cells.',
    minutes: 30,
    caution: SHORT,
  },
  'hydrometer-round': {
    title: 'Hydrometer round',
    how: 'The day after a full charge, measure every cell, correct to 25 °C and compare: cells that differ by more than 0.030 ask for equalisation, where the maker allows it.',
    minutes: 45,
    caution: 'Acid burns: goggles, gloves, rinse water. ' + GAS,
  },
  'log-both-currents': {
    title: 'Log the charger’s and the battery’s current together',
    how: 'Log both through one absorption, with the loads running as usual; what lies between them is what the loads take.',
    minutes: 20,
  },
  'read-monitor-settings': {
    title: 'Read the monitor’s settings',
    how: 'Read capacity, charged voltage, tail current, detection time, efficiency and exponent from the monitor itself, and write them down before anything is changed.',
    minutes: 10,
  },
  'float-current': {
    title: 'Read the current five to ten minutes into float',
    how: 'Charge until the charger says float, wait five to ten minutes and read the battery’s own current with the usual loads on.',
    minutes: 20,
    caution: GAS,
  },
  'rest-check': {
    title: 'Compare the reading with a rested battery',
    how: 'Switch everything off, wait four hours or a night (lithium: one hour), measure at the posts and compare with the table.',
    minutes: 15,
  },
  'read-the-zero': {
    title: 'Read the zero',
    how: 'Isolate the battery from every source and load and read the monitor’s current: it must show nothing.',
    minutes: 10,
    caution: SHORT,
  },
  'watch-the-sign': {
    title: 'Watch the sign while charging',
    how: 'Switch one charger on with the loads off: the monitor must show a positive current.',
    minutes: 5,
  },
  'supply-lead': {
    title: 'Follow the monitor’s supply lead',
    how: 'Follow the lead and its fuse to the battery positive; move it gently while the display is watched.',
    minutes: 10,
    caution: SHORT,
  },
  'load-step': {
    title: 'Switch a large load on for a minute',
    how: 'Note percentage and voltage, switch on a load of a tenth of the capacity or more for a minute, note both again, and once more a minute after.',
    minutes: 5,
  },
  'full-charge-and-sync': {
    title: 'Charge until full and see the reading set itself',
    how: 'Charge until the charger itself says float, note the reading before and after it goes to 100 %, and compare after a week.',
    minutes: 30,
    caution: GAS,
  },
  'other-sources-on': {
    title: 'Run another source alone',
    how: 'Switch the charger off that shows the percentage, let another source charge for an hour, and see whether the percentage rises.',
    minutes: 15,
  },
  'meter-each-half': {
    title: 'Measure each half',
    how: 'With a meter of your own measure the lower and the upper half at the posts, at rest and while charging.',
    minutes: 10,
    caution: SHORT,
  },
  'read-load-settings': {
    title: 'Read the settings of the disconnect',
    minutes: 10,
    how: 'Read at which voltage, after how long and at which percentage the load goes off and comes back; beside it the current at which it does.',
  },
  'cell-capacity': {
    title: 'Measure the capacity of one cell',
    minutes: 60,
    caution: SHORT,
    how: 'Charge the cell alone until it is full, let it out at a fifth of its capacity to the maker’s end voltage, and count. Beside it a good one, for comparison.',
  },
  'start-the-load-alone': {
    title: 'Start the load alone',
    minutes: 15,
    how: 'Everything else off, start it and read the peak with a clamp that keeps it, and the lowest voltage; then with the usual loads running.',
  },
} as const satisfies Record<string, FieldTest>;

export type TestCode = keyof typeof FIELD_TESTS;
