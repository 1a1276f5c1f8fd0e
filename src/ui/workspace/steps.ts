/** The steps of a job in working order. Those without a view yet are done on paper. */

export const STEPS = [
  { id: 'take-in', name: 'Take in', open: true },
  { id: 'make-safe', name: 'Make safe', open: true },
  { id: 'on-site', name: 'On site', open: true },
  { id: 'wiring', name: 'Wiring', open: true },
  { id: 'settings', name: 'Settings', open: true },
  { id: 'logs', name: 'Logs', open: true },
  { id: 'charging', name: 'Charging', open: true },
  { id: 'counting', name: 'Counting', open: true },
  { id: 'cut-offs', name: 'Cut-offs', open: true },
  { id: 'cells', name: 'Cells', open: true },
  { id: 'weigh', name: 'Weigh', open: true },
  { id: 'correct', name: 'Correct', open: false },
  { id: 'verify', name: 'Verify', open: false },
  { id: 'report', name: 'Report', open: true },
] as const;

export type StepId = (typeof STEPS)[number]['id'];

/** Steps that describe the job and its system: they need no log. */
const DESCRIBE_STEPS = ['take-in', 'make-safe', 'wiring', 'settings'] as const;
export type DescribeStep = (typeof DESCRIBE_STEPS)[number];
/** Steps that read its logs. */
export type LogStep = 'logs' | 'charging' | 'counting' | 'cut-offs' | 'cells' | 'weigh';

export const isDescribeStep = (id: string): id is DescribeStep => DESCRIBE_STEPS.some((step) => step === id);
