/** What the stops of a round are called. */

import type { System } from '../system/schema';
import type { StopId } from './visit';

const STOP_NAMES: Record<StopId, string> = {
  displays: 'Displays',
  memory: 'The monitor’s memory',
  photos: 'Photos',
  proof: 'Proof of coverage',
  ratings: 'Ratings chain',
  shunt: 'Fit or move the shunt',
  'split-bank': 'Split bank',
  drives: 'What a percentage drives',
  reading: 'Set the reading right',
  equalise: 'Equalise',
  acceptance: 'Accept the change',
  sign: 'Sign',
};

export const stopName = (stop: StopId, { monitor }: System): string =>
  stop === 'shunt' && monitor?.method === 'hall' ? 'Fit or move the sensor' : STOP_NAMES[stop];
