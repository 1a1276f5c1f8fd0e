/** What is set of a charging: by its charger's profile, or by what all the chargers are set to that may be behind it. */

import type { Profile, Source } from '../system/schema';

/** What chargers that hold one voltage together may be set to alike. */
export type SetAlike = Pick<
  Profile,
  'absorptionV' | 'floatV' | 'compensationMvPerCellPerC' | 'absorptionMinutes'
>;

/** What all of several chargers across the bank are set to alike: whichever of them holds the voltage, it is that. */
export function setAlike(sources: readonly Pick<Source, 'profile' | 'across'>[]): SetAlike {
  const alike = (name: keyof SetAlike): number | undefined =>
    sources.every(
      ({ profile, across = 'bank' }) => across === 'bank' && profile[name] === sources[0]!.profile[name],
    )
      ? sources[0]?.profile[name]
      : undefined;
  return {
    absorptionV: alike('absorptionV'),
    floatV: alike('floatV'),
    compensationMvPerCellPerC: alike('compensationMvPerCellPerC'),
    absorptionMinutes: alike('absorptionMinutes'),
  };
}

/** What a charging is set to: its charger's profile, or what all chargers that may be behind it are set to. */
export const settingsOf = ({
  source,
  setAlike,
}: {
  source: Source | null;
  setAlike?: SetAlike | null;
}): SetAlike => source?.profile ?? setAlike ?? {};
