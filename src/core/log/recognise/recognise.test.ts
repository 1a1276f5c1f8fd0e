import { REPORTED_STAGES } from '../channels';
import { readLog, takeInLog } from '../takeIn';
import { type DeviceKind, recognise } from './index';

test('two columns that look like one channel: the surer keeps it, the other is asked about', () => {
  const text =
    'time,Voltage,Charger voltage\n2026-09-21T06:30:00Z,12.1,12.2\n2026-09-21T06:31:00Z,12.1,12.2\n';
  const { columns } = recognise(new TextEncoder().encode(text), 'source');
  expect(columns.map((column) => column.role)).toEqual(['time', null, 'source_voltage']);
  expect(columns[1]!.question).toMatch(/another column both look like source voltage/);
});

test('of several probes on one battery the first is read, and nobody is asked', () => {
  const rows = [0, 1, 2].map((i) => `2026-09-21T06:3${i}:00Z,12.1,18.${i},19.${i}`);
  const { columns } = recognise(new TextEncoder().encode(`time,V,T1,T2\n${rows.join('\n')}\n`), 'bms');
  expect(columns.map(({ role }) => role)).toEqual(['time', 'battery_voltage', 'battery_temperature', null]);
  expect(columns.every(({ sure }) => sure !== 'ask')).toBe(true);
});

test.each([
  ['2026-09-21 06:30:00', { kind: 'date', order: 'ymd' }],
  ['21/09/2026 06:30', { kind: 'date', order: 'dmy' }],
  ['21.9.26 6:30', { kind: 'date', order: 'dmy' }],
  ['9/21/2026 6:30 AM', { kind: 'date', order: 'mdy' }],
  ['1790000000', { kind: 'epoch', unitMs: 1000 }],
  ['1790000000000', { kind: 'epoch', unitMs: 1 }],
  ['1790000000000000', { kind: 'epoch', unitMs: 0.001 }],
])('times like %s', (time, format) => {
  const text = `when,V\n${time},12.1\n${time},12.2\n${time},12.1\n`;
  const reading = recognise(new TextEncoder().encode(text.replace('when', 'timestamp')), 'source');
  expect(reading.time).toEqual({ format, ask: null });
});

test('what only a person can tell of the times is asked', () => {
  const time = (text: string) => recognise(new TextEncoder().encode(text), 'source').time;
  expect(time('timestamp,V\n3/4/2026 06:30,12.1\n3/4/2026 06:31,12.2\n')).toMatchObject({ ask: 'order' });
  expect(time('elapsed (s),V\n0,12.1\n60,12.2\n120,12.2\n')).toEqual({
    format: { kind: 'elapsed', unitMs: 1000 },
    ask: 'start',
  });
  expect(time('run time,V\n00:00:10,12.1\n00:00:20,12.2\n')).toEqual({
    format: { kind: 'elapsed', unitMs: 'clock' },
    ask: 'start',
  });
});

test('date and time in two columns, and spreadsheet days', () => {
  const time = (text: string) => recognise(new TextEncoder().encode(text), 'source').time;
  expect(time('date;time;V\n21.09.2026;06:30:00;12,1\n21.09.2026;06:31:00;12,2\n')).toEqual({
    format: { kind: 'date-and-clock', order: 'dmy', clockColumn: 1 },
    ask: null,
  });
  expect(time('clock,day,V\n6:30 AM,2026-09-21,12.1\n6:31 AM,2026-09-21,12.2\n')).toEqual({
    format: { kind: 'date-and-clock', order: 'ymd', clockColumn: 0 },
    ask: null,
  });
  expect(time('date,V\n46286.270833,12.1\n46286.271528,12.2\n46286.272222,12.2\n')).toEqual({
    format: { kind: 'serial' },
    ask: null,
  });
});

test('a file without headings is read, its columns named by their place', () => {
  const text = '2026-09-21T06:30:00Z,12.1\n2026-09-21T06:31:00Z,12.2\n2026-09-21T06:32:00Z,12.2\n';
  const { dialect, columns } = recognise(new TextEncoder().encode(text), 'source');
  expect(dialect.headingLine).toBeNull();
  expect(columns.map((column) => column.heading)).toEqual(['column 1', 'column 2']);
  expect(columns[0]!.role).toBe('time');
});

