/**
 * What Pazienza would set, by school and with the reason: one row for each setting that can be advised on. A rule says that a setting
 * is wrong; this table says what would be right. All figures are common practice with no source unless a maker's figure is known.
 */

import { absorptionHours } from '../chargeTime';
import { restVolts } from '../restVoltage';
import { sagVolts } from '../sag';
import { schoolOf } from '../schools';
import {
  basics,
  chargingSources,
  heldAt,
  type LoadView,
  reached,
  type SourceView,
  type Subject,
} from './subject';

export interface Advice {
  /** In the field's unit, or one of its words; 'off' where it should not act at all. */
  value: number | string;
  /** Name of the school it follows; null where practitioners agree. */
  school: string | null;
  why: string;
}

type Row =
  | { on: 'source'; setting: string; advise(s: Subject, source: SourceView): Advice | null }
  | { on: 'monitor' | 'bms'; setting: string; advise(s: Subject): Advice | null }
  | { on: 'load'; setting: string; advise(s: Subject, load: LoadView): Advice | null };

const round = (value: number, step: number): number => Number((Math.round(value / step) * step).toFixed(4));
const middle = ({ min, max }: { min: number; max: number }): number => (min + max) / 2;
const agreed = (value: number | string, why: string): Advice => ({ value, school: null, why });

/** Current that charges the bank in absorption: all whole-bank sources, less the standing loads, A. */
export function chargingAmps(s: Subject): number {
  const sources = chargingSources(s).reduce((total, one) => total + one.ask('ratedA'), 0);
  const loads = s.loads.reduce(
    (total, one) => total + (one.raw.usualA ?? 0) * Math.min(1, (one.raw.hoursPerDay ?? 24) / 24),
    0,
  );
  const limit = s.system.bank.maxChargeA ?? Infinity;
  return Math.min(limit, Math.max(sources - loads, 0.2 * sources));
}

/** V that every source reaches while absorbing, or on float, at 25 °C; null when nothing charges all of what is judged. */
function lowest(s: Subject, setting: 'absorptionV' | 'floatV'): number | null {
  const volts = reached(s, (one) => one.profile(setting));
  return volts.length > 0 ? Math.min(...volts) : null;
}

function chargedVolts(s: Subject): Advice | null {
  const blocks = s.blocks();
  const absorption = lowest(s, 'absorptionV');
  if (absorption === null) return null;
  if (!s.lead()) {
    const school = schoolOf(s.schools, 'lithiumSync');
    const fixed = { 'fixed-13.8': 13.8, 'fixed-13.5': 13.5, 'near-absorption': Infinity }[
      s.schools.lithiumSync
    ];
    return {
      value: round(Math.min(absorption - 0.2 * blocks, fixed * blocks), 0.05),
      school: school.name,
      why: school.why,
    };
  }
  const school = schoolOf(s.schools, 'sync');
  const floating = s.sources.every((one) => one.raw.profile.floatV) ? lowest(s, 'floatV') : null;
  if (s.schools.sync === 'steady' && floating !== null)
    return { value: round(floating - 0.2 * blocks, 0.05), school: school.name, why: school.why };
  return {
    value: round(absorption - 0.2 * blocks, 0.05),
    school: school.name,
    why: school.why,
  };
}

function monitorTail(s: Subject): Advice {
  if (!s.lead()) {
    const { name, why } = schoolOf(s.schools, 'lithiumTail');
    return { value: Number(s.schools.lithiumTail), school: name, why };
  }
  const { name } = schoolOf(s.schools, 'sync');
  const capacity = s.countedCapacity();
  const ends = chargingSources(s).map((one) => (100 * (one.raw.profile.tailA ?? 0)) / capacity);
  const usual = s.schools.sync === 'steady' ? 4 : 5;
  return {
    value: Math.max(usual, s.schools.sync === 'varying' ? Math.ceil(Math.max(0, ...ends) + 1) : 0),
    school: name,
    why: 'Or measure it: let it float for 5 to 10 min, read the current, and set a little above.',
  };
}

function lithiumFloat(s: Subject, source: SourceView): Advice {
  const { name, why } = schoolOf(s.schools, 'lithiumFloat');
  if (s.schools.lithiumFloat === 'none') return { value: 'off', school: name, why };
  const volts = s.schools.lithiumFloat === 'equal' ? source.profile('absorptionV') : 3.35 * s.cells();
  return { value: round(volts, 0.05), school: name, why };
}

function lithiumCharge(s: Subject): Advice {
  const { min, max } = s.chargeVolts();
  const cells = s.cells();
  const { cellHighV, balanceV } = s.system.bms ?? {};
  const ceiling = cellHighV ? Math.min(max, (cellHighV - 0.05) * cells) : max;
  const floor = balanceV ? Math.max(min, (balanceV + 0.02) * cells) : min;
  const school = schoolOf(s.schools, 'lithiumFloat');
  const wanted = s.schools.lithiumFloat === 'gap' ? Math.max(3.5 * cells, min) : (min + max) / 2;
  return {
    value: round(Math.min(ceiling, Math.max(floor, wanted)), 0.05),
    school: s.schools.lithiumFloat === 'gap' ? school.name : null,
    why: 'Within the maker’s range, high enough for the cells to balance, and clear of the limit at which the BMS opens.',
  };
}

