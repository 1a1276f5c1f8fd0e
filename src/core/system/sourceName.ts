/** How a source is called where only its id is at hand. */

import type { System } from './schema';

export const sourceName = ({ sources }: Pick<System, 'sources'>, id: string | null): string =>
  sources.find((one) => one.id === id)?.name ?? 'Source not known';

/** Name of a source, a load or one of several batteries by its id. */
export const deviceName = (system: System, id: string): string =>
  [...system.loads, ...(system.batteries ?? [])].find((one) => one.id === id)?.name ?? sourceName(system, id);