describe('headings over several columns', () => {
  const log = (head: string) =>
    recognise(
      new TextEncoder().encode(
        `${head}\n${Array.from({ length: 20 }, (_, i) => `2026-09-21 06:${10 + i};26.${i};${i - 9};26.6;12`).join('\n')}\n`,
      ),
      'source',
    ).columns.map((one) => one.role);
  const ROLES = ['time', 'battery_voltage', 'battery_current', 'source_voltage', 'source_current'];

  test('with the units below', () => {
    expect(log('Time;Battery;;Charger;\n;V;A;V;A')).toEqual(ROLES);
  });

  test('with a line of short headings below, which come twice', () => {
    expect(log(';Battery;;Charger;\nTime;V;A;V;A')).toEqual(ROLES);
    expect(log(';Battery;Battery;Charger;Charger\nTime;Volts;Amps;Volts;Amps')).toEqual(ROLES);
  });

  test('a line above headings that are all different says nothing of them', () => {
    expect(log('Site;Porto Lente;;Logger 7;\nTime;Battery V;Battery A;Charger V;Charger A')).toEqual(ROLES);
  });
});

describe('by what the columns do together', () => {
  const roles = (text: string, device: DeviceKind = 'monitor') =>
    recognise(new TextEncoder().encode(text), device).columns.map((column) => column.role);
  const rows = (cells: (i: number) => (string | number)[]) =>
    Array.from({ length: 6 }, (_, i) => [`2026-09-21T06:3${i}:00Z`, ...cells(i)].join(',')).join('\n') + '\n';

  test('charge and discharge only where there are both', () => {
    expect(roles(`time,battery V,charge A,discharge A\n${rows((i) => [12.4, i, 6 - i])}`)).toEqual([
      'time',
      'battery_voltage',
      'battery_charge_current',
      'battery_discharge_current',
    ]);
    expect(roles(`time,battery V,charging current A\n${rows((i) => [12.4, i])}`, 'source')).toEqual([
      'time',
      'battery_voltage',
      'source_current',
    ]);
  });

  test('in a charger’s log the battery’s current, beside the charger’s own, may go one way only', () => {
    const both = (i: number) => [26.4, 3 + i, 30];
    expect(roles(`time,battery V,battery A,charger A\n${rows(both)}`, 'source')).toEqual([
      'time',
      'battery_voltage',
      'battery_current',
      'source_current',
    ]);
    expect(roles(`time,battery V,battery A\n${rows(both)}`, 'source')[2]).toBe('source_current');
  });

  test('solar is the panel where the charger’s output or the battery stands beside it', () => {
    const four = (i: number) => [31.2 + i, 4, 13.4, 9];
    expect(roles(`time,solar V,solar A,battery V,charge A\n${rows(four)}`, 'source')).toEqual([
      'time',
      'source_input_voltage',
      null,
      'battery_voltage',
      'source_current',
    ]);
    expect(roles(`time,solar V,solar A\n${rows(() => [13.4, 9])}`, 'source')).toEqual([
      'time',
      'source_voltage',
      'source_current',
    ]);
  });

  test('a charger’s current in a monitor’s log is not the battery’s, unless it stands alone', () => {
    expect(
      roles(`time,battery V,battery A,solar A,load A\n${rows((i) => [13.1, i - 3, 5, 2])}`, 'monitor'),
    ).toEqual(['time', 'battery_voltage', 'battery_current', null, 'load_current']);
    expect(roles(`time,battery V,charging A\n${rows((i) => [13.1, i])}`, 'monitor')[2]).toBe(
      'battery_current',
    );
  });

  test('what charges and what the loads draw, in a monitor’s log without the battery’s own, are its current together', () => {
    const net = (charge: (i: number) => number) =>
      roles(`time,battery V,charge A,load A\n${rows((i) => [13.1, charge(i), 2])}`, 'monitor').slice(2);
    expect(net((i) => i)).toEqual(['battery_charge_current', 'load_current']);
    // What goes either way is the battery's own.
    expect(net((i) => i - 3)).toEqual(['battery_current', 'load_current']);
  });

  test('ampere-hours counted in and out, each by itself, are not what is missing from full', () => {
    const growing = (i: number) => [100 + i, 90 + 2 * i];
    expect(roles(`time,Ah in,Ah out\n${rows(growing)}`, 'monitor')).toEqual(['time', null, null]);
    expect(roles(`time,Ah in battery,Ah out\n${rows((i) => [90 - i, 10 + i])}`, 'monitor')).toEqual([
      'time',
      null,
      'consumed_charge',
    ]);
  });

  test('power is left out where the current stands beside it, or no voltage does', () => {
    expect(
      roles(`time,battery V,battery A,battery W\n${rows((i) => [12.4, i - 3, 12.4 * (i - 3)])}`),
    ).toEqual(['time', 'battery_voltage', 'battery_current', null]);
    expect(roles(`time,battery temp °C,battery W\n${rows(() => [18, 50])}`)).toEqual([
      'time',
      'battery_temperature',
      null,
    ]);
  });

  test('numbered columns of cell voltages, whatever they are called; numbered block voltages are none', () => {
    const cells = (i: number) => [3.3 + i / 1000, 3.31, 3.32, 3.3];
    expect(roles(`time,Zelle 1,Zelle 2,Zelle 3,Zelle 4\n${rows(cells)}`, 'bms').slice(1)).toEqual([
      'cell_01_voltage',
      'cell_02_voltage',
      'cell_03_voltage',
      'cell_04_voltage',
    ]);
    expect(roles(`time,b0_v,b1_v,b2_v\n${rows((i) => [2.1 + i / 100, 2.12, 2.11])}`, 'bms').slice(1)).toEqual(
      ['cell_01_voltage', 'cell_02_voltage', 'cell_03_voltage'],
    );
    expect(roles(`time,aux1,aux2,aux3\n${rows(() => [12.4, 12.5, 12.4])}`, 'bms').slice(1)).toEqual([
      null,
      null,
      null,
    ]);
    // Two numbers are no series, and a series begins at 0 or 1.
    expect(roles(`time,x1,x2\n${rows(() => [3.3, 3.3])}`, 'bms').slice(1)).toEqual([null, null]);
    expect(roles(`time,x7,x8,x9\n${rows(() => [3.3, 3.3, 3.3])}`, 'bms').slice(1)).toEqual([
      null,
      null,
      null,
    ]);
  });

  test('a state that says no more than that it charges is neither asked about nor a problem', () => {
    const text = `time,charger V,state\n${rows((i) => [14.1, i < 3 ? 'Charging' : 'Float'])}`;
    const { series, problems } = takeInLog(new TextEncoder().encode(text), 'source', { device: 'c' }, 'UTC');
    expect([...series.channels.source_stage!.slice(2, 4)]).toEqual([NaN, REPORTED_STAGES.indexOf('float')]);
    expect(problems).toEqual([]);
  });

  test('words for stages that nobody knows are asked about, by name', () => {
    const { columns } = recognise(
      new TextEncoder().encode(`time,charger V,state\n${rows((i) => [14.1, i < 3 ? 'L1' : 'float'])}`),
      'source',
    );
    expect(columns[2]).toMatchObject({
      role: 'source_stage',
      sure: 'ask',
      question: 'Which stages are "L1" in "state"?',
      unknownWords: ['L1'],
    });
  });

  test('seconds since 1970 are a time under any heading', () => {
    const epoch = Array.from({ length: 4 }, (_, i) => `${1_790_000_000 + 60 * i},12.4`).join('\n');
    expect(roles(`t,battery V\n${epoch}\n`)).toEqual(['time', 'battery_voltage']);
    expect(roles(`id,battery V\n${epoch}\n`)).toEqual(['time', 'battery_voltage']);
  });
});

