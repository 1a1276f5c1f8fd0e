/**
 * Progress in whole per cents. Each report is a message that waits for its answer until the worker is done: thousands of them take longer than
 * the work.
 */
export function inSteps(report: (part: number) => void): (part: number) => void {
  let last = -1;
  return (part) => {
    const step = Math.floor(100 * part);
    if (step === last) return;
    last = step;
    report(part);
  };
}
