/** What the cells show, in sentences: for the step, the report and the terminal. */

import type { CellVerdict } from '../cells/verdict';
import { median } from '../quantity/numbers';
import { ampHours, counted } from '../quantity/text';
import type { System } from '../system/schema';
import { deviceName } from '../system/sourceName';
import type { CellOut, CellsOut } from './result';

export const VERDICT_WORDS: Record<CellVerdict, string> = {
  level: 'level',
  'out-of-step': 'out of step',
  'holds-less': 'holds less',
  'runs-ahead': 'runs ahead',
  'falls-behind': 'leaks',
  unknown: 'not known',
};

const SENTENCES: Record<Exclude<CellVerdict, 'level' | 'unknown'>, string> = {
  'out-of-step': 'is out of step and wants to be charged up',
  'holds-less': 'holds less than the others',
  'runs-ahead': 'is full before the others',
  'falls-behind': 'falls further behind from charge to charge, as one that leaks',
};

/** Cells that part by less in the flat part are well balanced, mV (common practice, no source). */
const LEVEL = 20;

export function cellsText(cells: CellsOut | null, system: System): string[] {
  const { bank, bms } = system;
  if (!cells) return [];
  const lines: string[] = [];
  if (cells.battery !== null)
    lines.push(`Cells of ${deviceName(system, cells.battery)}, which stand furthest apart of those logged.`);
  const { spread, firstLow, firstHigh } = cells;
  if (cells.kind === 'halves') {
    if (spread.flat !== null)
      lines.push(
        `The two halves stand ${spread.flat} mV apart in the middle of the log${spread.flat > 100 * Math.max(1, (bank.cellsInSeries ?? 6) / 12) ? ', more than they should' : ''}.`,
      );
    return lines;
  }
  const parts = [
    spread.flat === null
      ? null
      : `${spread.flat} mV in the flat part${spread.flat <= LEVEL ? ', which is well balanced' : ''}`,
    spread.top === null ? null : `${spread.top} mV near the top of ${counted(cells.tops, 'charge')}`,
    spread.bottom === null ? null : `${spread.bottom} mV near empty, ${counted(cells.bottoms, 'time')}`,
  ].filter((one) => one !== null);
  if (parts.length > 0) lines.push(`Highest less lowest cell: ${parts.join('; ')}.`);
  if (firstLow && firstLow.millivolts >= LEVEL)
    lines.push(
      `Cell ${firstLow.cell} came to its lower end first ${counted(firstLow.times, 'time')} of ${firstLow.of}, ${firstLow.millivolts} mV under the mean.`,
    );
  if (firstHigh && firstHigh.millivolts >= LEVEL)
    lines.push(
      `Cell ${firstHigh.cell} came to its upper end first ${counted(firstHigh.times, 'time')} of ${firstHigh.of}, ${firstHigh.millivolts} mV over the mean.`,
    );
  for (const one of cells.cells)
    if (one.verdict !== 'level' && one.verdict !== 'unknown') lines.push(cellLine(one, one.verdict));
    else if (one.verdict === 'unknown' && one.firstLow > 0 && firstLow && firstLow.millivolts >= LEVEL)
      lines.push(
        `Cell ${one.cell} is empty before the others. No charge got to the top, so these logs cannot tell whether it holds less or is out of step.`,
      );
  lines.push(...resistanceLines(cells));
  if (bank.chemistry === 'lfp') lines.push(...balancingLines(cells, bms));
  return lines;
}

/** A cell that has so many times the resistance of the others, for sure, has a poor joint or is poor itself. */
const POOR = 1.5;

function resistanceLines({ cells }: CellsOut): string[] {
  const usual = median(cells.flatMap((one) => one.milliohms ?? []));
  return cells.flatMap(({ cell, milliohms, milliohmsBand }) =>
    milliohms !== null && milliohms - (milliohmsBand ?? 0) > POOR * usual
      ? [
          `Cell ${cell} has ${milliohms.toFixed(1)} mΩ with its joints, the others ${usual.toFixed(1)} mΩ: see to its joints first (battery isolated, the maker’s torque), then read it again.`,
        ]
      : [],
  );
}

/** "about 28 Ah (25 to 32)" */
function lagWords({ ampHours: lag, least, most }: NonNullable<CellOut['behindAtTop']>): string {
  const digits = Math.abs(most) < 10 ? 1 : 0;
  const [low, high] = [least, most].map((one) => Math.abs(one).toFixed(digits));
  return `about ${ampHours(Math.abs(lag))}${low === high ? '' : ` (${low} to ${high})`}`;
}

function cellLine(
  { cell, behindAtTop, shortAtBottom, fallsBehindAhADay }: CellOut,
  verdict: keyof typeof SENTENCES,
): string {
  const top =
    behindAtTop && Math.abs(behindAtTop.ampHours) > 0.1
      ? `${lagWords(behindAtTop)} ${behindAtTop.ampHours > 0 ? 'behind' : 'ahead'} when the others are full`
      : null;
  const bottom =
    shortAtBottom && shortAtBottom.ampHours > 0 ? `empty ${lagWords(shortAtBottom)} before them` : null;
  const falls =
    verdict === 'falls-behind' && fallsBehindAhADay !== null
      ? `a further ${ampHours(7 * fallsBehindAhADay)} each week`
      : null;
  const figures = [top, bottom, falls].filter((one) => one !== null);
  return `Cell ${cell} ${SENTENCES[verdict]}${figures.length > 0 ? `: ${figures.join(', ')}` : ''}.`;
}

/** What balancing comes to: how long it runs, from what voltage on, and what is to be bled. */
function balancingLines(cells: CellsOut, bms: System['bms']): string[] {
  const lines: string[] = [];
  const hours = cells.balancingHoursADay;
  if (bms?.balanceV !== undefined && hours !== null)
    lines.push(
      hours < 0.05
        ? `No cell stands above ${bms.balanceV.toFixed(2)} V while it is charged, where balancing begins: this BMS does not balance on these charges.`
        : `Balancing has ${hours.toFixed(1)} hours a day, with a cell above ${bms.balanceV.toFixed(2)} V.`,
    );
  const lags = cells.cells.flatMap(({ behindAtTop }) => (behindAtTop ? [behindAtTop] : []));
  const furthest = Math.max(0, ...lags.map((one) => one.ampHours));
  if (bms?.balanceA !== undefined && furthest > 0) {
    const left = furthest / bms.balanceA;
    lines.push(
      `${ampHours(furthest)} at ${(1000 * bms.balanceA).toFixed(0)} mA of bleeding is about ${Math.round(left)} hours above the balancing voltage${hours ? `, ${Math.ceil(left / hours)} days at this pace` : ''}.`,
    );
  }
  return lines;
}
