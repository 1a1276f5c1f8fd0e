/** Files that were dropped on one page and are opened on the next: a page cannot carry them in its address. */

let left: readonly File[] = [];

export const leaveFiles = (files: readonly File[]): void => void (left = files);
export const leftFiles = (): readonly File[] => left;
