/** A voltage that a charger holds, and all of them with their names. */

import type { ReportedStage } from '../log/channels';

export interface Setpoint {
  /** V at 25 °C, whole bank. */
  volts: number;
  /** One standard deviation of the held voltage about it, V. */
  width: number;
  /** Hours that it was held. */
  hours: number;
  /** Different days on which it was held for at least ten minutes. */
  days: number;
  /** What the charger itself mostly called it; null when it says nothing. */
  called: ReportedStage | null;
  /** Seen only as the highest voltage of many days, not as a stretch. */
  ceiling?: true;
}

export interface Setpoints {
  absorption: Setpoint | null;
  float: Setpoint | null;
  equalise: Setpoint | null;
  /** Under float, where it keeps the battery after hours of that. */
  storage: Setpoint | null;
  /** V at 25 °C that it floats at: found, else told, else the least that anybody floats at. */
  floatVolts: number;
  /** All peaks, highest voltage first. */
  all: Setpoint[];
  /** Temperature slope that was used, V per °C for the whole bank. */
  voltsPerC: number;
  /** Battery temperatures seen, °C; null without a sensor. */
  celsius: { min: number; max: number } | null;
  /** Coldest that the battery was in the whole log, °C; null without a sensor. */
  coldest: number | null;
}
