import { demoSystem } from '../simulate/demo';
import { cellsText } from './cellsText';
import type { CellOut, CellsOut } from './result';
import { withoutSeries } from './withoutSeries';
import { diagnose } from './diagnose';

const { system } = demoSystem('parish-radio');
const level = (cell: string, some: Partial<CellOut> = {}): CellOut => ({
  cell,
  flat: 0,
  top: 0,
  bottom: 0,
  firstHigh: 0,
  firstLow: 0,
  behindAtTop: { ampHours: 0, least: 0, most: 0, times: 4 },
  shortAtBottom: { ampHours: 0, least: 0, most: 0, times: 4 },
  fallsBehindAhADay: null,
  milliohms: null,
  milliohmsBand: null,
  verdict: 'level',
  ...some,
});
const cells = (some: Partial<CellsOut> = {}, ...more: CellOut[]): CellsOut => ({
  kind: 'cells',
  battery: null,
  tops: 4,
  bottoms: 4,
  spread: { flat: 12, top: 80, bottom: 300 },
  firstLow: null,
  firstHigh: null,
  balancingHoursADay: 0,
  cells: [level('1'), ...more],
  heat: { from: '2026-09-21T00:00:00Z', stepHours: 3, apart: [[0]], spread: [0] },
  ...some,
});
const lines = (of: CellsOut) => cellsText(of, system).join(' ');

test('spread with what it stands for', () => {
  expect(lines(cells())).toMatch(
    /12 mV in the flat part, which is well balanced; 80 mV near the top of 4 charges/,
  );
  expect(lines(cells({ spread: { flat: 60, top: null, bottom: null } }))).toMatch(
    /cell: 60 mV in the flat part\./,
  );
});

test('a cell out of step, with what it lacks at both ends and how well that is known', () => {
  const text = lines(
    cells(
      {},
      level('5', {
        verdict: 'out-of-step',
        behindAtTop: { ampHours: 20.2, least: 16.3, most: 24, times: 4 },
        shortAtBottom: { ampHours: 18.8, least: 18.2, most: 20.5, times: 4 },
      }),
    ),
  );
  expect(text).toContain(
    'Cell 5 is out of step and wants to be charged up: about 20 Ah (16 to 24) behind when the others are full, empty about 19 Ah (18 to 21) before them.',
  );
  // 20.2 Ah at 80 mA.
  expect(text).toContain('is about 253 hours above the balancing voltage');
});

test('one that holds less, and one that leaks, each by its own figure', () => {
  expect(
    lines(
      cells(
        {},
        level('2', { verdict: 'holds-less', shortAtBottom: { ampHours: 30, least: 30, most: 30, times: 2 } }),
      ),
    ),
  ).toContain('Cell 2 holds less than the others: empty about 30 Ah before them.');
  expect(
    lines(
      cells(
        {},
        level('3', {
          verdict: 'falls-behind',
          behindAtTop: { ampHours: 4, least: 3.5, most: 4.5, times: 9 },
          fallsBehindAhADay: 0.2,
        }),
      ),
    ),
  ).toContain('a further 1.4 Ah each week');
});

test('a low cell that no charge has shown at the top is said to be open', () => {
  expect(
    lines(
      cells(
        { tops: 0, firstLow: { cell: '4', times: 5, of: 5, millivolts: 400 } },
        level('4', { verdict: 'unknown', firstLow: 5, behindAtTop: null }),
      ),
    ),
  ).toContain('cannot tell whether it holds less or is out of step');
});

test('balancing that never begins is said to be none', () => {
  expect(lines(cells({ balancingHoursADay: 0.01 }))).toContain('does not balance on these charges');
  expect(lines(cells({ balancingHoursADay: 1.5 }))).toContain('Balancing has 1.5 hours a day');
  expect(lines(cells({ balancingHoursADay: null }))).not.toContain('alancing has');
});

test('halves by millivolts alone', () => {
  const halves = cells({ kind: 'halves', spread: { flat: 480, top: null, bottom: null } });
  expect(cellsText(halves, system)).toEqual([expect.stringContaining('480 mV apart')]);
  expect(cellsText(null, system)).toEqual([]);
});

test('what only a picture needs is left out where nobody asks for it', () => {
  const { job } = demoSystem('parish-radio');
  const whole = { ...diagnose({ job, system, series: [] }), cells: cells() };
  const brief = withoutSeries(whole);
  expect(brief).not.toHaveProperty('soc');
  expect(brief.cells).not.toHaveProperty('heat');
  expect(brief.cells!.cells).toEqual(whole.cells.cells);
  expect(brief.findings).toBe(whole.findings);
});

test('a cell with far more resistance than the others is sent to its joints', () => {
  const poor = cells(
    {},
    level('1', { milliohms: 1.1, milliohmsBand: 0.1 }),
    level('2', { milliohms: 2.4, milliohmsBand: 0.2 }),
    level('3', { milliohms: 1.2, milliohmsBand: 0.1 }),
    level('4', { milliohms: 1.2, milliohmsBand: 0.1 }),
  );
  const said = (some: CellsOut) => cellsText(some, system).filter((one) => /mΩ/.test(one));
  expect(said(poor)).toEqual([
    expect.stringMatching(/^Cell 2 has 2\.4 mΩ with its joints, the others 1\.2 mΩ/),
  ]);
  // A reading that may be off by as much says nothing.
  poor.cells[2]!.milliohmsBand = 1.5;
  expect(said(poor)).toEqual([]);
});
