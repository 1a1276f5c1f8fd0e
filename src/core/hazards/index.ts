/** Hazards in the logs. They are told whatever the complaint is, apart from causes. */

import { cellOverVoltage } from './cell-over-voltage';
import { deepDischarge } from './deep-discharge';
import { equaliseOnSealedOrLithium } from './equalise-on-sealed-or-lithium';
import type { Hazard, HazardRule, Scene } from './hazard';
import { hotJoint } from './hot-joint';
import { lithiumChargedBelowFreezing } from './lithium-charged-below-freezing';
import { overTemperature } from './over-temperature';
import { overVoltage } from './over-voltage';

const RULES: readonly HazardRule[] = [
  lithiumChargedBelowFreezing,
  equaliseOnSealedOrLithium,
  overVoltage,
  overTemperature,
  cellOverVoltage,
  deepDischarge,
  hotJoint,
];

export type { Hazard };

export const hazardsIn = (scene: Scene): Hazard[] => RULES.flatMap((rule) => rule(scene));
