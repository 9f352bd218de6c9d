import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { readBuild } from "../../api/builds";
import { boost } from "../../api/gearing";
import { buildList } from "../../api/queries";
import type { BoostAnswer } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { pushPlot } from "../../plots/push";
import { SeverityWord } from "../../ui/Severity";
import { useSize } from "../../ui/useSize";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { useValue } from "../../units/useValue";
import { Ask, useAsked, type ViewProps, Waiting } from "./common";

/** A second motor that helps above some speed: another build's drive on a tap of this pack. */
export function Helper({ document }: ViewProps) {
  const builds = useQuery(buildList).data?.builds ?? [];
  const [id, setId] = useState("");
  const [cells, setCells] = useState<number | null>(null);
  const [from, setFrom] = useState<number | null>(null);
  const tap = cells ?? document.battery.series;
  const helper = useQuery({
    queryKey: ["compared", `build:${id}`],
    queryFn: async () => (await readBuild(id)).document,
    enabled: id !== "",
  });
  const aid = id === "" ? document : helper.data;
  const { data, error } = useAsked(
    [document, aid, tap, from, "boost"],
    () => boost(document, aid ?? document, Math.round(tap), from ?? 0),
    aid !== undefined,
  );
  const value = useValue();
  const [ref, width] = useSize();
  return (
    <>
      <p className="max-w-3xl text-[13px] text-soft">
        The helper is the motor, controller and gearing of a second drive, fed from all or some of
        this pack's cells.
      </p>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1 text-[13.5px]">
        <label className="flex items-center gap-2">
          Helped by
          <select
            value={id}
            onChange={(event) => setId(event.target.value)}
            className="min-h-11 max-w-56 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          >
            <option value="">a second drive like its own</option>
            {builds.map((build) => (
              <option key={build.id} value={build.id}>
                {build.name}
              </option>
            ))}
          </select>
        </label>
        <Ask label="on a tap of" unit="cells" value={tap} onValue={setCells} />
        <Ask label="switched on from" unit="km/h" value={from ?? 0} onValue={setFrom} />
      </div>
      <div ref={ref}>
        {!data ? (
          <Waiting error={error ?? helper.error} what="Adding it" />
        ) : error ? (
          <Waiting error={error} what="" />
        ) : (
          <div className="grid gap-x-8 gap-y-3 lg:grid-cols-[1.6fr_1fr]">
            <Pushes answer={data} width={Math.min(width, 760)} />
            <div className="text-[13.5px]">
              <p>
                Alone it goes <b className="figure">{value(data.alone_kmh, "km/h")}</b>, together{" "}
                <b className="figure">{value(data.together_kmh, "km/h")}</b>; the helper pushes up
                to {value(data.helps_to_kmh, "km/h")}. Idle and engaged it drags{" "}
                {value(data.drags_n, "N", 2)}.
              </p>
              {data.findings.map((finding) => (
                <p key={finding.say} className="border-t border-line py-1">
                  <SeverityWord severity={finding.severity} /> {finding.say}
                </p>
              ))}
            </div>
          </div>
        )}
      </div>
    </>
  );
}

const HEIGHT = 440;

function Pushes({ answer, width }: { answer: BoostAnswer; width: number }) {
  const { choice } = useUnits();
  if (width < 160) return null;
  const speed = documentUnit("km/h", choice);
  const force = documentUnit("N", choice);
  const both = answer.base_n.map((base, at) => base + (answer.helper_n[at] ?? 0));
  const { x, y, path } = pushPlot({
    fastest: answer.speeds_kmh.at(-1) ?? 1,
    hardest: Math.max(...both, 1) * 1.08,
    speed,
    force,
    width,
    height: HEIGHT,
    margin: { left: 44, right: 96, top: 22, bottom: 30 },
  });
  return (
    <figure className="m-0">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label="Push of this build alone, of its helper and of both together over speed"
      >
        <text x={4} y={11} className="fill-soft text-[12px]">
          Push at the wheel, {force.sign}
        </text>
        <Axes x={x} y={y} sign={speed.sign} />
        <path
          d={path(answer.speeds_kmh, both)}
          className="fill-none stroke-water"
          strokeWidth={2.5}
        />
        <path
          d={path(answer.speeds_kmh, answer.base_n)}
          className="fill-none stroke-ink"
          strokeWidth={1.5}
          strokeDasharray="5 3"
        />
        <path
          d={path(answer.speeds_kmh, answer.helper_n)}
          className="fill-none stroke-ember"
          strokeWidth={1.75}
          strokeDasharray="2 3"
        />
        {(
          [
            ["alone", answer.alone_kmh, "stroke-ink"],
            ["together", answer.together_kmh, "stroke-water"],
            ["helps from", answer.engages_from_kmh, "stroke-ember"],
          ] as const
        )
          .filter(([, kmh]) => kmh > 0)
          .map(([words, kmh, stroke], at) => (
            <g key={words}>
              <line
                x1={x(toShown(kmh, speed))}
                x2={x(toShown(kmh, speed))}
                y1={16}
                y2={HEIGHT - 30}
                className={stroke}
                strokeDasharray="1 3"
              />
              <text
                x={x(toShown(kmh, speed)) + (words === "together" ? 5 : -5)}
                y={28 + 14 * at}
                textAnchor={words === "together" ? "start" : "end"}
                className="text-[11.5px]"
              >
                {words} {digits(toShown(kmh, speed))}
              </text>
            </g>
          ))}
      </svg>
      <figcaption className="text-[12px] text-soft">
        Solid: both together. Dashed: this build alone. Dotted: the helper.
      </figcaption>
    </figure>
  );
}
