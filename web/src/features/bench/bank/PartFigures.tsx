import type { Answer, BuildDocument, MomentAnswer, PartId, StateAnswer } from "../../../api/types";
import { Term } from "../../../ui/Term";
import { deserved, difference, digits, rounded } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { Figure } from "./Figure";

interface Props {
  part: PartId;
  answer: Answer;
  moment: MomentAnswer;
  pinned: StateAnswer | null;
  document: BuildDocument;
}

/** What a practitioner watches at each part. */
export function PartFigures({ part, answer, moment, pinned, document }: Props) {
  const { show, delta } = useUnits();
  const { state, bands } = moment;
  const plain = (key: keyof StateAnswer, significant = 3): string | null =>
    pinned ? difference(Number(state[key]), Number(pinned[key]), undefined, significant) : null;
  switch (part) {
    case "pack":
      return (
        <>
          <Figure
            value={digits(state.battery_voltage_v)}
            sign="V"
            band={bands.battery_voltage_v}
            delta={plain("battery_voltage_v")}
            words={`rests at ${digits(answer.pack_rest_v)}`}
          />
          <Figure
            value={rounded(
              state.battery_current_a,
              deserved(state.battery_current_a, bands.battery_current_a),
            )}
            sign="A"
            band={bands.battery_current_a}
            delta={plain("battery_current_a")}
            words={<Term id="pack_current">pack amps</Term>}
          />
        </>
      );
    case "controller":
      return (
        <>
          <Figure
            value={digits(state.duty * 100)}
            sign="%"
            band={bands.duty}
            delta={pinned ? difference(state.duty * 100, pinned.duty * 100) : null}
            words={<Term id="duty">duty</Term>}
          />
          <Figure
            value={digits(answer.pack_full_v)}
            sign="V"
            words={
              document.controller.max_voltage_v
                ? `full, of ${digits(document.controller.max_voltage_v)}`
                : "full pack"
            }
          />
        </>
      );
    case "motor":
      return (
        <>
          <Figure
            value={rounded(state.motor_rpm, deserved(state.motor_rpm, bands.motor_rpm, 4))}
            sign="rpm"
            band={bands.motor_rpm}
            delta={plain("motor_rpm")}
            words={document.motor.max_rpm ? `of ${digits(document.motor.max_rpm, 4)}` : ""}
          />
          <Figure
            value={rounded(
              state.motor_current_a,
              deserved(state.motor_current_a, bands.motor_current_a),
            )}
            sign="A"
            band={bands.motor_current_a}
            delta={plain("motor_current_a")}
            words={
              <Term id="motor_current">
                {(document.motor.count ?? 1) > 1 ? "motor amps, each" : "motor amps"}
              </Term>
            }
          />
        </>
      );
    case "gearing":
      return (
        <Figure
          value={digits(
            moment.state.speed_mps > 0
              ? moment.state.motor_rpm / moment.state.wheel_rpm
              : answer.ratio,
          )}
          sign=" : 1"
          words={`${document.gearing.some((stage) => stage.kind === "gearbox") ? `gear ${moment.gear}, ` : ""}${digits(answer.train_efficiency * 100)} %, ${show(state.wheel_torque_nm, "torque").text} ${show(0, "torque").sign} out`}
        />
      );
    case "wheel":
      return (
        <>
          <Figure
            value={rounded(state.wheel_rpm, deserved(state.wheel_rpm, bands.wheel_rpm))}
            sign="rpm"
            band={bands.wheel_rpm}
            delta={plain("wheel_rpm")}
          />
          <Figure
            value={show(state.force_n, "force").text}
            sign={show(0, "force").sign}
            band={bands.force_n}
            delta={pinned ? delta(state.force_n, pinned.force_n, "force") : null}
            words={
              document.propeller ? <Term id="thrust">thrust</Term> : <Term id="push">push</Term>
            }
          />
        </>
      );
    case "vehicle":
      return (
        <>
          <Figure
            large
            value={show(state.speed_mps, "speed").text}
            sign={show(0, "speed").sign}
            band={bands.speed_mps}
            delta={pinned ? delta(state.speed_mps, pinned.speed_mps, "speed") : null}
          />
          <p className="text-[12px] text-soft">
            {state.efficiency !== null && state.efficiency > 0
              ? `${digits(state.efficiency * 100)} % of the pack's watts ${document.propeller ? "become thrust" : `reach the ${answer.load.end}`}`
              : state.road_w < 0
                ? `the ${answer.load.end} drives the motor`
                : document.propeller && state.road_w > 0
                  ? "standing, all of it stirs air"
                  : `nothing reaches the ${answer.load.end}`}
          </p>
        </>
      );
  }
}
