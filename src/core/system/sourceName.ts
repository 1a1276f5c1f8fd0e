/** How a source is called where only its id is at hand. */

import type { System } from './schema';

export const sourceName = ({ sources }: Pick<System, 'sources'>, id: string | null): string =>
  sources.find((one) => one.id === id)?.name ?? 'Source not known';

/** Name of a source or a load by its id. */
export const deviceName = (system: System, id: string): string =>
  system.loads.find((one) => one.id === id)?.name ?? sourceName(system, id);
