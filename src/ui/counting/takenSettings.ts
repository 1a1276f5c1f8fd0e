/** Settings of a trial that differ from what the monitor is set to. */

import type { CounterSettings, SettingName } from '@/core/count/settings';
import type { System } from '@/core/system/schema';
import type { SettingRow } from '@/ui/primitives/TakeOver';

/** How the exponent works is the device's own way, no setting. */
const TAKEN: readonly Exclude<SettingName, 'peukertBelowRate'>[] = [
  'capacityAh',
  'chargedV',
  'tailPercent',
  'detectionMinutes',
  'efficiencyPercent',
  'peukert',
  'thresholdA',
];

export const takenSettings = ({ monitor }: System, settings: CounterSettings): SettingRow[] =>
  TAKEN.flatMap((name) => {
    const after = Number(settings[name].toFixed(3));
    const before = monitor?.[name] ?? null;
    return before === after ? [] : [{ path: `monitor.${name}`, before, after }];
  });
