/** All causes that are weighed, in the order of the catalogue. A new cause is a new file and a line here. */

import type { Cause } from './cause';
import { absorptionTooShort } from './absorption-too-short';
import { bulkEndReset } from './bulk-end-reset';
import { capacityLost } from './capacity-lost';
import { capacityWrong } from './capacity-wrong';
import { chargePathDrop } from './charge-path-drop';
import { chargeVoltageHigh } from './charge-voltage-high';
import { chargeVoltageLow } from './charge-voltage-low';
import { chargedVoltageUnreached } from './charged-voltage-unreached';
import { coldChargeBlock } from './cold-charge-block';
import { compensationMissing } from './compensation-missing';
import { compensationWrong } from './compensation-wrong';
import { currentOffset } from './current-offset';
import { currentScale } from './current-scale';
import { efficiencyWrong } from './efficiency-wrong';
import { equalisationOverdue } from './equalisation-overdue';
import { fakeFull } from './fake-full';
import { falseSync } from './false-sync';
import { floatUnsuited } from './float-unsuited';
import { fullTooRarely } from './full-too-rarely';
import { halfBank } from './half-bank';
import { loadNotCounted } from './load-not-counted';
import { loadPathDrop } from './load-path-drop';
import { loadThroughAbsorption } from './load-through-absorption';
import { monitorRestarted } from './monitor-restarted';
import { neverStarted } from './never-started';
import { peukertWrong } from './peukert-wrong';
import { prematureFloat } from './premature-float';
import { runnerStopsCharge } from './runner-stops-charge';
import { sensorReversed } from './sensor-reversed';
import { sourceDerated } from './source-derated';
import { sourceNotCounted } from './source-not-counted';
import { sourceTooSmall } from './source-too-small';
import { tailThresholdHigh } from './tail-threshold-high';
import { tailUnreached } from './tail-unreached';
import { voltageGuess } from './voltage-guess';

import { reallyEmpty } from './really-empty';
import { batteryResistance } from './battery-resistance';
import { cutoffSetHigh } from './cutoff-set-high';
import { weakCell } from './weak-cell';
import { cellImbalance } from './cell-imbalance';
import { coldBattery } from './cold-battery';
import { percentageCutoff } from './percentage-cutoff';
import { surgeTrip } from './surge-trip';
import { rateExpected } from './rate-expected';

export const CAUSES: readonly Cause[] = [
  chargeVoltageLow,
  chargeVoltageHigh,
  absorptionTooShort,
  tailThresholdHigh,
  sourceTooSmall,
  sourceDerated,
  prematureFloat,
  chargePathDrop,
  compensationMissing,
  compensationWrong,
  coldChargeBlock,
  floatUnsuited,
  equalisationOverdue,
  fakeFull,
  runnerStopsCharge,
  loadThroughAbsorption,
  chargedVoltageUnreached,
  tailUnreached,
  falseSync,
  capacityWrong,
  efficiencyWrong,
  peukertWrong,
  currentOffset,
  currentScale,
  sensorReversed,
  sourceNotCounted,
  loadNotCounted,
  monitorRestarted,
  voltageGuess,
  neverStarted,
  bulkEndReset,
  halfBank,
  fullTooRarely,
  reallyEmpty,
  capacityLost,
  batteryResistance,
  loadPathDrop,
  cutoffSetHigh,
  weakCell,
  cellImbalance,
  coldBattery,
  percentageCutoff,
  surgeTrip,
  rateExpected,
];
