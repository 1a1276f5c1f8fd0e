/** One round: every reading at 25 °C, what it says of the cell, and which cells are low. */

import { interpolate, mean } from '../quantity/numbers';
import { requiredAirflow } from '../system/airflow';
import { GRAVITY_PERCENT, type GRAVITY_SCHOOLS, gravityAtReference } from '../system/gravity';
import type { Job, System } from '../system/schema';
import type { Reading, Round } from './round';

export type GravitySchool = keyof typeof GRAVITY_SCHOOLS;

export interface JudgedReading extends Reading {
  /** At the reference temperature of the school; as read where no temperature is known. */
  corrected: number;
  /** State of charge, %, by the maker's full gravity. */
  percent: number;
  /** Under the mean of the round, + is lower. */
  under: number;
  isLow: boolean;
}

export interface JudgedRound {
  round: Round;
  readings: JudgedReading[];
  mean: number;
  /** Highest less lowest. */
  spread: number;
  low: JudgedReading[];
  /** How far the figures can be leaned on, in words; empty where nothing weakens them. */
  weak: string[];
}

/** Cells this far apart ask for equalisation, and one this far under the mean is low (common practice, no source). */
export const APART = { spread: 0.03, low: 0.02 };
/** Gravity of a full cell where the maker's is not known (Battery Council International, from memory). */
export const FULL_GRAVITY = 1.265;

/** % of a cell whose full gravity is not that of the table: the table moves with it. */
export const percentOf = (corrected: number, full: number): number =>
  interpolate(GRAVITY_PERCENT, corrected - (full - FULL_GRAVITY));

/** @param full the maker's gravity of a full cell at 25 °C */
export function judgeRound(round: Round, school: GravitySchool, full = FULL_GRAVITY): JudgedRound {
  const at = (one: Reading): number => {
    const celsius = one.celsius ?? round.celsius;
    return round.compensates === true || celsius === undefined
      ? one.gravity
      : gravityAtReference(one.gravity, celsius, school);
  };
  const corrected = round.readings.map(at);
  const middle = mean(corrected);
  const readings = round.readings.map((one, k) => ({
    ...one,
    corrected: corrected[k]!,
    percent: percentOf(corrected[k]!, full),
    under: middle - corrected[k]!,
    isLow: middle - corrected[k]! >= APART.low - 1e-9,
  }));
  return {
    round,
    readings,
    mean: middle,
    spread: Math.max(...corrected) - Math.min(...corrected),
    low: readings.filter((one) => one.isLow),
    weak: weaknesses(round),
  };
}

/** All rounds of a system, by its school and its maker's full gravity, the oldest first. */
export const judgeRounds = (rounds: readonly Round[], { bank, schools }: System): JudgedRound[] =>
  [...rounds]
    .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0))
    .map((one) => judgeRound(one, schools?.gravity ?? 'ieee', bank.fullGravity ?? FULL_GRAVITY));

function weaknesses({
  afterFullCharge,
  celsius,
  takenOf,
  compensates,
  readings,
  wateredOn,
  on,
}: Round): string[] {
  const hasHeat = celsius !== undefined || readings.every((one) => one.celsius !== undefined);
  const weak: string[] = [];
  if (afterFullCharge === false)
    weak.push(
      'It was not taken after a full charge: it shows the state of charge, not the health of the cells.',
    );
  if (compensates !== true && !hasHeat)
    weak.push('No temperature was written down: the readings stand as they were read.');
  else if (compensates !== true && takenOf && takenOf !== 'electrolyte')
    weak.push(
      takenOf === 'case'
        ? 'The temperature was taken of the case: it follows the electrolyte by hours.'
        : 'The temperature was taken of the air: the electrolyte may be some degrees off, about 0.003 for each 5 °C.',
    );
  const days = wateredOn ? (Date.parse(on) - Date.parse(wateredOn)) / 86_400_000 : NaN;
  if (days >= 0 && days < 2)
    weak.push('Water was added shortly before: until it has mixed in a charge, the readings are too low.');
  return weak;
}

export interface EqualiseAdvice {
  isNeeded: boolean;
  text: string;
  /** What has to be settled before, as sentences. */
  gates: string[];
}

/** Whether to equalise after a round, and what stands before it. @param checks answers of the checklists */
export function equaliseAdvice(
  { spread, round }: JudgedRound,
  { bank, site }: Pick<System, 'bank' | 'site'>,
  checks: Job['checks'],
): EqualiseAdvice {
  const points = Math.round(spread * 1000);
  if (spread < APART.spread - 1e-9)
    return {
      isNeeded: false,
      text: `The cells stand within ${points} points of gravity: they need no equalisation.`,
      gates: [],
    };
  const gates: string[] = [];
  if (bank.chemistry !== 'flooded')
    gates.push('Only flooded cells are equalised; sealed ones never, unless the maker says so.');
  if (!bank.equalise)
    gates.push('The maker’s sheet has to ask for it: write down its voltage and time first.');
  if (round.afterFullCharge !== true)
    gates.push('Charge until full and take the round again the day after: what is not full is uneven.');
  if (checks?.electrolyte?.answer !== 'fine')
    gates.push('The electrolyte has to cover the plates in every cell: look first.');
  const { chemistry, cellsInSeries, capacityAh } = bank;
  const needed =
    chemistry && chemistry !== 'lfp' && cellsInSeries && capacityAh
      ? requiredAirflow(chemistry, cellsInSeries, capacityAh, 'boost')
      : NaN;
  if (!((site?.airflow ?? NaN) >= needed))
    gates.push(
      Number.isFinite(needed)
        ? `The room needs ${needed.toFixed(1)} m³/h of fresh air while it runs (IEC 62485-2)${site?.airflow === undefined ? '' : `; it has ${site.airflow.toFixed(1)}`}.`
        : 'The room needs fresh air while it runs.',
    );
  return {
    isNeeded: true,
    text: `The cells stand ${points} points of gravity apart: equalise${gates.length > 0 ? ' once this is settled' : ''}.`,
    gates,
  };
}
