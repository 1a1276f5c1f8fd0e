/** The states in which a charger can be, and what it costs to go from one to another: the usual order of a charge is cheap, leaps are dear. */

import type { StageName } from './types';

/**
 * A dip is a moment in which the supply falls short while the charger is in that stage (a cloud, a heavy load): it goes on where it
 * was. `sinking` is a charger that waits, giving nothing, until the voltage has come down to float. `climbing` is an equalisation that
 * has not reached its voltage yet. `storage` is the voltage under float at which some chargers keep a battery after hours of float.
 */
export const STATES = [
  'off',
  'bulk',
  'absorption',
  'absorptionDip',
  'float',
  'floatDip',
  'storage',
  'sinking',
  'climbing',
  'equalise',
  'hold',
] as const;
export type State = (typeof STATES)[number];

/** Number of each state. */
export const AT = Object.fromEntries(STATES.map((one, i) => [one, i])) as Record<State, number>;

/** What the trade calls a charger in each state; a dip belongs to the stage before it, where that goes on. */
export const STAGE_OF: Record<State, StageName> = {
  off: 'off',
  bulk: 'bulk',
  absorption: 'absorption',
  absorptionDip: 'absorption',
  float: 'float',
  floatDip: 'float',
  storage: 'float',
  sinking: 'float',
  climbing: 'equalise',
  equalise: 'equalise',
  hold: 'hold',
};

export const DIP_OF: Partial<Record<State, State>> = { absorptionDip: 'absorption', floatDip: 'float' };

/** Cost in nats of leaving one state for another; what is not named does not happen. */
const COSTS: Record<State, Partial<Record<State, number>>> = {
  off: { bulk: 2, absorption: 5, float: 6, hold: 3 },
  bulk: { off: 2.5, absorption: 2, float: 12, hold: 3 },
  absorption: {
    off: 3,
    bulk: 4,
    absorptionDip: 1.5,
    float: 2.5,
    sinking: 2,
    climbing: 6,
    equalise: 7,
    hold: 2.5,
  },
  absorptionDip: { off: 2.5, bulk: 3, absorption: 1, float: 5, hold: 4 },
  float: {
    off: 3,
    bulk: 5,
    absorption: 7,
    floatDip: 1.5,
    storage: 3,
    sinking: 2,
    climbing: 5,
    equalise: 6,
    hold: 3,
  },
  floatDip: { off: 2.5, bulk: 4, absorption: 6, float: 1, storage: 2, hold: 4 },
  storage: { off: 3, bulk: 4, absorption: 7, float: 5, hold: 3 },
  sinking: { off: 6, bulk: 7, absorption: 7, float: 0.5, floatDip: 1.5, storage: 2, hold: 3 },
  climbing: { off: 3, bulk: 4, absorption: 4, float: 3, equalise: 1, sinking: 3 },
  equalise: { off: 3, bulk: 4, absorption: 5, float: 3, climbing: 2, sinking: 2 },
  hold: { off: 2, bulk: 2.5, absorption: 4, float: 3, sinking: 3 },
};

/** The same by numbers of states; staying costs nothing. */
export const COST_TABLE: readonly (readonly number[])[] = STATES.map((from) =>
  STATES.map((to) => (from === to ? 0 : (COSTS[from][to] ?? Infinity))),
);
