/** Does one thing at a time; of what is asked meanwhile, only the newest is done. @param work must not reject */
export function newestOnly<T>(work: (value: T) => Promise<unknown>): (value: T) => void {
  let busy = false;
  let waiting: { value: T } | null = null;
  const next = (): void => {
    if (busy || !waiting) return;
    const { value } = waiting;
    waiting = null;
    busy = true;
    void work(value).finally(() => {
      busy = false;
      next();
    });
  };
  return (value) => {
    waiting = { value };
    next();
  };
}
