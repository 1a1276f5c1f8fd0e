import { demoSystem } from '../simulate/demo';
import { tCumulative, tQuantile } from '../quantity/student';
import { BadRounds, roundsOfCsv, roundsToCsv } from './csv';
import { equaliseAdvice, judgeRound, percentOf } from './judge';
import { type Round, roundSchema } from './round';
import { dueOn, hydrometerText } from './text';
import { cellTrends, comparable } from './trend';

const ID = '3f0b8a52-6d52-4c2f-9a3c-5a1e7d9b0c11';
const round = (some: Partial<Round> = {}): Round => ({
  id: ID,
  on: '2026-03-01',
  afterFullCharge: true,
  celsius: 25,
  takenOf: 'electrolyte',
  readings: [
    { cell: '1A', gravity: 1.265 },
    { cell: '1B', gravity: 1.265 },
    { cell: '1C', gravity: 1.225 },
  ],
  ...some,
});

describe('one round', () => {
  test('IEEE Std 450 (from memory): 0.001 for each 1.67 °C above 25 °C', () => {
    const [first] = judgeRound(round({ celsius: 35 }), 'ieee').readings;
    expect(first!.corrected).toBeCloseTo(1.265 + 10 / 1670, 6);
  });

  test('BCI (from memory): 0.004 for each 10 °F from 80 °F', () => {
    const [first] = judgeRound(round({ celsius: (90 - 32) / 1.8 }), 'bci').readings;
    expect(first!.corrected).toBeCloseTo(1.269, 6);
  });

  test('an instrument that compensates is not corrected again; without a temperature a reading stands as read', () => {
    expect(judgeRound(round({ celsius: 40, compensates: true }), 'ieee').readings[0]!.corrected).toBe(1.265);
    const bare = round();
    delete bare.celsius;
    const judged = judgeRound(bare, 'ieee');
    expect(judged.readings[0]!.corrected).toBe(1.265);
    expect(judged.weak.join()).toMatch(/No temperature/);
  });

  test('a cell’s own temperature goes before that of the round', () => {
    const judged = judgeRound(
      round({ celsius: 25, readings: [{ cell: '1', gravity: 1.25, celsius: 41.7 }] }),
      'ieee',
    );
    expect(judged.readings[0]!.corrected).toBeCloseTo(1.26, 6);
  });

  test('state of charge by the table of the BCI (from memory), moved to the maker’s full gravity', () => {
    expect(percentOf(1.265, 1.265)).toBe(100);
    expect(percentOf(1.19, 1.265)).toBe(50);
    expect(percentOf(1.215, 1.29)).toBe(50);
  });

  test('spread and low cells', () => {
    const judged = judgeRound(round(), 'ieee');
    expect(judged.spread).toBeCloseTo(0.04, 9);
    expect(judged.low.map((one) => one.cell)).toEqual(['1C']);
  });

  test('what weakens a round is said: air, case, water, no full charge', () => {
    expect(judgeRound(round(), 'ieee').weak).toEqual([]);
    expect(judgeRound(round({ takenOf: 'ambient' }), 'ieee').weak.join()).toMatch(/air/);
    expect(judgeRound(round({ takenOf: 'case' }), 'ieee').weak.join()).toMatch(/case/);
    expect(judgeRound(round({ wateredOn: '2026-02-28' }), 'ieee').weak.join()).toMatch(/Water/);
    expect(judgeRound(round({ wateredOn: '2026-02-01' }), 'ieee').weak).toEqual([]);
    expect(judgeRound(round({ afterFullCharge: false }), 'ieee').weak.join()).toMatch(/not taken after/);
  });
});

describe('equalise or not', () => {
  const { system } = demoSystem('seismic-vault');
  const fine = { electrolyte: { answer: 'fine' as const } };
  const aired = { ...system, site: { ...system.site, airflow: 1000 } };

  test('apart, allowed, electrolyte and air in order: nothing stands before it', () => {
    expect(equaliseAdvice(judgeRound(round(), 'ieee'), aired, fine)).toMatchObject({
      isNeeded: true,
      gates: [],
    });
  });

  test('IEC 62485-2 (from memory): 24 cells of 400 Ah vented on boost need 9.6 m³/h', () => {
    const bank = { ...system.bank, cellsInSeries: 24, capacityAh: 400 };
    const { gates } = equaliseAdvice(judgeRound(round(), 'ieee'), { bank, site: { airflow: 5 } }, fine);
    expect(gates).toEqual([expect.stringMatching(/9\.6 m³\/h.*it has 5\.0/)]);
  });

  test('each gate is named', () => {
    const { bank } = demoSystem('tide-gauge').system;
    const never = { ...bank };
    delete never.equalise;
    const { gates } = equaliseAdvice(
      judgeRound(round({ afterFullCharge: false }), 'ieee'),
      { bank: never },
      undefined,
    );
    expect(gates.join(' ')).toMatch(/Only flooded.*maker’s sheet.*Charge until full.*electrolyte.*air/);
  });

  test('even cells need none', () => {
    const even = round({
      readings: [
        { cell: '1', gravity: 1.26 },
        { cell: '2', gravity: 1.265 },
      ],
    });
    expect(equaliseAdvice(judgeRound(even, 'ieee'), aired, fine)).toMatchObject({
      isNeeded: false,
      gates: [],
    });
  });
});