test('a head with hardly a line end in it is no table', () => {
  expect(() => recognise(new TextEncoder().encode(`time,V\n${'7'.repeat(200_000)}`), 'source')).toThrow(
    /lines are longer than 128 kB/,
  );
});

describe('a BMS log', () => {
  const log = (headings: string, cells: string) => {
    const rows = Array.from(
      { length: 30 },
      (_, i) => `2026-09-21T06:${String(i).padStart(2, '0')}:00Z,53.1,-4.2,${cells}`,
    );
    return new TextEncoder().encode(
      `time,Pack voltage (V),Pack current (A),${headings}\n${rows.join('\n')}\n`,
    );
  };

  test.each([
    ['Charge allowed,Discharge allowed', '1,0'],
    ['charge_enabled,discharge_enabled', 'true,false'],
    ['CHG MOS,DSG MOS', 'ON,OFF'],
    ['Charging switch,Discharging switch', 'closed,open'],
    ['charge enable,discharge enable', 'yes,no'],
    ['Charge allowed,Discharge allowed', '1.00,0.00'],
  ])('switches under %s, written as %s', (headings, cells) => {
    const bytes = log(headings, cells);
    const roles = recognise(bytes, 'bms').columns.map((one) => one.role);
    expect(roles.slice(3)).toEqual(['bms_charge_allowed', 'bms_discharge_allowed']);
    const { series, problemCount } = readLog(bytes, 'bms', { device: 'bms' }, 'UTC');
    expect(problemCount).toBe(0);
    expect([...series.channels.bms_charge_allowed!]).toEqual(new Array(30).fill(1));
    expect([...series.channels.bms_discharge_allowed!]).toEqual(new Array(30).fill(0));
  });

  test('a mean of a switch is the part of the time for which it was on', () => {
    const { series, problemCount } = readLog(
      log('Charge allowed,Discharge allowed', '0.60,1.00'),
      'bms',
      { device: 'bms' },
      'UTC',
    );
    expect(problemCount).toBe(0);
    expect(series.channels.bms_charge_allowed![3]).toBeCloseTo(0.6, 6);
    expect(recognise(log('Charge allowed,Discharge allowed', '40,1'), 'bms').columns[3]!.role).toBeNull();
  });

  test('a word that is no position of a switch is told, and the cell is missing', () => {
    const bytes = log('Charge allowed,Discharge allowed', '1,0');
    const text = new TextDecoder().decode(bytes) + '2026-09-21T06:40:00Z,53.1,-4.2,perhaps,0\n';
    const { series, problems } = readLog(new TextEncoder().encode(text), 'bms', { device: 'bms' }, 'UTC');
    expect(problems[0]!.reason).toContain('"perhaps" in "Charge allowed"');
    expect(series.channels.bms_charge_allowed!.at(-1)).toBeNaN();
  });
});

