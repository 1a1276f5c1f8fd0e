/** What can keep a log from being believed, and what a check of it sees. */

import type { Span } from '../../quantity/span';
import type { KnownBank } from '../../system/known';
import { devicesOf, type System } from '../../system/schema';
import type { Aligned } from '../align';
import type { TrustCode } from './codes';

export interface TrustNote {
  code: TrustCode;
  /** Devices whose logs it is about. */
  devices: string[];
  text: string;
  spans: Span[];
  /** For a clock that is off: what to add to the times of the device's logs to set it right. */
  clock?: { device: string; offsetSeconds: number; secondsPerDay: number };
}

export interface TrustInput {
  timeline: Aligned;
  system: System;
  /** Null while a basic of the bank is not known. */
  bank: KnownBank | null;
}

/** How a device is called in a sentence. */
export function deviceName(system: System, id: string): string {
  if (id === 'monitor') return 'the monitor';
  if (id === 'bms') return 'the BMS';
  return devicesOf(system).find((one) => one.id === id)?.name ?? id;
}
