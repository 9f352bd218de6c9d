import { useQuery } from "@tanstack/react-query";
import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import { brief, meetsBrief } from "../../api/matching";
import type { LadderAnswer, Rung } from "../../api/types";
import { ladder } from "../../api/ways";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { Mark, SetIt, useAsked, useValue, type ViewProps, Waiting } from "./common";

/** The brief that a build was made for, as it stands now; null for a build without one. */
function useBriefOf(buildId: string, document: ViewProps["document"]) {
  const met = useQuery({
    queryKey: ["origin", buildId],
    queryFn: () => meetsBrief(buildId, document),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const id = met.data?.brief_id ?? "";
  return useQuery({ ...brief(id), enabled: id !== "" }).data ?? null;
}

const named = (rung: Rung) => rung.teeth.map(([a, b]) => `${a} to ${b}`).join(", ");

/** The rungs around the present one, the best few, a map of all, and the cautious way up. */
export function Teeth({ document, pinned, onSet, buildId }: ViewProps & { buildId: string }) {
  const wished = useBriefOf(buildId, document);
  const { data, error } = useAsked([document, pinned, wished, "ladder"], () =>
    ladder(document, pinned, wished?.document ?? null),
  );
  const value = useValue();
  const [ref, width] = useSize();
  const [shown, setRow] = useState(0);
  if (!data) return <Waiting error={error} what="Climbing every rung" />;
  const set = (rung: Rung) => onSet(rung.change);
  const row = Math.min(shown, data.stages.length - 1);
  return (
    <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[1fr_27rem]">
      <div className="min-w-0">
        <p className="text-[13px] text-soft">
          {data.count.toLocaleString("en-GB")} rungs of teeth that are sold, of{" "}
          {data.reductions.toLocaleString("en-GB")} reductions; nothing stops{" "}
          {data.open.toLocaleString("en-GB")} of them. Speeds below are top speeds, temperatures
          those of the winding after the hill.
        </p>
        <h2 className="mt-4 text-[15px] font-semibold">
          The best few{wished ? `, by the brief for the ${wished.name}` : ""}
        </h2>
        <ul>
          {(Object.keys(data.best) as (keyof typeof data.best)[]).map((key) => {
            const rung = data.best[key];
            if (!rung) return null;
            return (
              <li
                key={key}
                className="flex flex-wrap items-center gap-x-4 border-t border-line py-1 text-[13px]"
              >
                <span className="min-w-0 flex-1 basis-64">
                  {data.best_say[key]}: <b className="figure">{named(rung)}</b>
                </span>
                <span>{value(rung.figures.top_speed_kmh, "km/h")}</span>
                <span>{value(rung.figures.launch_n, "N")}</span>
                <span>{value(rung.figures.winding_climb_c, "C", 2)}</span>
                <SetIt label={named(rung)} onClick={() => set(rung)} />
              </li>
            );
          })}
        </ul>
        {data.stages.length > 1 ? (
          <div role="group" aria-label="Stage" className="mt-3 flex flex-wrap gap-1">
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
        <Near answer={data} row={row} pinned={pinned} onSet={set} />
      </div>
      <div className="min-w-0">
        <div ref={ref}>
          <RungMap answer={data} width={width} />
        </div>
        <Plan answer={data} onSet={set} />
      </div>
    </div>
  );
}

function Near({
  answer,
  row,
  pinned,
  onSet,
}: {
  answer: LadderAnswer;
  row: number;
  pinned: ViewProps["pinned"];
  onSet: (rung: Rung) => void;
}) {
  const value = useValue();
  const stage = answer.stages[row];
  const before = pinned?.gearing[stage?.index ?? -1];
  const own = answer.present.teeth[row];
  if (!stage || !own) return null;
  return (
    <div className="relative mt-3 overflow-x-auto">
      <table className="border-separate border-spacing-1 text-[12.5px]">
        <caption className="pb-1 text-left text-[14px] font-semibold">
          Stage {stage.index + 1}, {stage.kind}: driver down, driven across
        </caption>
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
              <th scope="row" className="figure pr-2 text-right">
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
                return (
                  <td key={stage.near_driven[across]} className="p-0">
                    <button
                      type="button"
                      aria-pressed={here}
                      title={rung.stopped ?? undefined}
                      onClick={() => onSet(rung)}
                      className={`min-h-11 w-full min-w-17 rounded border px-1.5 text-left leading-tight sm:min-h-9 ${
                        here
                          ? "border-2 border-water bg-shallow"
                          : rung.stopped
                            ? "border-dashed border-stop text-soft"
                            : "border-line bg-raised hover:border-water"
                      }`}
                    >
                      <span className="sr-only">
                        {stage.near_drivers[at]} to {stage.near_driven[across]} teeth:{" "}
                      </span>
                      <span className="figure block">
                        {value(rung.figures.top_speed_kmh, "km/h")}
                      </span>
                      <span className="block text-[11.5px]">
                        {rung.stopped ? "stop" : value(rung.figures.winding_climb_c, "C", 2)}
                        {rung.stopped ? <span className="sr-only">: {rung.stopped}</span> : null}
                        {was ? ", pinned" : ""}
                      </span>
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const HEIGHT = 230;
const LEFT = 40;
const RIGHT = 40;
const BOTTOM = 32;

/** Every reduction: top speed on the left scale, winding after the hill on the right one. */
function RungMap({ answer, width }: { answer: LadderAnswer; width: number }) {
  const { choice } = useUnits();
  if (width < 160) return null;
  const speed = documentUnit("km/h", choice);
  const heat = documentUnit("C", choice);
  const points = answer.map;
  const ratios = points.map((point) => point.ratio);
  const x = scaleLog([Math.min(...ratios), Math.max(...ratios)], [LEFT, width - RIGHT]);
  const fastest = Math.max(...points.map((point) => toShown(point.top_speed_kmh ?? 0, speed)), 1);
  const limit = answer.limits.winding_c ?? 105;
  const hottest = toShown(1.25 * limit, heat);
  const y = scaleLinear([0, fastest * 1.05], [HEIGHT - BOTTOM, 18]);
  const hot = scaleLinear([0, hottest], [HEIGHT - BOTTOM, 18]);
  const drawn = (scale: (value: number) => number, of: (at: number) => number | null) =>
    line<number>()
      .defined((at) => of(at) !== null)
      .x((at) => x(points[at]?.ratio ?? 1))
      .y((at) => scale(of(at) ?? 0))(points.map((_, at) => at)) ?? "";
  const own = answer.present.ratio;
  return (
    <figure className="m-0">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Reductions from ${Math.min(...ratios).toFixed(1)} to ${Math.max(...ratios).toFixed(1)}: the present one is ${own.toFixed(2)} to 1`}
      >
        <text x={4} y={11} className="text-[11.5px]">
          top speed, {speed.sign}
        </text>
        <text x={width - 4} y={11} textAnchor="end" className="text-[11.5px]">
          winding after the hill, {heat.sign}
        </text>
        {points.map((point, at) => {
          const next = points[at + 1];
          return point.stopped && next ? (
            <rect
              key={point.ratio}
              x={x(point.ratio)}
              width={Math.max(0.5, x(next.ratio) - x(point.ratio) + 0.5)}
              y={18}
              height={HEIGHT - BOTTOM - 18}
              className="fill-stop opacity-10"
            />
          ) : null;
        })}
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} className="stroke-line" />
            <text x={LEFT - 5} y={y(tick) + 4} textAnchor="end" className="text-[11px]">
              {tick}
            </text>
          </g>
        ))}
        {hot.ticks(4).map((tick) => (
          <text key={tick} x={width - RIGHT + 5} y={hot(tick) + 4} className="text-[11px]">
            {tick}
          </text>
        ))}
        {[2, 3, 5, 8, 12, 20, 30, 50, 80]
          .filter((tick) => tick >= (ratios[0] ?? 1) && tick <= (ratios.at(-1) ?? 1))
          .map((tick) => (
            <text
              key={tick}
              x={x(tick)}
              y={HEIGHT - 16}
              textAnchor="middle"
              className="text-[11px]"
            >
              {tick}
            </text>
          ))}
        <text x={width / 2} y={HEIGHT - 3} textAnchor="middle" className="fill-soft text-[11px]">
          reduction, to 1; shaded: something stops it
        </text>
        <path
          d={drawn(y, (at) => {
            const v = points[at]?.top_speed_kmh;
            return v == null ? null : toShown(v, speed);
          })}
          className="fill-none stroke-water"
          strokeWidth={2.5}
        />
        <path
          d={drawn(
            (value) => hot(Math.min(value, hottest)),
            (at) => {
              const v = points[at]?.winding_climb_c;
              return v == null ? null : toShown(v, heat);
            },
          )}
          className="fill-none stroke-ember"
          strokeWidth={2}
          strokeDasharray="6 3"
        />
        <line
          x1={x(own)}
          x2={x(own)}
          y1={18}
          y2={HEIGHT - BOTTOM}
          className="stroke-ink"
          strokeWidth={1.5}
        />
        <text x={x(own) + 4} y={28} className="text-[11.5px] font-semibold">
          now {own.toFixed(2)}
        </text>
      </svg>
      <figcaption className="sr-only">Solid: top speed. Dashed: winding after the hill.</figcaption>
    </figure>
  );
}

function Plan({ answer, onSet }: { answer: LadderAnswer; onSet: (rung: Rung) => void }) {
  const value = useValue();
  return (
    <section className="mt-3">
      <h2 className="text-[15px] font-semibold">The cautious way up</h2>
      <p className="text-[12.5px] text-soft">
        One wheel at a time. Ride a minute flat out, read the motor case, and go on only while it
        stays under {value(answer.limits.case_c, "C", 2)}.
      </p>
      {answer.plan.length === 0 ? (
        <p className="py-2 text-[13px] text-soft">No rung that nothing stops is this slow.</p>
      ) : null}
      <ol className="text-[13px]">
        {answer.plan.map((step, at) => (
          <li
            key={named(step.rung)}
            className="flex flex-wrap items-center gap-x-3 border-t border-line py-1"
          >
            <span className="figure w-5">{at + 1}</span>
            <span className="min-w-0 flex-1 basis-44">
              {step.say}
              <small className="block text-soft">
                {value(step.rung.figures.top_speed_kmh, "km/h")}, case expected at{" "}
                {value(step.expect_case_c, "C", 2)}; stop at {value(step.stop_case_c, "C", 2)}
              </small>
            </span>
            <SetIt label={named(step.rung)} onClick={() => onSet(step.rung)} />
          </li>
        ))}
      </ol>
      {answer.present.stopped ? (
        <p className="pt-1 text-[12.5px]">
          As it stands: <Mark stopped={answer.present.stopped} />
        </p>
      ) : null}
    </section>
  );
}
