import { useState } from "react";
import { gearModule, planetary } from "../../api/gearing";
import { digits } from "../../units/format";
import { Ask, SetIt, useAsked, type ViewProps, Waiting } from "./common";

/** The ratio of a planetary gear from its teeth, and teeth to the inch as a module. */
export function GearTeeth({ document, onSet }: ViewProps) {
  const [sun, setSun] = useState<number | null>(null);
  const [ring, setRing] = useState<number | null>(null);
  const [planets, setPlanets] = useState<number | null>(3);
  const [pitch, setPitch] = useState<number | null>(null);
  const counted = sun !== null && ring !== null && planets !== null;
  const gear = useAsked(
    ["planetary", sun, ring, planets],
    () => planetary(Math.round(sun ?? 0), Math.round(ring ?? 0), Math.round(planets ?? 0)),
    counted,
  );
  const inches = useAsked(["module", pitch], () => gearModule(pitch ?? 0), pitch !== null);
  const stages = document.gearing.map((stage, index) => ({ stage, index }));
  const fixed = stages.filter(({ stage }) => stage.kind === "planetary" || stage.kind === "fixed");
  const spur = stages.filter(({ stage }) => stage.kind === "spur");
  return (
    <section className="mt-6 grid gap-x-8 gap-y-4 border-t border-line pt-3 lg:grid-cols-2">
      <div>
        <h2 className="text-[15px] font-semibold">A planetary gear by its teeth</h2>
        <p className="text-[12.5px] text-soft">
          Driven at the sun, ring held, the carrier drives. Count the ring inside.
        </p>
        <div className="flex flex-wrap gap-x-4 gap-y-1 py-1.5">
          <Ask label="Sun" unit="teeth" value={sun} onValue={setSun} />
          <Ask label="Ring" unit="teeth" value={ring} onValue={setRing} />
          <Ask label="Planets" unit="" value={planets} onValue={setPlanets} />
        </div>
        {counted && gear.error ? <Waiting error={gear.error} what="" /> : null}
        {counted && gear.data && !gear.error ? (
          <p role="status" className={`text-[13.5px] ${gear.data.fits ? "" : "text-watch"}`}>
            {gear.data.say}{" "}
            {fixed.map(({ index }) => (
              <SetIt
                key={index}
                label={`stage ${index + 1} to ${digits(gear.data?.ratio ?? 1, 4)} to 1`}
                onClick={() => onSet({ [`gearing.${index}.ratio`]: gear.data?.ratio })}
              >
                {`Set stage ${index + 1}`}
              </SetIt>
            ))}
          </p>
        ) : null}
      </div>
      <div>
        <h2 className="text-[15px] font-semibold">Teeth counted by the inch</h2>
        <p className="text-[12.5px] text-soft">
          Gears mesh only with the same module; drawings in inches give a diametral pitch instead.
        </p>
        <div className="py-1.5">
          <Ask label="Diametral pitch" unit="" value={pitch} onValue={setPitch} />
        </div>
        {pitch !== null && inches.error ? <Waiting error={inches.error} what="" /> : null}
        {pitch !== null && inches.data && !inches.error ? (
          <p role="status" className="text-[13.5px]">
            Module {digits(inches.data.module_mm, 4)} mm.{" "}
            {spur.map(({ index }) => (
              <SetIt
                key={index}
                label={`stage ${index + 1} to module ${inches.data?.module_mm}`}
                onClick={() => onSet({ [`gearing.${index}.module_mm`]: inches.data?.module_mm })}
              >
                {`Set stage ${index + 1}`}
              </SetIt>
            ))}
          </p>
        ) : null}
      </div>
    </section>
  );
}