describe('cells over the rounds', () => {
  const years = (loss: number, noise: number) =>
    Array.from({ length: 8 }, (_, k) =>
      judgeRound(
        round({
          id: `3f0b8a52-6d52-4c2f-9a3c-5a1e7d9b0c${String(10 + k)}`,
          on: `${2024 + Math.floor(k / 4)}-${['01', '04', '07', '10'][k % 4]}-01`,
          readings: [
            { cell: '1A', gravity: 1.265 + (k % 2 ? noise : -noise) },
            { cell: '1B', gravity: 1.265 - (loss * k) / 4 + (k % 2 ? noise : -noise) },
          ],
        }),
        'ieee',
      ),
    );

  test('Student’s t (tables, from memory): 0.975 at 1, 2, 5, 10 and 30 degrees', () => {
    const known = [
      [1, 12.706],
      [2, 4.303],
      [5, 2.571],
      [10, 2.228],
      [30, 2.042],
    ] as const;
    for (const [degrees, t] of known) expect(tQuantile(0.975, degrees)).toBeCloseTo(t, 3);
    expect(tCumulative(0, 7)).toBeCloseTo(0.5, 12);
  });

  test('a cell that loses 20 points a year falls under its limit when the line says so, and earlier by the band', () => {
    const [steady, falling] = cellTrends(years(0.02, 0.001), 1.265);
    expect(steady!.under).toBeNull();
    expect(falling!.aYear).toBeCloseTo(-0.02, 2);
    // 40 points under full: two years from the first round.
    expect(Math.abs(falling!.under! - Date.parse('2026-01-01')) / 86_400_000).toBeLessThan(60);
    expect(falling!.underEarliest!).toBeLessThanOrEqual(falling!.under!);
    const ahead = falling!.expectedAt(Date.parse('2027-01-01'));
    expect(ahead.gravity).toBeCloseTo(1.205, 2);
    expect(ahead.band).toBeGreaterThan(falling!.expectedAt(Date.parse('2025-01-01')).band);
  });

  test('two rounds are no trend', () => {
    const [first] = cellTrends(years(0.02, 0).slice(0, 2), 1.265);
    expect(first).toMatchObject({ aYear: NaN, under: null });
  });

  test('rounds that were not taken after a full charge are not compared with those that were', () => {
    const partial = judgeRound(round({ on: '2025-02-01', afterFullCharge: false }), 'ieee');
    expect(comparable([...years(0, 0), partial])).toHaveLength(8);
    expect(comparable([partial])).toEqual([]);
  });

  test('in words, with the next date', () => {
    const { system } = demoSystem('seismic-vault');
    const rounds = years(0.02, 0.001);
    expect(hydrometerText(rounds, system)[0]).toMatch(/Round of 1 Oct 2025: 2 cells/);
    expect(hydrometerText(rounds, system).join(' ')).toMatch(/Cell 1B loses \d+ points a year over 8 rounds/);
    expect(dueOn(rounds)).toBe('2025-12-30');
    expect(hydrometerText([], system)).toEqual([]);
  });
});

describe('tables', () => {
  let count = 0;
  const newId = () => `3f0b8a52-6d52-4c2f-9a3c-5a1e7d9b0d${String(10 + (count++ % 80))}`;
  const read = (text: string) => roundsOfCsv(text, '2026-05-05', newId);

  test('out and in again', () => {
    const rounds = [
      round({
        instrument: 'the old glass, new bulb',
        notes: 'two\nlines, "quoted"',
        wateredOn: '2026-02-20',
      }),
      round({ on: '2026-06-01', compensates: true }),
    ];
    const back = read(roundsToCsv(rounds));
    expect(back.map(({ id: _, ...one }) => one)).toEqual(
      rounds.map(({ id: _, celsius, readings, ...one }) => ({
        ...one,
        readings: readings.map((each) => ({ ...each, celsius })),
      })),
    );
  });

  test('pasted from a spreadsheet, tabs and decimal commas, battery and cell apart', () => {
    const [pasted] = read('Battery\tCell\tSG\tTemp (°C)\n1\tA\t1,265\t18\n1\tB\t1250\t\n');
    expect(pasted).toMatchObject({
      on: '2026-05-05',
      readings: [
        { cell: '1A', gravity: 1.265, celsius: 18 },
        { cell: '1B', gravity: 1.25 },
      ],
    });
  });

  test('two bare columns are cell and gravity; Fahrenheit is turned', () => {
    expect(read('1A;1.24\n1B;1.25')[0]!.readings).toHaveLength(2);
    expect(read('cell,sg,temp F\n1,1.25,77')[0]!.readings[0]!.celsius).toBeCloseTo(25, 6);
  });

  test.each([
    ['cell,gravity\n1A,heavy', /Row 2: “heavy” is no specific gravity/],
    ['cell,gravity\n1A,2.5', /cell 1A.*between 1 and 1.4/],
    ['date,cell,gravity\n19.10.2026,1A,1.25', /Row 2: write the date as year-month-day/],
    ['cell,gravity\n1A,1.25\n1a,1.26', /same cell/],
    ['', /nothing in it/],
  ])('%j is refused with its place', (text, message) => {
    expect(() => read(text)).toThrow(BadRounds);
    expect(() => read(text)).toThrow(message);
  });

  test('a gravity as people write it', () => {
    expect(roundSchema.parse(round({ readings: [{ cell: '1', gravity: 1250 }] })).readings[0]!.gravity).toBe(
      1.25,
    );
  });
});