function equaliseSetting(setting: 'volts' | 'minutes' | 'everyDays'): Row {
  return {
    on: 'source',
    setting: `profile.equalise.${setting}`,
    advise(s, { raw }) {
      const asked = s.system.bank.equalise;
      if (asked) return agreed(asked[setting], 'As the battery maker asks.');
      if (!raw.profile.equalise) return null;
      return s.chemistry() === 'flooded'
        ? null
        : agreed('off', 'Sealed, gel, AGM and lithium batteries are not equalised unless the maker says so.');
    },
  };
}

/** V at which a load should let go: the battery's rest voltage at its floor, less what battery and cable lose at that load. */
function cutoffVolts(s: Subject, load: LoadView): number {
  const blocks = s.blocks();
  const amps = load.ask('usualA');
  const sag = sagVolts(basics(s), load.raw.conductor, amps);
  const lead = s.lead();
  const rest = restVolts(s.chemistry(), lead ? 50 : 12) * blocks;
  const [least, most] = lead ? [11.5, 12] : [11, 12.4];
  const loaded = Math.min(most * blocks, Math.max(least * blocks, rest - sag.battery - sag.cable));
  const low = s.system.bms?.cellLowV;
  return Math.max(loaded, low ? (low + 0.1) * s.cells() : 0);
}

