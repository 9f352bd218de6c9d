/** What holds a drive back, in words. */
export const LIMIT_WORDS: Record<string, string> = {
  voltage: "voltage sets it",
  motor_current: "motor amps limit sets it",
  battery_current: "pack amps limit sets it",
  traction: "grip sets it",
  cannot_move: "can't start",
  overrun: "runs faster than the motor drives",
};
