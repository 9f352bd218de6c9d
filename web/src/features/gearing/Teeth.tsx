import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { ladder } from "../../api/gearing";
import { brief } from "../../api/matching";
import type { BuildAnswer, LadderAnswer, Rung } from "../../api/types";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { documentUnit } from "../../units/quantities";
import { useEnds } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { named } from "../../workbench/PlanSteps";
import { Cell } from "./Cell";
import { Passing, SetIt, useAsked, type ViewProps, Waiting } from "./common";
import { Plan } from "./Plan";
import { LETTERS, RungPicture } from "./RungPicture";
import { type MeasuredRung, useMeasuredRungs } from "./useMeasuredRungs";

interface TeethProps extends ViewProps {
  build: Pick<BuildAnswer, "id" | "ticks">;
  /** The brief of the build, if it has one. */
  briefId: string | null;
}

/** The rungs around the present one, the best few, a map of all, and the cautious way up. */
export function Teeth(props: TeethProps) {
  const toothed = (props.document.gearing ?? []).some((stage) => "driver_teeth" in stage);
  const { gearing, wheel } = props.document;
  return toothed ? <Ladder {...props} /> : <NoTeeth none={!gearing?.length} rolls={!!wheel} />;
}

const WITHOUT_TEETH = [
  [
    "windings",
    "Another winding of the same can",
    "Every rpm a volt gives goes up or down with it.",
  ],
  ["volts", "More cells", "Faster by the volts, if controller, capacitors and motor stand them."],
  ["tyre", "Another tyre", "A larger wheel goes faster and pushes less, like a taller gear."],
  ["roads", "All roads to a speed", "What each would take of the parts there are."],
] as const;