export const ADVICE: readonly Row[] = [
  {
    on: 'source',
    setting: 'profile.preset',
    advise: (s) =>
      s.lead()
        ? null
        : {
            value: 'lithium',
            school: null,
            why: `Where the charger has it. Where it has none, the school of “${schoolOf(s.schools, 'leadPreset').name}”: ${schoolOf(s.schools, 'leadPreset').why}`,
          },
  },
  {
    on: 'source',
    setting: 'profile.absorptionV',
    advise: (s) =>
      s.lead()
        ? agreed(round(middle(s.chargeVolts()), 0.05), 'The middle of what the battery asks for at 25 °C.')
        : lithiumCharge(s),
  },
  {
    on: 'source',
    setting: 'profile.absorptionMinutes',
    advise(s) {
      if (!s.lead()) {
        const { name, why } = schoolOf(s.schools, 'lithiumAbsorption');
        if (s.schools.lithiumAbsorption === 'balance') return { value: 60, school: name, why };
        // The monitor has to see the voltage for its detection time, else it is never set to full.
        const wait = s.system.monitor ? Math.ceil(s.system.monitor.detectionMinutes ?? 3) + 2 : 0;
        return {
          value: wait,
          school: name,
          why:
            wait > 0
              ? `${why} These minutes are for the monitor alone, so that it sees the battery full.`
              : why,
        };
      }
      const capacity = s.bank('capacityAh');
      const { max } = absorptionHours(capacity, chargingAmps(s), 0.02 * capacity);
      return agreed(
        Math.max(120, Math.ceil((max * 60) / 30) * 30),
        'Long enough for the current to fall to 2 % of capacity; the timer is there for the day on which it does not.',
      );
    },
  },
  {
    on: 'source',
    setting: 'profile.tailA',
    advise(s) {
      const capacity = s.bank('capacityAh');
      const share = s.lead() ? 0.02 : 0.04;
      return agreed(
        round(share * capacity, 0.1),
        s.lead()
          ? 'A full lead battery held at its charge voltage takes 2 % of its capacity or less.'
          : 'At its charge voltage a lithium battery is as good as full at 4 % of capacity.',
      );
    },
  },
  {
    on: 'source',
    setting: 'profile.floatV',
    advise: (s, source) =>
      s.lead()
        ? agreed(
            round(middle(s.floatVolts()), 0.05),
            'The middle of what the battery asks for on float at 25 °C.',
          )
        : lithiumFloat(s, source),
  },
  {
    on: 'source',
    setting: 'profile.rebulkV',
    advise: (s) =>
      agreed(
        round((s.lead() ? 12.7 : 13.2) * s.blocks(), 0.05),
        s.lead()
          ? 'About the rest voltage of a full battery: what was drawn is put back the same day.'
          : 'About 70 % at rest: no daily topping, and never left half empty.',
      ),
  },
  {
    on: 'source',
    setting: 'profile.compensationMvPerCellPerC',
    advise: (s) =>
      s.lead()
        ? agreed(
            round(middle(s.compensation()), 0.5),
            'Cold lead-acid needs more voltage, warm less; reference 25 °C.',
          )
        : agreed(0, 'Lithium must not be compensated: its voltage does not move with temperature.'),
  },
  equaliseSetting('volts'),
  equaliseSetting('minutes'),
  equaliseSetting('everyDays'),
  {
    on: 'source',
    setting: 'profile.equalise.retryDays',
    advise(s) {
      const asked = s.system.bank.equalise;
      if (!asked) return null;
      const { name, why } = schoolOf(s.schools, 'retry');
      return { value: s.schools.retry === 'must-happen' ? asked.everyDays : 1, school: name, why };
    },
  },
  {
    on: 'source',
    setting: 'profile.chargeAboveC',
    advise(s) {
      if (s.lead() || s.site('coldestC') > 5) return null;
      return agreed(s.system.bank.chargeAboveC ?? 0, 'Lithium must never be charged below freezing.');
    },
  },
  {
    on: 'monitor',
    setting: 'capacityAh',
    advise: (s) =>
      agreed(
        round(s.countedCapacity(), 1),
        s.lead()
          ? 'The 20-hour figure of the bank: a monitor counts from there.'
          : 'The capacity on the label, until it has been measured.',
      ),
  },
  { on: 'monitor', setting: 'chargedV', advise: chargedVolts },
  { on: 'monitor', setting: 'tailPercent', advise: monitorTail },
  {
    on: 'monitor',
    setting: 'detectionMinutes',
    advise: (s) => ({
      value: s.schools.sync === 'varying' ? 4 : 3,
      school: schoolOf(s.schools, 'sync').name,
      why: 'Long enough to outlast a dip of the current, short enough to be met before float begins.',
    }),
  },
  {
    on: 'monitor',
    setting: 'efficiencyPercent',
    advise(s) {
      const id = s.lead() ? 'efficiency' : 'lithiumEfficiency';
      const { name, why } = schoolOf(s.schools, id);
      const value = s.lead()
        ? s.schools.efficiency === 'cycled'
          ? 83
          : 78
        : Number(s.schools.lithiumEfficiency);
      return { value, school: name, why };
    },
  },
  {
    on: 'monitor',
    setting: 'peukert',
    advise(s) {
      if (s.lead())
        return agreed(
          1.25,
          'What lead batteries usually show: the faster the discharge, the less comes out.',
        );
      const { name, why } = schoolOf(s.schools, 'lithiumPeukert');
      return { value: Number(s.schools.lithiumPeukert), school: name, why };
    },
  },
  {
    on: 'monitor',
    setting: 'floorPercent',
    advise: (s) =>
      s.lead()
        ? agreed(50, 'Below half, lead batteries age quickly.')
        : agreed(10, 'Leaves the BMS its margin; lithium minds little down to there.'),
  },
  {
    on: 'monitor',
    setting: 'thresholdA',
    advise: (s) =>
      agreed(
        round(Math.max(0.05, 0.001 * s.bank('capacityAh')), 0.05),
        'Hides the zero error of the meter and little else.',
      ),
  },
  {
    on: 'load',
    setting: 'alarmV',
    advise(s, load) {
      const { name, why } = schoolOf(s.schools, 'alarm');
      const late = (load.raw.cutoffV ?? cutoffVolts(s, load)) + 0.3 * s.blocks();
      const half = restVolts(s.chemistry(), 50) * s.blocks();
      return {
        value: round(s.schools.alarm === 'early' ? Math.max(half, late) : late, 0.1),
        school: name,
        why,
      };
    },
  },
  {
    on: 'load',
    setting: 'cutoffV',
    advise: (s, load) =>
      agreed(
        round(cutoffVolts(s, load), 0.1),
        `The rest voltage at the floor, less what battery and cable lose at ${load.ask('usualA')} A: under load the battery is fuller than its voltage says.`,
      ),
  },
  {
    on: 'load',
    setting: 'reconnectV',
    advise: (s, load) =>
      agreed(
        round((load.raw.cutoffV ?? cutoffVolts(s, load)) + (s.lead() ? 1 : 0.8) * s.blocks(), 0.1),
        'Only a charger lifts the battery there: its own recovery without the load does not.',
      ),
  },
  {
    on: 'load',
    setting: 'cutoffPercent',
    advise: () => agreed('off', 'A cut-off by voltage needs no reading that can drift.'),
  },
  {
    on: 'bms',
    setting: 'balanceV',
    advise(s) {
      const charge = lowest(s, 'absorptionV');
      if (charge === null) return null;
      const { name, why } = schoolOf(s.schools, 'balanceStart');
      const perCell = charge / s.cells();
      return {
        value: round(s.schools.balanceStart === 'at' ? perCell : Math.min(3.45, perCell - 0.03), 0.01),
        school: name,
        why,
      };
    },
  },
];

/** V that the strongest source reaches at a temperature; null when nothing charges all of what is judged. */
export function reachAt(s: Subject, celsius: number): number | null {
  const volts = reached(s, (one, of) => heldAt(of, one, one.profile('absorptionV'), celsius));
  return volts.length > 0 ? Math.max(...volts) : null;
}
