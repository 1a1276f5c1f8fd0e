/** Today by the clock of this device, as a date field has it. */
export const today = (): string => new Date().toLocaleDateString('sv');
