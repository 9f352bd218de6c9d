import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import { acceptLearned, keepRun, learnFromRuns, logbook } from "../../api/logbook";
import type { Calibrated, MeasuredRunBody } from "../../api/types";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { digits } from "../../units/format";
import { useEnds } from "../../units/Spread";
import { useOpened } from "../../workbench/opened";
import { fieldOf } from "./kinds";

/** What the runs teach: bands that shrink, what speaks against what, and what to measure next. */
export function Learn() {
  const { bench, state } = useOpened();
  const { build, saving } = state;
  const { data, error } = useAsked([build.id, "logbook", build.head, "learn"], () =>
    learnFromRuns(build.id),
  );
  const cards = useAsked([build.id, "logbook", build.head], () => logbook(build.id)).data;
  const client = useQueryClient();
  const [told, setTold] = useState("");
  if (!data) return <Waiting error={error} what="Learning from the runs" />;
  const { found, runs } = data;
  const gaps = found.explained.filter(
    (gap) => !gap.within_doubt || Object.keys(gap.by_changes).length > 0,
  );
  const accept = async () => {
    setTold("Saving it");
    try {
      await acceptLearned(build.id, build.head, runs, crypto.randomUUID());
      await bench.refresh();
      setTold("The build is what the runs say now. Undo goes back.");
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Not saved: ${problem.where} ${problem.what}.`);
    }
  };
  /** Notes with a run that something was otherwise on its day, though nobody wrote it down. */
  const note = async (name: string, path: string, value: number) => {
    const card = cards?.[Number(name.replace("run ", "")) - 1];
    if (!card) return;
    try {
      await keepRun(build.id, card.id, {
        version: card.version,
        run: noted(card.run, path, value),
      });
      await client.invalidateQueries({ queryKey: ["asked", build.id, "logbook"] });
      setTold(`Noted with ${name}; it can be left out again among the runs.`);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Not noted: ${problem.where} ${problem.what}.`);
    }
  };
  const moved = found.inputs.filter((one) => one.moved);
  return (
    <section aria-label="What the runs teach" className="text-[13.5px]">
      {runs.length === 0 ? (
        <p className="text-soft">
          Nothing that this build has not learned already. Enter a run, and it is held against all
          that is doubtful.
        </p>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <p className="flex-1">
            {runs.length === 1 ? "One run teaches" : `${runs.length} runs teach`} {moved.length} of{" "}
            {found.inputs.length} doubtful inputs.
          </p>
          <Button
            kind="main"
            disabled={saving !== "saved" || moved.length === 0}
            onClick={() => void accept()}
          >
            Take it over into the build
          </Button>
        </div>
      )}
      <p role="status" className="min-h-6 text-soft">
        {told}
      </p>
      {found.contradictions.map((one) => (
        <p key={one.what} className="border-t border-line py-1.5">
          <b className="text-stop">Does not fit.</b> {one.what}
        </p>
      ))}
      {moved.length ? (
        <>
          <Moved inputs={moved} />
          <Figures figures={found.figures} />
        </>
      ) : null}
      {found.measure_next ? (
        <p className="border-t border-line py-1.5">
          <b>Measure next:</b> {found.measure_next.what} It would take{" "}
          {Math.round(100 * found.measure_next.gain)} % of what doubt is left.
        </p>
      ) : null}
      {found.untold.map((one) => (
        <p key={one} className="border-t border-line py-1.5 text-soft">
          {one}
        </p>
      ))}
      {gaps.length ? <Gaps gaps={gaps} labels={data.labels} onNote={note} /> : null}
    </section>
  );
}

