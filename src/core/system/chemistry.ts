/**
 * Chemistry tables per cell, and what voltage a bank should be held at. The figures are common practice in the trade with no
 * single published source; a maker's figure in the bank's description always goes before them.
 */

import type { Bank, Chemistry } from './schema';

/** What a voltage needs to know of a bank. */
type Cells = Pick<Bank, 'compensationMvPerCellPerC' | 'floatVolts'> &
  Required<Pick<Bank, 'chemistry' | 'cellsInSeries'>>;

export interface Range {
  min: number;
  max: number;
}

export interface ChemistryFigures {
  name: string;
  /** Cells in a 12 V block: the unit in which the trade quotes its voltages. */
  cellsPerBlock: number;
  /** V per cell at 25 °C while absorbing. */
  chargeV: Range;
  /** V per cell at 25 °C on float. */
  floatV: Range;
  /** mV per °C per cell, reference 25 °C. Negative: warm batteries want less. */
  compensation: Range;
  /** Current, % of capacity, at which a battery held at the charge voltage is full. */
  fullTailPercent: number;
  /** Current, % of capacity, at which absorption has plainly ended too early. */
  earlyTailPercent: number;
  /** Charge to be put back for each ampere-hour taken out. */
  returnFactor: Range;
}

const LEAD = {
  cellsPerBlock: 6,
  floatV: { min: 13.6 / 6, max: 13.8 / 6 },
  compensation: { min: -5, max: -3 },
  fullTailPercent: 2,
  earlyTailPercent: 4,
  returnFactor: { min: 1.03, max: 1.2 },
};

export const CHEMISTRY: Record<Chemistry, ChemistryFigures> = {
  flooded: { ...LEAD, name: 'flooded lead-acid', chargeV: { min: 14.2 / 6, max: 14.6 / 6 } },
  agm: { ...LEAD, name: 'AGM', chargeV: { min: 14.2 / 6, max: 14.6 / 6 } },
  gel: { ...LEAD, name: 'gel', chargeV: { min: 13.9 / 6, max: 14.3 / 6 } },
  lfp: {
    name: 'lithium iron phosphate',
    cellsPerBlock: 4,
    chargeV: { min: 14.2 / 4, max: 14.6 / 4 },
    floatV: { min: 13.2 / 4, max: 13.6 / 4 },
    compensation: { min: 0, max: 0 },
    fullTailPercent: 2,
    earlyTailPercent: 5,
    returnFactor: { min: 1.005, max: 1.05 },
  },
};

/** V a block that lithium stands at for hours only when it is full: below, a part of its charge may be gone (common practice, no source). */
export const FULL_LITHIUM_STANDS = 13.4;

/** A at which a battery held at its charge voltage is full. */
export const fullTailAmps = ({
  chemistry,
  capacityAh,
}: {
  chemistry: Chemistry;
  capacityAh: number;
}): number => (CHEMISTRY[chemistry].fullTailPercent / 100) * capacityAh;

export const isLead = (chemistry: Chemistry): boolean => chemistry !== 'lfp';

/** How many 12 V blocks the bank is in series: 1 at 12 V, 2 at 24 V, 4 at 48 V. Scales every voltage tolerance. */
export const blocksInSeries = (bank: Pick<Cells, 'chemistry' | 'cellsInSeries'>): number =>
  bank.cellsInSeries / CHEMISTRY[bank.chemistry].cellsPerBlock;

/** Below so many volts a bus has lost its battery, whatever a meter shows there: part of the nominal voltage. */
const DEAD = 0.4;
export const deadVolts = (bank: Pick<Cells, 'chemistry' | 'cellsInSeries'>): number =>
  DEAD * 12 * blocksInSeries(bank);

/** The bank's compensation, mV per °C per cell: the maker's, else the chemistry's. */
export const compensationOf = (bank: Pick<Cells, 'chemistry' | 'compensationMvPerCellPerC'>): Range =>
  bank.compensationMvPerCellPerC ?? CHEMISTRY[bank.chemistry].compensation;

/**
 * The voltage range in which the whole bank should be held at a temperature.
 * Takes the wider range that the span of allowed compensation gives, so that nobody is told off for a permitted setting.
 * @param celsius battery temperature; 25 °C is assumed when it is not known (NaN).
 */
export function expectedVolts(
  bank: Cells & Required<Pick<Bank, 'chargeVolts'>>,
  stage: 'absorption' | 'float',
  celsius: number,
): Range {
  const cells = bank.cellsInSeries;
  const figures = CHEMISTRY[bank.chemistry];
  const at25 =
    stage === 'absorption'
      ? bank.chargeVolts
      : (bank.floatVolts ?? { min: figures.floatV.min * cells, max: figures.floatV.max * cells });
  const away = celsius === celsius ? celsius - 25 : 0;
  const { min, max } = compensationOf(bank);
  const shifts = [(min * away * cells) / 1000, (max * away * cells) / 1000];
  return { min: at25.min + Math.min(...shifts), max: at25.max + Math.max(...shifts) };
}

/** V by which two halves of a bank may differ and still stand for each other (common practice, no source). @param blocks of 12 V in the bank */
export const halvesMayDiffer = (blocks: number): number => 0.1 * Math.max(1, blocks / 2) + 1e-9;
