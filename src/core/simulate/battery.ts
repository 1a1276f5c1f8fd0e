/** What a site asks of a battery, whatever its chemistry. */

export interface Battery {
  state: {
    celsius: number;
    /** What its BMS lets through; absent where there is none. */
    chargeAllowed?: boolean;
    dischargeAllowed?: boolean;
  };
  /** True state of charge, 0 to 1. */
  charge(): number;
  /** A into the battery at a voltage of the bus. Rises with voltage. */
  ampsAt(volts: number): number;
  /** Voltage of the bus at a current into the battery; 0 where the battery is switched off. */
  voltsAt(amps: number): number;
  /** Moves on by `seconds` at a voltage and current. @param ambient °C */
  step(seconds: number, volts: number, amps: number, ambient: number): void;
  /** Of each cell, and of all of them behind the BMS; absent where cells are not simulated. */
  cellVolts?(amps: number): number[];
  packVolts?(amps: number): number;
}
