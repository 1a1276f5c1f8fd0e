/** Stands where a part of the page is still on its way: without it the whole page would give way to it, and the focus be lost. */
export const Waiting = () => (
  <p role="status" className="text-ink-soft text-sm">
    Loading …
  </p>
);
