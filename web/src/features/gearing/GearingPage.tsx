import { Tabs } from "radix-ui";
import { useEffect, useRef } from "react";
import type { FigureId } from "../../api/types";
import { useAddress } from "../../ui/useAddress";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { Spread } from "../../units/Spread";
import { useOpened } from "../../workbench/opened";
import type { BenchState } from "../../workbench/workbench";
import { Chart } from "./Chart";
import type { ViewProps } from "./common";
import { GearTeeth } from "./GearTeeth";
import { Helper } from "./Helper";
import { Roads } from "./Roads";
import { Runs } from "./Runs";
import { Split } from "./Split";
import { Teeth } from "./Teeth";
import { Tyre } from "./Tyre";
import { Volts } from "./Volts";
import { Windings } from "./Windings";

const VIEWS = [
  ["teeth", "Teeth"],
  ["runs", "Will it run?"],
  ["stages", "Stages"],
  ["chart", "Speed chart"],
  ["windings", "Windings"],
  ["volts", "More volts"],
  ["roads", "Roads to a speed"],
  ["tyre", "Tyre"],
  ["helper", "Helper"],
] as const;

/** Views that speak of wheels on a road. */
const OF_WHEELS = new Set<string>(["tyre", "helper"]);

/** Teeth, winding and volts of one build, each change a change of the build. */
export function GearingPage() {
  const { bench, state, met } = useOpened();
  const { build, document, answer } = state;
  const [search, say] = useAddress();
  const views = VIEWS.filter(([id]) => document.wheel || !OF_WHEELS.has(id));
  const view = views.find(([id]) => id === search.get("view"))?.[0] ?? "teeth";
  const tabs = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // On a phone the tabs scroll; the one that is open is kept in sight.
    tabs.current
      ?.querySelector(`[data-view="${view}"]`)
      ?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [view]);
  const pinnedHere = build.pinned.number === build.head;
  const props: ViewProps = {
    document,
    pinned: pinnedHere ? null : build.pinned.document,
    onSet: (values) => bench.act({ do: "set", values }),
  };
  return (
    <main className="flex flex-1 flex-col">
      <Strip state={state} />
      <Tabs.Root
        value={view}
        onValueChange={(next) => say({ view: next })}
        className="flex-1 px-3 pb-8 sm:px-6"
      >
        <Tabs.List
          ref={tabs}
          aria-label="Ways to change speed"
          className="no-print mb-3 flex gap-1 overflow-x-auto border-b border-line"
        >
          {views.map(([id, title]) => (
            <Tabs.Trigger
              key={id}
              value={id}
              data-view={id}
              className="-mb-px min-h-11 shrink-0 border-b-2 border-transparent px-2.5 text-[13.5px] whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-water data-[state=active]:font-semibold data-[state=active]:text-ink sm:min-h-9"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="teeth">
          <Teeth {...props} buildId={build.id} briefId={met?.brief_id ?? null} />
        </Tabs.Content>
        <Tabs.Content value="runs">
          <Runs {...props} />
        </Tabs.Content>
        <Tabs.Content value="stages">
          <Split {...props} ratio={answer?.ratio ?? null} />
          <GearTeeth {...props} />
        </Tabs.Content>
        <Tabs.Content value="chart">
          <Chart {...props} />
        </Tabs.Content>
        <Tabs.Content value="windings">
          <Windings {...props} />
        </Tabs.Content>
        <Tabs.Content value="volts">
          <Volts {...props} />
        </Tabs.Content>
        <Tabs.Content value="roads">
          <Roads {...props} nowKmh={answer?.doubt.figures.top_speed_kmh?.value ?? null} />
        </Tabs.Content>
        <Tabs.Content value="tyre">
          <Tyre {...props} />
        </Tabs.Content>
        <Tabs.Content value="helper">
          <Helper {...props} />
        </Tabs.Content>
      </Tabs.Root>
    </main>
  );
}

const SHOWN: [FigureId, string, string][] = [
  ["top_speed_kmh", "Top speed", "km/h"],
  ["climb_kmh", "Climbs at", "km/h"],
  ["launch_s", "Acceleration", "s"],
  ["range_km", "Goes", "km"],
  ["motor_peak_a", "Motor amps", "A"],
  ["pack_peak_a", "Pack amps", "A"],
  ["winding_c", "Winding", "C"],
];

/** What the build does now, with what changed since it was pinned. */
function Strip({ state }: { state: BenchState }) {
  const { choice } = useUnits();
  const { answer, pinned, document } = state;
  if (!answer) return <p className="px-3 py-2 text-soft sm:px-6">Solving</p>;
  const stops = answer.verdicts.filter((verdict) => verdict.severity === "stop");
  const teeth = document.gearing
    .map((stage) =>
      "driver_teeth" in stage ? `${stage.driver_teeth} to ${stage.driven_teeth}` : stage.kind,
    )
    .join(", ");
  return (
    <dl className="flex flex-wrap gap-x-6 gap-y-1 border-b border-line px-3 py-1.5 text-[13px] sm:px-6">
      <div className="flex gap-1.5">
        <dt className="text-soft">Teeth</dt>
        <dd className="figure">
          {teeth || "none"}, {digits(answer.ratio)} : 1
        </dd>
      </div>
      {SHOWN.map(([id, label, unit]) => {
        const own = documentUnit(unit, choice);
        const now = answer.doubt.figures[id]?.value;
        const before = pinned?.doubt.figures[id]?.value;
        const shown = (value: number) => digits(toShown(value, own));
        return (
          <div key={id} className="flex gap-1.5">
            <dt className="text-soft">{label}</dt>
            <dd>
              <span className="figure">{now == null ? "–" : shown(now)}</span>{" "}
              <small className="text-soft">{own.sign}</small>
              <Spread band={answer.doubt.figures[id]?.band} unit={unit} />
              {now != null && before != null && shown(now) !== shown(before) ? (
                <small className="ml-1 text-water">was {shown(before)}</small>
              ) : null}
            </dd>
          </div>
        );
      })}
      {stops.length > 0 ? (
        <div className="font-semibold text-stop" title={stops.map((stop) => stop.title).join("; ")}>
          {stops.length} stop: <span className="font-normal">{stops[0]?.title}</span>
        </div>
      ) : null}
    </dl>
  );
}
