/** The views of the step on charging, and which of them is open. */

import { useView } from '@/ui/primitives/ViewTabs';

export const CHARGING_VIEWS = [
  { id: 'strips', name: 'Strips' },
  { id: 'charges', name: 'Charges' },
  { id: 'days', name: 'Days' },
  { id: 'sources', name: 'Sources' },
  { id: 'what-if', name: 'What if' },
] as const;

/** Which view is open, and a way to another. */
export const useChargingView = (jobId: string) => useView(`/jobs/${jobId}/charging`, CHARGING_VIEWS);
