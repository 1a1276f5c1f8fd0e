/** Where a page of jobs ends: the moment at which its last job was opened, µs since 1970, and the job's id. */
export const CURSOR = /^(\d{1,18})\.([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})$/;
