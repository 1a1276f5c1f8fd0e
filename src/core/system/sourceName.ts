/** How a source is called where only its id is at hand. */

import type { System } from './schema';

export const sourceName = ({ sources }: Pick<System, 'sources'>, id: string | null): string =>
  sources.find((one) => one.id === id)?.name ?? 'Source not known';