/** What is left where there are no teeth to change. */
function NoTeeth({ none, rolls }: { none: boolean; rolls: boolean }) {
  return (
    <section className="max-w-2xl">
      <h2 className="text-[15px] font-semibold">
        {none ? "The motor turns the wheel itself" : "No stage has teeth to change"}
      </h2>
      <p className="text-[13px] text-soft">
        So there is no ladder to climb. What changes speed here:
      </p>
      <ul>
        {WITHOUT_TEETH.filter(([view]) => rolls || view !== "tyre").map(([view, title, why]) => (
          <li key={view} className="border-b border-line py-2 text-[14px]">
            <Link to={`?view=${view}`} className="font-semibold text-water hover:underline">
              {title}
            </Link>
            <p className="text-[13px] text-soft">{why}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Ladder({ document, pinned, onSet, build, briefId }: TeethProps) {
  const wished = useQuery({ ...brief(briefId ?? ""), enabled: briefId !== null }).data ?? null;
  const { data, error } = useAsked([document, pinned, wished, "ladder"], () =>
    ladder(document, pinned, wished?.document ?? null),
  );
  const measured = useMeasuredRungs(build.id, document);
  const value = useValue();
  const [ref, width] = useSize();
  const [shown, setRow] = useState(0);
  if (!data) return <Waiting error={error} what="Climbing every rung" />;
  const set = (rung: Rung) => onSet(rung.change);
  const row = Math.min(shown, data.stages.length - 1);
  const near = (data.stages[row]?.near ?? []).flat();
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[1fr_38.5rem]">
      <div className="min-w-0">
        <Passing error={error} />
        <Standing answer={data} />
        <div ref={ref}>
          <RungPicture answer={data} near={near} measured={measured} width={width} onSet={set} />
        </div>
        <h2 className="mt-3 text-[15px] font-semibold">
          The best few{wished ? `, by the brief for the ${wished.name}` : ""}
        </h2>
        {data.say ? <p className="text-[13px]">{data.say}</p> : null}
        <ul>
          {(Object.keys(data.best) as (keyof typeof data.best)[])
            .filter((key) => data.best[key])
            .map((key, at) => {
              const rung = data.best[key] as Rung;
              return (
                <li
                  key={key}
                  className="flex flex-wrap items-center gap-x-4 border-t border-line py-1 text-[13px]"
                >
                  <span className="min-w-0 flex-1 basis-64">
                    <b className="figure mr-1 text-deep">{LETTERS[at]}</b> {data.best_say[key]}:{" "}
                    <b className="figure">{named(rung)}</b>
                    <span className="block text-soft">
                      {value(rung.figures.top_speed_kmh, "km/h")},{" "}
                      {value(rung.figures.launch_n, "N")} from standstill, winding{" "}
                      {value(rung.figures.winding_climb_c, "C", 2)}
                    </span>
                  </span>
                  <SetIt label={named(rung)} onClick={() => set(rung)} />
                </li>
              );
            })}
        </ul>
        <p className="mt-2 text-[12.5px] text-soft">
          {data.count.toLocaleString("en-GB")} rungs of teeth that are sold, of{" "}
          {data.reductions.toLocaleString("en-GB")} reductions; {data.open.toLocaleString("en-GB")}{" "}
          of them are no worse than now for any part.
          <Doubt present={data.present} />
        </p>
      </div>
      <div className="min-w-0">
        {data.stages.length > 1 ? (
          <div role="group" aria-label="Stage" className="flex flex-wrap gap-1">
            {data.stages.map((stage, at) => (
              <button
                key={stage.index}
                type="button"
                aria-pressed={at === row}
                onClick={() => setRow(at)}
                className="min-h-11 rounded-md px-2.5 text-[13px] text-soft hover:bg-sunk aria-pressed:bg-shallow aria-pressed:font-semibold aria-pressed:text-ink sm:min-h-8"
              >
                Stage {stage.index + 1}
              </button>
            ))}
          </div>
        ) : null}
        <Near answer={data} row={row} pinned={pinned} measured={measured} onSet={set} />
        <Plan answer={data} build={build} onSet={set} />
      </div>
    </div>
  );
}

/** What stops the build as it stands: gearing mends some of it, and some of it not. */
function Standing({ answer }: { answer: LadderAnswer }) {
  if (answer.fixed.length + answer.already.length === 0) return null;
  return (
    <div className="mt-2 text-[13px]">
      {answer.already.length > 0 ? (
        <p>
          As it stands: <b className="text-stop">{answer.already.join(" ")}</b> Rungs are held
          against that.
        </p>
      ) : null}
      {answer.fixed.length > 0 ? (
        <p>
          No gearing changes this: <b className="text-stop">{answer.fixed.join(" ")}</b>
        </p>
      ) : null}
    </div>
  );
}

/** How sure the rungs are: about as sure as the present one, since the guesses are the same. */
function Doubt({ present }: { present: Rung }) {
  const ends = useEnds();
  const { choice } = useUnits();
  const { top_speed_kmh: speed, winding_climb_c: heat } = present.bands ?? {};
  const said = [
    ["goes", ends(speed, "km/h"), documentUnit("km/h", choice).sign],
    ["gets", ends(heat, "C", 2), documentUnit("C", choice).sign],
  ].flatMap(([verb, between, sign]) => (between ? [`${verb} ${between} ${sign}`] : []));
  if (said.length === 0) return null;
  return (
    <>
      {" "}
      As the build is known now, the present rung {said.join(" and ")}, four times in five; the
      others are about as unsure, and the difference between two of them less.
    </>
  );
}

function Near({
  answer,
  row,
  pinned,
  measured,
  onSet,
}: {
  answer: LadderAnswer;
  row: number;
  pinned: ViewProps["pinned"];
  measured: MeasuredRung[];
  onSet: (rung: Rung) => void;
}) {
  const value = useValue();
  const scrolls = useRef<HTMLDivElement>(null);
  const stage = answer.stages[row];
  const present = answer.present.teeth[row]?.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: where it scrolls to follows the rung.
  useEffect(() => {
    const [box, here] = [scrolls.current, scrolls.current?.querySelector('[aria-pressed="true"]')];
    if (!box || !(here instanceof HTMLElement)) return;
    const beyond = here.getBoundingClientRect().right - box.getBoundingClientRect().right;
    if (beyond > 0) box.scrollLeft += beyond + here.offsetWidth;
  }, [row, present]);
  const before = pinned?.gearing[stage?.index ?? -1];
  const own = answer.present.teeth[row];
  if (!stage || !own) return null;
  return (
    <>
      <h3 id="near" className="mt-3 pb-1 text-[14px] font-semibold">
        Stage {stage.index + 1}, {stage.kind}: driver down, driven across; top speed, winding
      </h3>
      <div ref={scrolls} className="relative overflow-x-auto">
        <table aria-labelledby="near" className="border-separate border-spacing-1 text-[12.5px]">
          <thead>
            <tr>
              <td />
              {stage.near_driven.map((teeth) => (
                <th key={teeth} scope="col" className="figure px-1">
                  {teeth}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {stage.near.map((rungs, at) => (
              <tr key={stage.near_drivers[at]}>
                <th scope="row" className="figure sticky left-0 bg-paper pr-2 text-right">
                  {stage.near_drivers[at]}
                </th>
                {rungs.map((rung, across) => {
                  const here =
                    stage.near_drivers[at] === own[0] && stage.near_driven[across] === own[1];
                  const was =
                    before !== undefined &&
                    "driver_teeth" in before &&
                    stage.near_drivers[at] === before.driver_teeth &&
                    stage.near_driven[across] === before.driven_teeth;
                  const ridden = measured.find((one) => one.teeth === named(rung));
                  return (
                    <Cell
                      key={stage.near_driven[across]}
                      label={`${stage.near_drivers[at]} to ${stage.near_driven[across]} teeth`}
                      on={here}
                      look={rung.stopped ? "stopped" : "plain"}
                      title={rung.stopped ?? undefined}
                      onPress={() => onSet(rung)}
                      figure={value(rung.figures.top_speed_kmh, "km/h")}
                      beneath={
                        <>
                          {rung.stopped ? "worse" : value(rung.figures.winding_climb_c, "C", 2)}
                          {rung.stopped ? <span className="sr-only">: {rung.stopped}</span> : null}
                          {was ? ", pinned" : ""}
                          {ridden ? (
                            <span className="block font-semibold text-ink">
                              {value(ridden.speedKmh, "km/h", 3)} <small>measured</small>
                            </span>
                          ) : null}
                        </>
                      }
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
