/** The logs of a plain site: what each device writes down, in one of several makers' ways. */

import type { Random } from '@/core/simulate/random';
import type { PlainPlan } from './plainPlan';

/** When every plain site begins. */
export const PLAIN_FROM = Date.UTC(2026, 3, 6);

interface Style {
  separator: string;
  decimal: string;
  time: (ms: number) => string;
  headings: {
    time: string;
    charger: [volts: string, amps: string, stage: string];
    battery: [volts: string, amps: string];
    load: [amps: string, volts: string];
    heat: string;
    soc: string;
  };
}

const iso = (ms: number) => new Date(ms).toISOString().replace('.000Z', 'Z');
const clock = new Intl.DateTimeFormat('en-GB', {
  timeZone: 'Europe/Rome',
  year: 'numeric',
  month: '2-digit',
  day: '2-digit',
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
  hourCycle: 'h23',
});
const local = (ms: number) => {
  const part = Object.fromEntries(clock.formatToParts(ms).map(({ type, value }) => [type, value]));
  return `${part.day}.${part.month}.${part.year} ${part.hour}:${part.minute}:${part.second}`;
};

export const PLAIN_STYLES = {
  spoken: {
    separator: ',',
    decimal: '.',
    time: iso,
    headings: {
      time: 'Timestamp',
      charger: ['Charger output voltage (V)', 'Charger output current (A)', 'Charge state'],
      battery: ['Battery voltage (V)', 'Battery current (A)'],
      load: ['Load current (A)', 'Load voltage (V)'],
      heat: 'Battery temperature (°C)',
      soc: 'State of charge (%)',
    },
  },
  local: {
    separator: ';',
    decimal: ',',
    time: local,
    headings: {
      time: 'Date/Time',
      charger: ['Output V', 'Output A', 'Stage'],
      battery: ['Batt. V', 'Batt. A'],
      load: ['Load A', 'Load V'],
      heat: 'Batt. temp °C',
      soc: 'SOC %',
    },
  },
  short: {
    separator: '\t',
    decimal: '.',
    time: (ms) => String(ms / 1000),
    headings: {
      time: 'unix_time',
      charger: ['output_voltage', 'output_current', 'charge_state'],
      battery: ['bat_voltage', 'bat_current'],
      load: ['load_current', 'load_voltage'],
      heat: 'bat_temp_c',
      soc: 'soc_percent',
    },
  },
} as const satisfies Record<string, Style>;

/** What there is to be written down at a moment. */
export interface PlainMoment {
  ms: number;
  chargers: { volts: number; amps: number; stage: string }[];
  bank: { volts: number; amps: number };
  monitor: { volts: number; amps: number; shown: number; midpoint: number | undefined };
  load: { volts: number; amps: number };
  bms: { cells: number[]; letsIn: boolean; letsOut: boolean; percent: number };
  celsius: number;
}

export interface PlainLogs {
  write(moment: PlainMoment): void;
  texts(): { device: string; text: string }[];
}

type Entry = readonly [heading: string, value: number | string];

/** Notes what the plan's devices log, with their noise and their steps. */
export function plainLogs(plan: PlainPlan, random: Random): PlainLogs {
  const style: Style = PLAIN_STYLES[plan.style];
  const { headings } = style;
  const noise = random.pick([0.003, 0.006, 0.01]) * plan.blocks;
  const [voltStep, ampStep] = [random.pick([0.01, 0.01, 0.02, 0.1]), random.pick([0.01, 0.1])];
  const gains = plan.chargers.map(() => random.normal(1, 0.005));
  const own = random.normal(1, 0.005);
  const from = random.pick([0, 0, 10, 20]);
  const rows = new Map<string, string[]>();

  const volt = (value: number) => Math.round((value + random.normal(0, noise)) / voltStep) * voltStep;
  const amp = (value: number) =>
    Math.round((value + random.normal(0, 0.0003 * plan.capacityAh)) / ampStep) * ampStep;
  const put = (device: string, ms: number, entries: readonly Entry[]) => {
    const log = rows.get(device) ?? [
      [headings.time, ...entries.map(([heading]) => heading)].join(style.separator),
    ];
    const values = entries.map(([, value]) =>
      typeof value === 'string' ? value : String(Number(value.toFixed(3))).replace('.', style.decimal),
    );
    log.push([style.time(ms), ...values].join(style.separator));
    rows.set(device, log);
  };

  return {
    write(moment) {
      const { ms } = moment;
      const seconds = Math.round(ms / 1000);
      const { logs, outage } = plan;
      const hours = (ms - PLAIN_FROM) / 3_600_000;
      if (outage && hours > outage.from && hours < outage.from + outage.hours) return;
      const heat: Entry[] = logs.heat ? [[headings.heat, Math.round(2 * moment.celsius) / 2]] : [];
      if (seconds % plan.everySeconds === 0) {
        plan.chargers.forEach((one, k) => {
          if (!logs.charger || !one.logged) return;
          const { volts, amps, stage } = moment.chargers[k]!;
          const [V, A, S] = headings.charger;
          put(one.id, ms, [
            [V, volt(volts)],
            [A, Math.max(0, amp(amps * gains[k]!))],
            ...(one.tellsStage ? [[S, stage] as const] : []),
            ...heat,
          ]);
        });
        if (logs.load)
          put('load', ms, [
            [headings.load[0], amp(moment.load.amps)],
            [headings.load[1], volt(moment.load.volts)],
          ]);
        if (logs.bms)
          put('bms', ms, [
            [headings.battery[0], moment.bank.volts],
            [headings.battery[1], amp(moment.bank.amps)],
            ['Charge allowed', Number(moment.bms.letsIn)],
            ['Discharge allowed', Number(moment.bms.letsOut)],
            ...moment.bms.cells.map((value, k) => [`Cell ${k + 1} voltage (V)`, value] as const),
            [headings.soc, Math.round(moment.bms.percent)],
          ]);
      }
      // The monitor's clock of samples is its own.
      const isSilent = plan.monitor.restarts.some(
        (one) => hours / 24 >= one.day && hours / 24 < one.day + one.silentHours / 24,
      );
      if (logs.monitor && !isSilent && (seconds - from) % plan.monitorEverySeconds === 0) {
        const { volts, amps, shown, midpoint } = moment.monitor;
        put('monitor', ms, [
          [headings.battery[0], volt(volts)],
          [headings.battery[1], amp(amps * own)],
          ...heat,
          ...(midpoint === undefined ? [] : [['Midpoint voltage (V)', volt(midpoint)] as const]),
          ...(logs.reading ? [[headings.soc, Math.round(10 * shown) / 10] as const] : []),
        ]);
      }
    },
    texts: () => [...rows].map(([device, lines]) => ({ device, text: `${lines.join('\n')}\n` })),
  };
}
