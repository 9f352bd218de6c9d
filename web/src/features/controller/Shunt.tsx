import { useState } from "react";
import { shunt } from "../../api/controller";
import type { BuildDocument } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { Notice } from "../../ui/Notice";
import { SetIt } from "../../ui/SetIt";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";

interface Props {
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** A pack amps limit that was raised at the sense resistor: what it is now, and what dies first. */
export function Shunt({ document, onSet }: Props) {
  const value = useValue();
  const [limit, setLimit] = useState<number | null>(
    document.controller.battery_current_limit_a ?? null,
  );
  const [original, setOriginal] = useState<number | null>(null);
  const [added, setAdded] = useState<number | null>(null);
  const [length, setLength] = useState<number | null>(null);
  const [area, setArea] = useState<number | null>(null);
  const byCopper = added === null && length !== null && area !== null;
  const ready = limit !== null && original !== null && (added !== null || byCopper);
  const asked = {
    document,
    limit_a: limit ?? 1,
    original_mohm: original ?? 1,
    ...(byCopper ? { copper_mm: length, copper_mm2: area } : { parallel_mohm: added }),
  };
  const { data, error } = useAsked([asked, "shunt"], () => shunt(asked), ready);
  const stops = data?.verdicts.filter((one) => one.severity !== "ok") ?? [];
  return (
    <section aria-label="A limit raised by hand" className="min-w-0 text-[13px]">
      <h2 className="text-[16px] font-semibold">A limit raised by hand</h2>
      <p className="text-soft">
        Somebody laid copper or solder beside the sense resistor. What is the limit now, and what
        gives way first? It is not advised; it is told because it is done.
      </p>
      <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
        <Ask label="Limit before" unit="A" value={limit} onValue={setLimit} />
        <Ask label="Sense resistor" unit="mohm" value={original} onValue={setOriginal} />
      </div>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1">
        <Ask label="Beside it" unit="mohm" value={added} onValue={setAdded} />
        <span className="text-soft">or copper</span>
        <Ask label="long" unit="mm" value={length} onValue={setLength} />
        <Ask label="of" unit="mm2" value={area} onValue={setArea} />
      </div>
      {!ready ? null : !data || error ? (
        <Waiting error={error} what="Judging every part" />
      ) : (
        <>
          <p className="pt-1">
            The limit is now about <b className="figure">{value(data.new_limit_a, "A")}</b> (
            {value(data.limit_between_a[0], "A")} to {value(data.limit_between_a[1], "A")}, as it is
            soldered by hand): {data.factor.toFixed(2)} times as much.
          </p>
          <Notice tone="stop">
            A controller made to carry more than its maker allows can burn, and it no longer guards
            pack and motor. Fire, warranty, approval and insurance are yours.
          </Notice>
          <h3 className="pt-2 font-semibold">
            {stops.length > 0 ? "What gives way at that limit" : "No other limit is passed"}
          </h3>
          <ul>
            {stops.map((one) => (
              <li key={`${one.id}${one.title}`} className="border-t border-line py-1">
                <b className={one.severity === "stop" ? "text-stop" : "text-watch"}>
                  {one.severity === "stop" ? "Stop" : "Watch"}
                </b>{" "}
                {one.title}
              </li>
            ))}
          </ul>
          <h3 className="pt-2 font-semibold">What is lost</h3>
          <ul className="list-disc pl-5">
            {data.loses.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          <h3 className="pt-2 font-semibold">The better way</h3>
          <p className="flex flex-wrap items-center gap-3">
            <span className="flex-1">{data.better.say}</span>
            {Object.values(data.better.change).some((to) => to !== null) ? (
              <SetIt label="the better way" onClick={() => onSet(data.better.change)} />
            ) : null}
          </p>
        </>
      )}
    </section>
  );
}
