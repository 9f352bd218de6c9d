import { useState } from "react";
import { split } from "../../api/gearing";
import { digits } from "../../units/format";
import { useValue } from "../../units/useValue";
import { Ask, SetIt, useAsked, type ViewProps, Waiting } from "./common";

type Kind = "chain" | "belt" | "spur";

/** A wanted reduction made of teeth that exist, least stages first. */
export function Split({ onSet, ratio }: ViewProps & { ratio: number | null }) {
  const [motorRpm, setMotorRpm] = useState<number | null>(null);
  const [wheelRpm, setWheelRpm] = useState<number | null>(null);
  const [kinds, setKinds] = useState<Kind[]>(["chain", "belt"]);
  const wanted = motorRpm && wheelRpm ? motorRpm / wheelRpm : ratio;
  const { data, error } = useAsked(
    [wanted, kinds, "split"],
    () => split(wanted ?? 2, kinds),
    wanted !== null && kinds.length > 0,
  );
  const value = useValue();
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1 text-[13.5px]">
        <Ask label="Motor turns" unit="rpm" value={motorRpm} onValue={setMotorRpm} />
        <Ask label="where the wheel turns" unit="rpm" value={wheelRpm} onValue={setWheelRpm} />
        {(["chain", "belt", "spur"] as const).map((kind) => (
          <label key={kind} className="flex min-h-11 items-center gap-1.5 sm:min-h-8">
            <input
              type="checkbox"
              className="size-4 accent-water"
              checked={kinds.includes(kind)}
              onChange={(event) =>
                setKinds(
                  event.target.checked ? [...kinds, kind] : kinds.filter((one) => one !== kind),
                )
              }
            />
            {kind}
          </label>
        ))}
        <span className="text-soft">{wanted ? `${digits(wanted, 4)} to 1 is wanted` : ""}</span>
      </div>
      {!data ? (
        <Waiting
          error={error}
          what={kinds.length ? "Sharing it out" : "Choose of what it is made"}
        />
      ) : (
        <>
          <p className="text-[14px] font-semibold">{data.say}</p>
          {Object.entries(data.refused).map(([count, why]) => (
            <p key={count} className="text-[13px] text-soft">
              {count === "1" ? "One stage" : `${count} stages`}: {why}
            </p>
          ))}
          {Object.entries(data.splits).map(([count, splits]) => (
            <section key={count} className="mt-3">
              <h2 className="text-[14px] font-semibold">
                {count === "1" ? "One stage" : `${count} stages`}
              </h2>
              <ul>
                {splits.map((one) => (
                  <li
                    key={one.stages
                      .map((stage) => `${stage.kind}${stage.driver_teeth}${stage.driven_teeth}`)
                      .join()}
                    className="flex flex-wrap items-center gap-x-4 border-t border-line py-1 text-[13px]"
                  >
                    <span className="flex-1 basis-72">
                      {one.stages
                        .map(
                          (stage) => `${stage.kind} ${stage.driver_teeth} to ${stage.driven_teeth}`,
                        )
                        .join(", ")}
                    </span>
                    <span className="figure">{digits(one.ratio, 4)} : 1</span>
                    <span className="text-soft">
                      {Math.abs(one.off_pct) < 0.001 ? "exact" : `${digits(one.off_pct, 2)} % off`}
                    </span>
                    <span>{digits(100 * one.efficiency, 3)} % comes through</span>
                    <span className="text-soft">widest {value(one.widest_mm, "mm")}</span>
                    <SetIt
                      label={`${count} stages`}
                      onClick={() =>
                        onSet({
                          gearing: one.stages.map((stage) => ({
                            kind: stage.kind,
                            driver_teeth: stage.driver_teeth,
                            driven_teeth: stage.driven_teeth,
                            efficiency: stage.efficiency,
                            ...(stage.pitch_mm ? { pitch_mm: stage.pitch_mm } : {}),
                            ...(stage.module_mm ? { module_mm: stage.module_mm } : {}),
                          })),
                        })
                      }
                    />
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </>
      )}
    </>
  );
}
