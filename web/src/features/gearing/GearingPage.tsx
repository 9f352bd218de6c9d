import type { FigureId, MomentId } from "../../api/types";
import { Term } from "../../ui/Term";
import { TERMS, type TermId } from "../../ui/terms";
import { type View, Views } from "../../ui/Views";
import { doubtOf } from "../../units/doubt";
import { deserved, digits, rounded } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { useEnds } from "../../units/Spread";
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
import { ThreeRoads } from "./ThreeRoads";
import { Tyre } from "./Tyre";
import { Volts } from "./Volts";
import { Windings } from "./Windings";

/** Teeth, winding and volts of one build, each change a change of the build. */
export function GearingPage() {
  const { bench, state, met } = useOpened();
  const { build, document, answer } = state;
  const pinnedHere = build.pinned.number === build.head;
  const props: ViewProps = {
    document,
    pinned: pinnedHere ? null : build.pinned.document,
    onSet: (values) => bench.act({ do: "set", values }),
  };
  const nowKmh = answer?.doubt.figures.top_speed_kmh?.value ?? null;
  const briefId = met?.brief_id ?? null;
  const inAir: View[] = [
    {
      id: "three",
      title: "Three roads to more",
      shows: () =>
        answer ? (
          <ThreeRoads
            answer={answer}
            onPress={(lever, step) => bench.act({ do: "press", lever, step })}
          />
        ) : (
          <p className="text-soft">Solving</p>
        ),
    },
    { id: "volts", title: "More volts", shows: () => <Volts {...props} /> },
  ];
  const views: View[] = [
    {
      id: "teeth",
      title: "Teeth",
      shows: () => <Teeth {...props} build={build} briefId={briefId} />,
    },
    { id: "runs", title: "Will it run?", shows: () => <Runs {...props} /> },
    {
      id: "stages",
      title: "Stages",
      shows: () => (
        <>
          <Split {...props} ratio={answer?.ratio ?? null} />
          <GearTeeth {...props} />
        </>
      ),
    },
    { id: "chart", title: "Speed chart", shows: () => <Chart {...props} /> },
    { id: "windings", title: "Windings", shows: () => <Windings {...props} /> },
    { id: "volts", title: "More volts", shows: () => <Volts {...props} /> },
    { id: "roads", title: "Roads to a speed", shows: () => <Roads {...props} nowKmh={nowKmh} /> },
  ];
  if (document.wheel)
    views.push(
      { id: "tyre", title: "Tyre", shows: () => <Tyre {...props} nowKmh={nowKmh} /> },
      { id: "helper", title: "Helper", shows: () => <Helper {...props} /> },
    );
  return (
    <main className="flex flex-1 flex-col">
      <Strip state={state} />
      <Views label="Ways to change speed" views={document.propeller ? inAir : views} />
    </main>
  );
}

const SHOWN: [FigureId, MomentId | null, TermId, string][] = [
  ["top_speed_kmh", "top_speed", "top_speed", "km/h"],
  ["climb_kmh", "climb", "climb", "km/h"],
  ["launch_s", "launch", "acceleration", "s"],
  ["thrust_to_weight", null, "thrust_to_weight", ""],
  ["climb_ms", null, "climb_rate", "m/s up"],
  ["endurance_min", null, "endurance", "min"],
  ["range_km", null, "range", "km"],
  ["motor_peak_a", null, "motor_current", "A"],
  ["pack_peak_a", null, "pack_current", "A"],
  ["winding_c", null, "winding", "C"],
];

/** What the build does now, with what changed since it was pinned. */
function Strip({ state }: { state: BenchState }) {
  const { choice } = useUnits();
  const ends = useEnds();
  const { answer, pinned, document } = state;
  if (!answer) return <p className="px-3 py-2 text-soft sm:px-6">Solving</p>;
  const teeth = document.gearing
    .map((stage) =>
      "driver_teeth" in stage ? `${stage.driver_teeth}:${stage.driven_teeth}` : stage.kind,
    )
    .join(" ");
  const titleOf = (moment: MomentId | null, usual: TermId) =>
    answer.moments.find((one) => one.id === moment)?.title ?? TERMS[usual].term;
  return (
    <dl className="flex gap-x-5 overflow-x-auto border-b border-line px-3 py-1.5 text-[13px] whitespace-nowrap sm:px-6">
      <div className="flex gap-1.5">
        <dt className="text-soft">
          <Term id="gear_ratio">Ratio</Term>
        </dt>
        <dd>
          <span className="figure">{digits(answer.ratio)} : 1</span>{" "}
          <small className="text-soft">{teeth}</small>
        </dd>
      </div>
      {SHOWN.filter(([id]) => id in answer.doubt.figures).map(([id, moment, usual, unit]) => {
        const own = documentUnit(unit, choice);
        const { value: now, band } = answer.doubt.figures[id] ?? {};
        const before = pinned?.doubt.figures[id]?.value;
        const shown = (value: number) =>
          rounded(toShown(value, own), deserved(value, own.offset ? null : band));
        const between = ends(band, unit);
        return (
          <div
            key={id}
            className="flex gap-1.5"
            title={between ? `${between} ${own.sign}, four times in five` : undefined}
          >
            <dt className="text-soft">
              <Term id={usual}>{titleOf(moment, usual)}</Term>
            </dt>
            <dd>
              <span className="figure">{now == null ? "–" : shown(now)}</span>{" "}
              <small className="text-soft">{own.sign}</small>{" "}
              {now != null && before != null && shown(now) !== shown(before) ? (
                <small className="text-water">was {shown(before)}</small>
              ) : (
                <small className="hidden text-soft xl:inline">{doubtOf(band ?? undefined)}</small>
              )}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
