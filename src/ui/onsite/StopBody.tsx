/** What stands at each stop. */

import type { StopId } from '@/core/onsite/visit';
import { AcceptanceStop } from './stops/AcceptanceStop';
import { DisplaysStop } from './stops/DisplaysStop';
import { DrivesStop } from './stops/DrivesStop';
import { EqualiseStop } from './stops/EqualiseStop';
import { MemoryStop } from './stops/MemoryStop';
import { PhotosStop } from './stops/PhotosStop';
import { ProofStop } from './stops/ProofStop';
import { RatingsStop } from './stops/RatingsStop';
import { ReadingStop } from './stops/ReadingStop';
import { ShuntStop } from './stops/ShuntStop';
import { SignStop } from './stops/SignStop';
import { SplitStop } from './stops/SplitStop';
import type { PhotoQueue } from './usePhotoQueue';

const BODIES: Record<Exclude<StopId, 'photos'>, () => React.ReactNode> = {
  displays: DisplaysStop,
  memory: MemoryStop,
  proof: ProofStop,
  ratings: RatingsStop,
  shunt: ShuntStop,
  'split-bank': SplitStop,
  drives: DrivesStop,
  reading: ReadingStop,
  equalise: EqualiseStop,
  acceptance: AcceptanceStop,
  sign: SignStop,
};

export function StopBody({ stop, photos }: { stop: StopId; photos: PhotoQueue }) {
  if (stop === 'photos') return <PhotosStop photos={photos} />;
  const Body = BODIES[stop];
  return <Body />;
}
