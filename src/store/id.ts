/** Ids of rows: whatever comes from outside is asked before it meets a column of UUIDs. */

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
export const isId = (text: string): boolean => UUID.test(text);
