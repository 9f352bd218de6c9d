import type { ImpliedFigures } from "../../api/types";
import { useValue } from "../../units/useValue";

/** What a speed says by itself, where nothing else was logged. */
export function Implied({ said }: { said: ImpliedFigures }) {
  const value = useValue();
  const { motor_current_a: amps, load_factor: factor, kv_rpm_per_v: kv } = said;
  return (
    <p className="pt-1 text-[12.5px] text-soft">
      At {value(said.speed_kmh, "km/h", 3)} the motor turns{" "}
      <b className="text-ink">{value(said.motor_rpm, "rpm", 4)}</b>, the wheel{" "}
      {value(said.wheel_rpm, "rpm", 3)}
      {amps == null
        ? ""
        : `; by what is known of the drag it takes ${value(amps, "A", 2)} of each motor`}
      {factor == null
        ? ""
        : `; the load factor of the trade's formula is then ${factor.toFixed(2)}`}
      {kv == null ? "" : `. If all else is as it is taken, its KV is ${value(kv, "rpm/V", 3)}`}.
    </p>
  );
}
