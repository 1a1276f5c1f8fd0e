/** What a monitor on 100 Ah of lead is usually set to, as it counts and as it is described: tests change what they are about. */

import type { CounterSettings } from '@/core/count/settings';
import type { KnownMonitor } from '@/core/system/known';

const LEAD = {
  capacityAh: 100,
  chargedV: 14.2,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 85,
  peukert: 1.25,
};

export const LEAD_SETTINGS: CounterSettings = { ...LEAD, thresholdA: 0, peukertBelowRate: false };
export const LEAD_MONITOR: KnownMonitor = { method: 'shunt', ...LEAD, floorPercent: 50 };
