/** The steps of a job in working order. Those without a view yet are done on paper. */

export const STEPS = [
  { id: 'take-in', name: 'Take in', open: true },
  { id: 'make-safe', name: 'Make safe', open: false },
  { id: 'wiring', name: 'Wiring', open: false },
  { id: 'settings', name: 'Settings', open: false },
  { id: 'logs', name: 'Logs', open: true },
  { id: 'charging', name: 'Charging', open: true },
  { id: 'counting', name: 'Counting', open: false },
  { id: 'cut-offs', name: 'Cut-offs', open: false },
  { id: 'cells', name: 'Cells', open: false },
  { id: 'weigh', name: 'Weigh', open: true },
  { id: 'correct', name: 'Correct', open: false },
  { id: 'verify', name: 'Verify', open: false },
  { id: 'report', name: 'Report', open: true },
] as const;

export type StepId = (typeof STEPS)[number]['id'];
export type OpenStep = Extract<(typeof STEPS)[number], { open: true }>['id'];

export const isOpenStep = (id: string): id is Exclude<OpenStep, 'report'> =>
  id !== 'report' && STEPS.some((step) => step.id === id && step.open);
