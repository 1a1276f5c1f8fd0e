/** What a monitor on 100 Ah of lead is usually set to: tests change what they are about. */

import type { CounterSettings } from '@/core/count/settings';

export const LEAD_SETTINGS: CounterSettings = {
  capacityAh: 100,
  chargedV: 14.2,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 85,
  peukert: 1.25,
  thresholdA: 0,
  peukertBelowRate: false,
};
