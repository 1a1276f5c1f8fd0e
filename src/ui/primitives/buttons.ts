/** How buttons look: the usual one, and the one that does what the view is for. */

export const buttonClass =
  'border-rule-strong bg-paper hover:bg-accent-soft border px-2.5 py-1 text-sm disabled:opacity-60';
export const mainButtonClass = 'bg-accent text-on-accent px-3 py-1.5 font-semibold disabled:opacity-60';