test('another column may be told to hold the time', () => {
  const text =
    'made,sent,volts\n2026-09-21 06:00,2026-09-21 08:00,24.1\n2026-09-21 06:01,2026-09-21 08:01,24.1\n';
  const time = (timeHeading?: string) =>
    recognise(
      new TextEncoder().encode(text),
      'monitor',
      timeHeading === undefined ? {} : { timeHeading },
    ).columns.find((column) => column.role === 'time')!.heading;
  expect(time()).toBe('made');
  expect(time('sent')).toBe('sent');
  expect(time('volts')).toBe('made');
});

describe('headings that say nothing', () => {
  /** Battery of 20 mΩ at rest at so many volts, its current either way; beside it something slow and a counter. */
  function log(
    headings: string,
    rest = 12.6,
    others = (i: number) => `${(20 + Math.sin(i / 50)).toFixed(1)},${i}`,
  ): Uint8Array {
    const rows = Array.from({ length: 400 }, (_, i) => {
      const amps = (i % 10 < 5 ? -6 : -2) + (i % 37 < 18 ? 9 : 0);
      const at = new Date(Date.UTC(2026, 6, 1) + i * 60_000).toISOString();
      return `${at},${(rest + 0.02 * amps).toFixed(2)},${amps.toFixed(1)},${others(i)}`;
    });
    return new TextEncoder().encode(`${headings}\n${rows.join('\n')}\n`);
  }
  const read = (headings: string, rest?: number, device: DeviceKind = 'monitor') =>
    recognise(log(headings, rest), device).columns;

  test.each([12.6, 25.1, 51.2])(
    'a column about %d V that moves with one that changes sign: both are put forward, and asked',
    (rest) => {
      const columns = read('time,ch1,ch2,ch3,ch4', rest);
      expect(columns.map((one) => one.role)).toEqual([
        'time',
        'battery_voltage',
        'battery_current',
        null,
        null,
      ]);
      expect(columns.slice(1, 3).map((one) => one.sure)).toEqual(['ask', 'ask']);
      expect(columns[1]!.question).toMatch(
        /^"ch1" lies between \d+\.\d and \d+\.\d and moves with "ch2": is it a voltage, in V\?$/,
      );
      expect(() =>
        readLog(log('time,ch1,ch2,ch3,ch4', rest), 'monitor', { device: 'monitor' }, 'UTC'),
      ).toThrow(/"ch1" lies between/);
    },
  );

  test('one that is named helps to find the other', () => {
    expect(read('time,ch1,current (A),ch3,ch4')[1]).toMatchObject({ role: 'battery_voltage', sure: 'ask' });
    const [, volts, amps] = read('time,voltage,ch2,ch3,ch4');
    expect(volts).toMatchObject({ role: 'battery_voltage', sure: 'likely' });
    expect(amps).toMatchObject({ role: 'battery_current', sure: 'ask' });
    expect(read('time,ch1,ch2,ch3,ch4', 12.6, 'source')[1]!.role).toBe('source_voltage');
  });

  test('nothing is put forward where both are named, where the figures are no bank’s, or where nothing moves together', () => {
    expect(
      read('time,voltage (V),current (A),ch3,ch4')
        .slice(3)
        .map((one) => one.role),
    ).toEqual([null, null]);
    expect(
      read('time,ch1,ch2,ch3,ch4', 230)
        .slice(1)
        .every((one) => one.role === null),
    ).toBe(true);
    expect(
      read('time,ch1,ch2,ch3,ch4', 3.3)
        .slice(1)
        .every((one) => one.role === null),
    ).toBe(true);
    const noise = (i: number) => `${12 + ((i * 7919) % 13) / 10},${((i * 104_729) % 11) - 5}`;
    const apart = recognise(
      log('time,a temperature (°C),b humidity (%),ch3,ch4', 12.6, noise),
      'monitor',
    ).columns;
    expect(apart.slice(3).map((one) => one.role)).toEqual([null, null]);
  });
});
