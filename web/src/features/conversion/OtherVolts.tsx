import { useState } from "react";
import { joinField } from "../../api/conversion";
import type { FieldConnection, VoltsAnswer } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { SetIt } from "../../ui/SetIt";
import { SeverityMark } from "../../ui/Severity";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";
import { Inputs, type PartProps } from "./common";
import { Terminals } from "./Terminals";

const MOTOR = [
  "motor.continuous_current_a",
  "motor.max_voltage_v",
  "motor.max_rpm",
  "motor.slots",
  "motor.poles",
];

/** The same torque at other volts, and the field's coils joined in another way. */
export function OtherVolts(props: PartProps) {
  const { bench, state, told } = props;
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[25rem_minmax(0,1fr)]">
      <div className="min-w-0">
        <h2 className="pb-1 text-[15px] font-semibold">What its maker says</h2>
        <Inputs label="What its maker says" bench={bench} state={state} paths={MOTOR} />
      </div>
      <div className="min-w-0">
        {told.volts ? (
          <Table answer={told.volts} />
        ) : (
          <p className="text-soft">
            It came with its inverter, which is made for its own volts: keep to them.
          </p>
        )}
        {told.has_field ? <Field {...props} /> : null}
        <Terminals />
      </div>
    </div>
  );
}

function Table({ answer }: { answer: VoltsAnswer }) {
  const value = useValue();
  return (
    <section aria-label="The same torque at other volts">
      <h2 className="text-[15px] font-semibold">The same torque at other volts</h2>
      <p className="pb-1 text-[13px] text-soft">{answer.say}</p>
      <table className="w-full max-w-3xl text-[13.5px] [&_td]:whitespace-nowrap [&_td]:pl-3 [&_td:last-child]:whitespace-normal">
        <thead className="text-left text-[12px] text-soft">
          <tr>
            <th className="py-1 font-normal">Pack</th>
            <th className="text-right font-normal">rpm</th>
            <th className="text-right font-normal">at the shaft</th>
            <th className="pl-6 font-normal">what it stands</th>
          </tr>
        </thead>
        <tbody>
          {answer.rows.map((row) => (
            <tr key={row.volts} className={`border-t border-line ${row.now ? "bg-raised" : ""}`}>
              <th className="py-1 text-left font-semibold">
                {value(row.volts, "V")}
                {row.now ? <small className="font-normal text-water"> now</small> : null}
              </th>
              <td className="figure text-right">
                {row.rpm === null ? "–" : Math.round(row.rpm).toLocaleString("en-GB")}
              </td>
              <td className="figure text-right">{value(row.shaft_w, "W")}</td>
              <td className="pl-6 text-[13px]">
                <SeverityMark severity={row.word} /> {row.say}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const NAMES: Record<FieldConnection, string> = {
  series: "in series",
  series_parallel: "in series-parallel",
  parallel: "in parallel",
};

interface Coils {
  coils: number;
  connection: FieldConnection;
  resistance_ohm: number;
}

function Field({ document, onSet }: PartProps) {
  const field = (document.motor as { field?: Coils | null }).field ?? null;
  const [coils, setCoils] = useState<number | null>(field?.coils ?? 4);
  const [connection, setConnection] = useState<FieldConnection>(field?.connection ?? "series");
  const [mohm, setMohm] = useState<number | null>(field ? 1000 * field.resistance_ohm : null);
  const ready = coils !== null && coils >= 1 && mohm !== null && mohm > 0;
  return (
    <section aria-label="Field coils" className="mt-6">
      <h2 className="text-[15px] font-semibold">Field coils</h2>
      <p className="max-w-3xl pb-1 text-[13px] text-soft">
        Open the end, count the coils, follow their leads, and measure the field’s ohms from end to
        end with the armature left out.
      </p>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <Ask label="Coils" unit="" value={coils} onValue={setCoils} />
        <label className="flex items-center gap-2 text-[13.5px]">
          joined
          <select
            value={connection}
            onChange={(event) => setConnection(event.target.value as FieldConnection)}
            className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          >
            {Object.entries(NAMES).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <Ask label="Field alone" unit="mohm" value={mohm} onValue={setMohm} />
        {ready ? (
          <SetIt
            label="the field as it is joined now"
            onClick={() =>
              onSet({
                "motor.field": {
                  coils: Math.round(coils),
                  connection,
                  resistance_ohm: mohm / 1000,
                },
              })
            }
          >
            Keep it
          </SetIt>
        ) : null}
      </div>
      {field ? (
        <ul className="mt-2">
          {(Object.keys(NAMES) as FieldConnection[])
            .filter((one) => one !== field.connection)
            .map((one) => (
              <Joined key={one} document={document} connection={one} onSet={onSet} />
            ))}
        </ul>
      ) : null}
    </section>
  );
}

function Joined({
  document,
  connection,
  onSet,
}: Pick<PartProps, "document" | "onSet"> & { connection: FieldConnection }) {
  const { data, error } = useAsked([document, connection, "field"], () =>
    joinField(document, connection),
  );
  return (
    <li className="flex flex-wrap items-center gap-x-4 border-t border-line py-1.5 text-[13px]">
      {data ? (
        <>
          <span className="min-w-0 flex-1 basis-80">{data.why}</span>
          <SetIt label={NAMES[connection]} onClick={() => onSet({ motor: data.motor })}>
            Join it so
          </SetIt>
        </>
      ) : (
        <Waiting error={error} what={`Joining it ${NAMES[connection]}`} />
      )}
    </li>
  );
}
