/** All rules of the settings review, in the order in which a technician reads them. A new rule is a new file and a line here. */

import { absorptionTime } from './absorption-time';
import { airflowRule } from './airflow';
import { alarmVoltage } from './alarm-voltage';
import { balancingStart } from './balancing-start';
import { bmsLimits } from './bms-limits';
import { chargeCurrent } from './charge-current';
import { chargeHours } from './charge-hours';
import { chargeVoltage } from './charge-voltage';
import { chargedVoltage } from './charged-voltage';
import { chargerSmall } from './charger-small';
import { chargerTail } from './charger-tail';
import { coldBlockLead } from './cold-block-lead';
import { coldLimits } from './cold-limits';
import { compensationRule } from './compensation';
import { loadCoverage, sourceCoverage } from './coverage';
import { cutoffOrder } from './cutoff-order';
import { cutoffVoltage } from './cutoff-voltage';
import { detectionTime } from './detection-time';
import { efficiencyRule } from './efficiency';
import { equaliseSchedule } from './equalise-schedule';
import { equaliseSettings } from './equalise-settings';
import { equaliseUnasked } from './equalise-unasked';
import { floatVoltage } from './float-voltage';
import { floorRule } from './floor';
import { halfBank } from './half-bank';
import { heldToSync } from './held-to-sync';
import { generatorPlan } from './generator-plan';
import { leadPreset } from './lead-preset';
import { linkedChargers } from './linked-chargers';
import { lithiumCompensation } from './lithium-compensation';
import { lithiumPreset } from './lithium-preset';
import { loadCable } from './load-cable';
import { monitorAlarms } from './monitor-alarms';
import { monitorCapacity } from './monitor-capacity';
import { monitorMethod } from './monitor-method';
import { monitorTailRule } from './monitor-tail';
import { percentageCutoff } from './percentage-cutoff';
import { peukertRule } from './peukert';
import { rebulkGap } from './rebulk-gap';
import { reconnectGap } from './reconnect-gap';
import { severalShunts } from './several-shunts';
import { siteTemperature } from './site-temperature';
import { sourceCable } from './source-cable';
import { sourcesTogether } from './sources-together';
import { startCurrent } from './start-current';
import { startPercentage } from './start-percentage';
import { batteryPost, halvesApart, hotJoint, senseLead, sensorDirection } from './walk';
import { zeroThreshold } from './zero-threshold';
import type { Rule } from '../rule';

export const RULES: readonly Rule[] = [
  chargeVoltage,
  siteTemperature,
  compensationRule,
  floatVoltage,
  equaliseUnasked,
  lithiumCompensation,
  lithiumPreset,
  leadPreset,
  absorptionTime,
  chargerTail,
  chargeCurrent,
  chargeHours,
  chargerSmall,
  sourcesTogether,
  linkedChargers,
  generatorPlan,
  rebulkGap,
  chargedVoltage,
  monitorTailRule,
  detectionTime,
  heldToSync,
  zeroThreshold,
  monitorCapacity,
  efficiencyRule,
  peukertRule,
  startPercentage,
  floorRule,
  monitorMethod,
  severalShunts,
  monitorAlarms,
  sourceCoverage,
  loadCoverage,
  halfBank,
  batteryPost,
  sensorDirection,
  senseLead,
  hotJoint,
  halvesApart,
  cutoffVoltage,
  alarmVoltage,
  cutoffOrder,
  reconnectGap,
  startCurrent,
  percentageCutoff,
  bmsLimits,
  balancingStart,
  coldLimits,
  coldBlockLead,
  equaliseSchedule,
  equaliseSettings,
  airflowRule,
  sourceCable,
  loadCable,
];
