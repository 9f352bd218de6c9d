import { useId, useState } from "react";
import { Button } from "../../ui/Button";
import { SetIt } from "../../ui/SetIt";
import { typed } from "../../units/format";
import { useValue } from "../../units/useValue";
import { Inputs, type PartProps } from "./common";

interface Auxiliary {
  name: string;
  power_w: number;
  driven_by: "tail_shaft" | "belt" | "dc_dc";
}

const DRIVEN: Record<Auxiliary["driven_by"], string> = {
  dc_dc: "the DC-DC converter",
  tail_shaft: "the motor’s second shaft end",
  belt: "a belt from the motor",
};

/** What takes watts beside the drive, at every moment; and what all of it costs. */
export function Along(props: PartProps) {
  return (
    <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
      <div className="min-w-0">
        <RunsAlong {...props} />
        <section aria-label="Over the years" className="mt-6">
          <h2 className="text-[15px] font-semibold">Over the years</h2>
          <ul>
            {props.told.upkeep.map((say) => (
              <li key={say} className="border-t border-line py-1.5 text-[13px]">
                {say}
              </li>
            ))}
          </ul>
        </section>
      </div>
      <Price {...props} />
    </div>
  );
}

function RunsAlong({ document, told, onSet, bench, state }: PartProps) {
  const value = useValue();
  const all = (document.auxiliaries ?? []) as Auxiliary[];
  const put = (next: Auxiliary[]) => onSet({ auxiliaries: next.length ? next : null });
  return (
    <section aria-label="What runs along">
      <h2 className="text-[15px] font-semibold">What runs along</h2>
      <p className="pb-1 text-[13px] text-soft">
        Brake vacuum, steering, a hydraulic pump, lamps: their watts count at every moment on the
        bench, in range and in heat.
      </p>
      <ul>
        {all.map((one, place) => (
          <li
            // The same thing may run along twice.
            key={place}
            className="flex items-center gap-3 border-t border-line py-1 text-[13.5px]"
          >
            <b className="min-w-0 flex-1">{one.name}</b>
            <span className="figure">{value(one.power_w, "W")}</span>
            <span className="min-w-0 flex-1 text-soft">{DRIVEN[one.driven_by]}</span>
            <Button
              aria-label={`Take ${one.name} out`}
              onClick={() => put(all.filter((_, other) => other !== place))}
            >
              Out
            </Button>
          </li>
        ))}
      </ul>
      <Add onAdd={(one) => put([...all, one])} />
      {told.along ? <p className="py-2 text-[13px]">{told.along.say}</p> : null}
      <Inputs label="The converter" bench={bench} state={state} paths={["battery.dc_dc_w"]} />
    </section>
  );
}

function Add({ onAdd }: { onAdd: (one: Auxiliary) => void }) {
  const [name, setName] = useState("");
  const [watts, setWatts] = useState("");
  const [driven, setDriven] = useState<Auxiliary["driven_by"]>("dc_dc");
  const [id, wattsId, drivenId] = [useId(), useId(), useId()];
  const power = typed(watts);
  const box = "min-h-11 rounded-md border border-line bg-raised px-2 text-[14px] sm:min-h-8";
  return (
    <form
      className="flex flex-wrap items-end gap-2 border-t border-line py-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim() || power === null || power < 0) return;
        onAdd({ name: name.trim(), power_w: power, driven_by: driven });
        setName("");
        setWatts("");
      }}
    >
      <label htmlFor={id} className="flex min-w-32 flex-1 flex-col">
        What
        <input id={id} className={box} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label htmlFor={wattsId} className="flex w-20 flex-col">
        watts
        <input
          id={wattsId}
          className={box}
          inputMode="decimal"
          value={watts}
          onChange={(e) => setWatts(e.target.value)}
        />
      </label>
      <label htmlFor={drivenId} className="flex flex-col">
        driven by
        <select
          id={drivenId}
          className={box}
          value={driven}
          onChange={(e) => setDriven(e.target.value as Auxiliary["driven_by"])}
        >
          {Object.entries(DRIVEN).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" disabled={!name.trim() || power === null || power < 0}>
        Add it
      </Button>
    </form>
  );
}

function Price({ bench, state, told, onSet }: PartProps) {
  const { price } = told;
  const open = new Set(price.items.filter((item) => item.price === null).map((item) => item.path));
  const offers = told.offers.filter((one) => open.has(one.path));
  return (
    <section aria-label="What all of it costs">
      <h2 className="text-[15px] font-semibold">What all of it costs</h2>
      <p className="pb-2 text-[15px]">
        <b className="figure">{price.told.toLocaleString("en-GB")}</b>{" "}
        <span className={price.complete ? "text-fine" : "text-watch"}>{price.say}</span>
      </p>
      <Inputs
        label="Prices"
        bench={bench}
        state={state}
        paths={price.items.map((item) => item.path)}
      />
      {offers.length ? (
        <>
          <h3 className="pt-4 text-[14px] font-semibold">The cheapest on the shelf that fits</h3>
          <ul>
            {offers.map((one) => (
              <li
                key={one.id}
                className="flex flex-wrap items-center gap-x-3 border-t border-line py-1 text-[13px]"
              >
                <span className="min-w-0 flex-1 basis-60">
                  <b>{one.name}</b> <span className="text-soft">{one.why}</span>
                </span>
                <span className="figure">{one.price.toLocaleString("en-GB")}</span>
                <SetIt label={one.name} onClick={() => onSet({ [one.path]: one.price })}>
                  Take its price
                </SetIt>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}