function Moved({ inputs }: { inputs: Calibrated["inputs"] }) {
  return (
    <table className="mb-2 w-full max-w-3xl">
      <thead className="text-left text-[12px] text-soft">
        <tr>
          <th className="font-normal">Input</th>
          <th className="font-normal">was</th>
          <th className="font-normal">is</th>
          <th className="font-normal">its band, before and after</th>
        </tr>
      </thead>
      <tbody>
        {inputs.map((one) => (
          <tr key={one.path} className="border-t border-line">
            <td className="py-1 pr-2">{one.label}</td>
            <td className="figure pr-2 text-soft">{digits(one.before[1] ?? 0, 3)}</td>
            <td className="figure pr-2">{digits(one.after[1] ?? 0, 3)}</td>
            <td>
              <Bands before={one.before} after={one.after} />
              {one.why_wider ? (
                <span className="text-[12px] text-soft">{one.why_wider}</span>
              ) : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const SHOWN: [keyof Calibrated["figures"] & string, string, string][] = [
  ["top_speed_kmh", "Top speed", "km/h"],
  ["range_km", "Range", "km"],
  ["pack_peak_a", "Most pack amps", "A"],
  ["launch_s", "Launch", "s"],
];

/** How sure the figures are by now. */
function Figures({ figures }: { figures: Calibrated["figures"] }) {
  const ends = useEnds();
  return (
    <dl className="flex flex-wrap gap-x-8 gap-y-1 border-t border-line py-1.5">
      {SHOWN.map(([key, name, unit]) => {
        const was = ends(figures[key]?.before, unit);
        const is = ends(figures[key]?.after, unit);
        return is ? (
          <div key={key}>
            <dt className="text-[12px] text-soft">{name}</dt>
            <dd>
              <b className="figure">{is}</b> {unit}
              <span className="ml-2 text-[12.5px] text-soft">was {was}</span>
            </dd>
          </div>
        ) : null;
      })}
    </dl>
  );
}

type Band = (number | null)[];
const WIDTH = 240;

function Bands({ before, after }: { before: Band; after: Band }) {
  const all = [...before, ...after].filter((one): one is number => one !== null);
  const from = Math.min(...all);
  const to = Math.max(...all, from + 1e-12);
  const x = (value: number | null | undefined) =>
    4 + (((value ?? from) - from) / (to - from)) * (WIDTH - 8);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 22`}
      preserveAspectRatio="none"
      className="h-5.5 w-full max-w-60"
      role="img"
      aria-label={`from ${digits(before[0] ?? 0, 3)} to ${digits(before[2] ?? 0, 3)}; now ${digits(after[0] ?? 0, 3)} to ${digits(after[2] ?? 0, 3)}`}
    >
      <line
        x1={x(before[0])}
        x2={x(before[2])}
        y1={6}
        y2={6}
        className="stroke-line"
        strokeWidth={6}
      />
      <line
        x1={x(after[0])}
        x2={x(after[2])}
        y1={15}
        y2={15}
        className="stroke-water"
        strokeWidth={7}
      />
    </svg>
  );
}

type OnNote = (run: string, path: string, value: number) => Promise<void>;

interface GapsProps {
  gaps: Calibrated["explained"];
  labels: Record<string, string>;
  onNote: OnNote;
}

function Gaps({ gaps, labels, onNote }: GapsProps) {
  return (
    <div className="border-t border-line pt-2">
      <h2 className="text-[15px] font-semibold">Between runs</h2>
      <ul>
        {gaps.map((gap) => (
          <Gap
            key={`${gap.from_run}${gap.to_run}${gap.field}`}
            gap={gap}
            labels={labels}
            onNote={onNote}
          />
        ))}
      </ul>
    </div>
  );
}

interface GapProps {
  gap: Calibrated["explained"][number];
  labels: Record<string, string>;
  onNote: OnNote;
}

function Gap({ gap, labels, onNote }: GapProps) {
  const [label, unit] = fieldOf(gap.field);
  const sign = unit === "C" ? "°C" : unit;
  const parts = Object.entries(gap.by_changes);
  return (
    <li className="py-0.5">
      {gap.from_run} to {gap.to_run}, {label.toLowerCase()}: {signed(gap.measured_change)} {sign}
      {parts.length
        ? `, of it ${parts.map(([path, part]) => `${signed(part)} by ${(labels[path] ?? path).toLowerCase()}`).join(", ")}`
        : ""}
      ;{" "}
      {gap.within_doubt
        ? "what is left is no more than the instruments may be off."
        : `${signed(gap.left)} is left. What would explain it:`}
      {gap.candidates.length ? (
        <ul className="pl-4 text-soft">
          {gap.candidates.map((one) => (
            <li key={one.path}>
              {one.what}:{" "}
              {one.needs === null || one.needs === undefined
                ? `at most ${signed(one.explains)} ${sign} of it, as far as is believable`
                : `from ${digits(one.before, 3)} to ${digits(one.needs, 3)}, which is believable`}
              {one.needs == null ? null : (
                <Button
                  kind="plain"
                  aria-label={`It was so on ${gap.to_run}: ${one.what}`}
                  onClick={() => void onNote(gap.to_run, one.path, one.needs as number)}
                >
                  It was so
                </Button>
              )}
            </li>
          ))}
        </ul>
      ) : null}
    </li>
  );
}

const noted = (run: MeasuredRunBody, path: string, value: number): MeasuredRunBody => {
  const exact = Number(value.toPrecision(4));
  return path === "conditions.headwind_mps"
    ? { ...run, conditions: { ...run.conditions, wind_mps: exact } }
    : { ...run, changes: { ...run.changes, [path]: exact } };
};

const signed = (value: number) => `${value < 0 ? "−" : "+"}${digits(Math.abs(value), 2)}`;
