/** What a site of the sweep comes to: which findings were shown, and how stages, figures, charge and cut-offs compare with what is true. */

import type { SyncVerdict } from '@/core/count/types';
import type { Standing } from '@/core/diagnosis/weigh';
import { FAULTS } from '@/core/simulate/faults';
import type { Fault } from '@/core/simulate/faults/fault';
import type { Cuts } from './sweepCuts';

export const HEALTHY = 'nothing wrong';
/** Two faults on one site: a case that has to be asked for. */
export const PAIRS = 'pairs';
export const AND = ' + ';
/** What is true of a site with faults: the faults themselves, and what they cannot be without. */
export const isTrue = (code: string, cause: string): boolean =>
  code
    .split(AND)
    .some(
      (name) =>
        name === cause ||
        ((FAULTS as readonly Fault[]).find((one) => one.code === name)?.also ?? []).some(
          (one) => one === cause,
        ),
    );

export interface Task {
  code: string;
  number: number;
}

export interface Shares {
  agreed: number;
  strictly: number;
  /** Of a source with a log of its own; else it is seen through the monitor, which shows nothing of it while loads take all it gives. */
  own: boolean;
}

/** What was measured of a source over what is true of it. */
export interface Measured {
  /** Resistance of the path, in parts of the true one, where it costs a tenth of a volt a 12 V block. */
  ohms: number | null;
  /** Compensation less the true one, mV per °C and cell, where the temperature moved by 8 °C. */
  slope: number | null;
}

/** Minutes that an absorption was short of: as the log tells, and as they came to be when the same site was left to absorb on. */
export interface Short {
  told: number;
  were: number;
  /** Length of the absorption that tells it, minutes. */
  absorbed: number;
}

/** How far the true charge that is found may be off, points. */
export const AIM = { lead: 5, lithium: 6 };

/** How counting fared: of the hours of the true charge how many lie in its band, how far off it is, syncs judged as they were, figures. */
export interface Counted {
  hours: number;
  within: number;
  /** Hours at which it is no further off than the aim, {@link AIM}, and how far off it is for nine tenths of the time, points. */
  near: number;
  most: number;
  /** Each sync as it was judged, and the charge that the battery truly held then, %. */
  syncs: { judged: SyncVerdict; truly: number }[];
  /** Capacity found over the true one, and its band over itself. */
  capacity: number;
  capacityBand: number;
}

export interface Outcome extends Task {
  findings: { cause: string; standing: Standing; decibans: number }[];
  /** Share of the minutes of each source that agree, without its own word and with it. */
  without: Shares[];
  with: Shares[];
  measured: Measured[];
  short: Short | null;
  counted: Counted | null;
  cuts: Cuts;
  /** Highest true state of charge of a usual day, %: how badly the site fared. */
  best: number;
  about: string;
}
