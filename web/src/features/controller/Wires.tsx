import { useState } from "react";
import { hall, wires } from "../../api/controller";
import type { BuildDocument, WiresAnswer } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";

/** The wires of a build: how many, what they lose, in which order, and a sensor off its place. */
export function Wires({ document }: { document: BuildDocument }) {
  const [packM, setPackM] = useState(0.3);
  const [motorM, setMotorM] = useState(0.3);
  const { data, error } = useAsked([document, packM, motorM, "wires"], () =>
    wires(document, packM, motorM),
  );
  return (
    <div className="min-w-0 text-[13px]">
      <section aria-label="Wires">
        <h2 className="text-[16px] font-semibold">Wires</h2>
        <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
          <Ask
            label="Pack leads, one way"
            unit="m"
            value={packM}
            onValue={(to) => setPackM(to ?? 0.3)}
          />
          <Ask label="Motor wires" unit="m" value={motorM} onValue={(to) => setMotorM(to ?? 0.3)} />
        </div>
        {data ? <Counted answer={data} /> : <Waiting error={error} what="Counting the wires" />}
      </section>
      {data && data.orders.length > 0 ? <Orders answer={data} /> : null}
    </div>
  );
}

/** What a sensor beside its place costs; of a motor with brushes there is none. */
export function Sensor({ document }: { document: BuildDocument }) {
  return document.motor.commutation === "brushed" ? null : <Hall poles={polesOf(document)} />;
}

const polesOf = (document: BuildDocument) =>
  ("poles" in document.motor ? document.motor.poles : null) ?? null;

function Counted({ answer }: { answer: WiresAnswer }) {
  const value = useValue();
  return (
    <>
      <ul className="flex flex-wrap gap-x-6 border-t border-line py-1">
        {answer.cables.map((one) => (
          <li key={one.what}>
            <b className="figure">{one.wires}</b>{" "}
            {one.what.startsWith("Hall") ? one.what : one.what.toLowerCase()}
            {one.of ? <span className="text-soft"> ({one.of})</span> : null}
          </li>
        ))}
      </ul>
      <table className="w-full">
        <thead className="text-left text-[12px] text-soft">
          <tr>
            <th className="py-1 font-normal">Lost in</th>
            <th className="font-normal">copper</th>
            <th className="text-right font-normal">amps</th>
            <th className="text-right font-normal">volts</th>
            <th className="text-right font-normal">watts</th>
          </tr>
        </thead>
        <tbody>
          {answer.losses.map((one) => (
            <tr key={`${one.id}${one.moment}`} className="border-t border-line">
              <th className="py-1 text-left font-normal">
                {one.id === "pack" ? "pack leads" : "motor wires"} {one.moment}
              </th>
              <td>
                {value(one.mm2, "mm2", 2)}
                {one.assumed ? <small className="text-soft"> taken for it</small> : null}
              </td>
              <td className="figure text-right">{value(one.current_a, "A", 2)}</td>
              <td className="figure text-right">{value(one.lost_v, "V", 2)}</td>
              <td className="figure text-right">{value(one.lost_w, "W", 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-1 text-soft">{answer.leads}</p>
      <p className="pt-1">Turns the wrong way? {answer.direction}</p>
      {answer.twins ? <p className="pt-1">{answer.twins}</p> : null}
    </>
  );
}

function Orders({ answer }: { answer: WiresAnswer }) {
  return (
    <section aria-label="Order of wires" className="mt-4">
      <h3 className="text-[15px] font-semibold">Three motor wires, six orders</h3>
      <p className="text-soft">
        The sensors keep theirs. Named by which motor wire goes to the controller's A, B and C.
      </p>
      <ul>
        {answer.orders.map((one) => (
          <li key={one.order} className="flex items-center gap-3 border-t border-line py-1">
            <b className="figure w-10">{one.order}</b>
            <svg width={84} height={12} role="img" aria-label={`torque ${one.torque_share}`}>
              <line x1={42} x2={42} y1={0} y2={12} className="stroke-line" />
              <rect
                x={one.torque_share < 0 ? 42 + one.torque_share * 40 : 42}
                y={2}
                width={Math.max(Math.abs(one.torque_share) * 40, 1)}
                height={8}
                className={one.torque_share === 1 ? "fill-water" : "fill-ember"}
              />
            </svg>
            <span className="flex-1">{one.does}</span>
          </li>
        ))}
      </ul>
      <h4 className="pt-2 font-semibold">To find the right one without burning anything</h4>
      <ol className="list-decimal pl-5">
        {answer.finding.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
    </section>
  );
}

function Hall({ poles }: { poles: number | null }) {
  const [off, setOff] = useState(5);
  const [count, setCount] = useState(poles ?? 14);
  const { data, error } = useAsked([off, count, "hall"], () => hall(off, count, true));
  const value = useValue();
  return (
    <section aria-label="Hall sensors" className="mb-5 text-[13px]">
      <h2 className="text-[16px] font-semibold">A sensor beside its place</h2>
      <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
        <Ask label="Off by" unit="deg" value={off} onValue={(to) => setOff(to ?? 0)} />
        <Ask
          label="of the rotor; its poles"
          unit=""
          value={count}
          onValue={(to) => setCount(Math.round(to ?? 14))}
        />
      </div>
      {data && !error ? (
        <p>
          {value(data.electrical_deg, "deg")} electrical: {value(data.torque_lost_pct, "%", 2)} of
          the torque is lost, and what is left swings by {value(data.ripple_pct, "%", 2)}.
        </p>
      ) : (
        <Waiting error={error} what="Working it out" />
      )}
    </section>
  );
}
