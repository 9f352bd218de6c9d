import { useQueries, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { compare, readBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import { readMatch } from "../../api/matching";
import { buildList } from "../../api/queries";
import type { BuildDocument, Candidate, MomentId } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/Notice";
import { Tick } from "../../ui/Tick";
import { useAddress } from "../../ui/useAddress";
import { useSize } from "../../ui/useSize";
import { useUnits } from "../../units/preferences";
import { Baseline } from "./Baseline";
import { markOf } from "./marks";
import { PushCurves } from "./PushCurves";
import { Rows } from "./Rows";

const MOMENTS: [MomentId, string][] = [
  ["launch", "Launch"],
  ["climb", "Climb"],
  ["cruise", "Cruise"],
  ["top_speed", "Top speed"],
  ["wheels_up", "Wheels in the air"],
];
const MOST = 5;
const above = (said: string | null): number | null => {
  const value = Number(said);
  return said !== null && value > 0 ? value : null;
};

/** One of the terms where somebody said it; the engine has its own for the rest. */
const said = (name: "years" | "hours_a_year", value: number | null) =>
  value === null ? {} : { [name]: value };

/** Two to five builds or results beside one another, on equal terms. */
export function ComparePage() {
  const [search, tell] = useAddress();
  const named = (search.get("with") ?? "").split(",").filter(Boolean);
  const terms = {
    same_vehicle: search.get("vehicle") !== "own",
    same_voltage: search.get("volts") === "same",
    ...said("years", above(search.get("years"))),
    ...said("hours_a_year", above(search.get("hours"))),
  };
  const moment = (MOMENTS.find(([id]) => id === search.get("moment"))?.[0] ?? "cruise") as MomentId;
  const say = (key: string, value: string | null) => tell({ [key]: value });
  useEffect(() => {
    document.title = "Compare, Young Torrent";
  }, []);
  const read = useQueries({
    queries: named.map((one) => ({
      queryKey: ["compared", one],
      queryFn: () => documentOf(one),
    })),
  });
  const documents = read.flatMap((one) => (one.data ? [one.data] : []));
  const ready = named.length > 1 && documents.length === named.length;
  const told = useQuery({
    queryKey: ["compare", named, terms],
    queryFn: () => compare(documents, terms),
    enabled: ready,
    placeholderData: (before) => before,
  });
  const [ref, width] = useSize();
  const trouble = [told, ...read].find((one) => one.error instanceof ApiError)?.error as
    | ApiError
    | undefined;
  const answer = told.data && told.data.candidates.length === named.length ? told.data : null;
  const first = answer?.candidates[0];
  return (
    <div className="flex flex-1 flex-col">
      <h1 className="sr-only">Compare</h1>
      {trouble ? (
        <Notice tone="stop">
          The {trouble.where} {trouble.what}.
        </Notice>
      ) : null}
      <main className="flex-1 px-4 pb-8 sm:px-6">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2 text-[13px]">
          <Tick
            label={first ? `all in the vehicle of ${first.name}` : "all in the first one's vehicle"}
            on={terms.same_vehicle}
            onChange={(on) => say("vehicle", on ? null : "own")}
          />
          <Tick
            label="at the same voltage"
            on={terms.same_voltage}
            onChange={(on) => say("volts", on ? "same" : null)}
          />
          <Ask
            label="costs over"
            unit="years"
            value={answer?.terms.years ?? null}
            onValue={(years) => say("years", years === null ? null : String(years))}
          />
          <Ask
            label="of"
            unit="h a year"
            value={answer?.terms.hours_a_year ?? null}
            onValue={(hours) => say("hours", hours === null ? null : String(hours))}
          />
          <span className="flex-1" />
          <Add named={named} onAdd={(one) => say("with", [...named, one].join(","))} />
        </div>
        {named.length < 2 ? (
          <p className="border-y border-line py-6 text-soft">
            Take two to five builds, or tick results of a match and come back.
          </p>
        ) : null}
        {named.length > 1 && !answer && !trouble ? (
          <p role="status" className="py-6 text-soft">
            Working them out
          </p>
        ) : null}
        {answer ? (
          <>
            <div role="group" aria-label="Moment" className="flex gap-1 overflow-x-auto pb-1">
              {MOMENTS.map(([id, words]) => (
                <button
                  key={id}
                  type="button"
                  aria-pressed={id === moment}
                  onClick={() => say("moment", id)}
                  className="min-h-11 shrink-0 rounded-md px-2.5 text-[13px] whitespace-nowrap text-soft hover:bg-sunk aria-pressed:bg-shallow aria-pressed:font-semibold aria-pressed:text-ink sm:min-h-8"
                >
                  {words}
                </button>
              ))}
            </div>
            <Streams
              candidates={answer.candidates}
              moment={moment}
              onDrop={(place) => say("with", named.filter((_, at) => at !== place).join(","))}
              onFirst={(place) =>
                say(
                  "with",
                  [named[place], ...named.filter((_, at) => at !== place)]
                    .filter(Boolean)
                    .join(","),
                )
              }
            />
            <div className="mt-3 grid gap-x-8 gap-y-4 xl:grid-cols-[1fr_34rem]">
              <Rows answer={answer} />
              <div ref={ref} className="min-w-0 xl:sticky xl:top-2 xl:self-start">
                <PushCurves candidates={answer.candidates} width={width} height={300} />
                <ul className="mt-1 text-[12.5px]">
                  {answer.candidates.map((one, place) => (
                    <li key={markOf(place).letter}>
                      <b className={markOf(place).text}>{markOf(place).letter}</b> {one.drive}
                    </li>
                  ))}
                </ul>
              </div>
            </div>
            {first ? (
              <Baseline document={first.document as unknown as BuildDocument} name={first.name} />
            ) : null}
          </>
        ) : null}
      </main>
    </div>
  );
}

async function documentOf(named: string): Promise<BuildDocument> {
  const [kind, id, rank] = named.split(":");
  if (kind === "build") return (await readBuild(id ?? "")).document;
  const found = await readMatch(id ?? "");
  const result = found.answer?.results.find((one) => String(one.rank) === rank);
  if (!result) throw new ApiError(404, "result", "is not among those of that search any more");
  return result.build as unknown as BuildDocument;
}

function Add({ named, onAdd }: { named: string[]; onAdd: (named: string) => void }) {
  const builds = useQuery(buildList).data?.builds ?? [];
  const others = builds.filter((build) => !named.includes(`build:${build.id}`));
  return (
    <select
      aria-label="Compare with another build"
      value=""
      disabled={named.length >= MOST}
      onChange={(event) => event.target.value && onAdd(event.target.value)}
      className="min-h-11 max-w-full rounded-md border border-line bg-raised px-2 text-[13.5px] sm:min-h-8"
    >
      <option value="">{named.length >= MOST ? "five at most" : "with another build"}</option>
      {others.map((build) => (
        <option key={build.id} value={`build:${build.id}`}>
          {build.name}
        </option>
      ))}
    </select>
  );
}

interface StreamsProps {
  candidates: Candidate[];
  moment: MomentId;
  onDrop: (place: number) => void;
  onFirst: (place: number) => void;
}

/** Streams on one scale: the same breadth is the same watts everywhere. */
function Streams({ candidates, moment, onDrop, onFirst }: StreamsProps) {
  const { text } = useUnits();
  const states = candidates.map((one) => one.moments.find((item) => item.id === moment));
  const most = Math.max(
    ...states.map((one) =>
      one ? Math.max(Math.abs(one.state.cells_w), Math.abs(one.state.road_w)) : 0,
    ),
    1e-9,
  );
  return (
    <ol className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
      {candidates.map((one, place) => {
        const seen = states[place];
        const mark = markOf(place);
        return (
          <li key={mark.letter} className="min-w-0 border-t border-line pt-1">
            <div className="flex items-center gap-2">
              <h2 className="min-w-0 flex-1 truncate text-[14px] font-semibold">
                <span className={mark.text}>{mark.letter}</span> {one.name}
              </h2>
              {place > 0 ? (
                <Button kind="plain" className="sm:min-h-6" onClick={() => onFirst(place)}>
                  set the terms<span className="sr-only"> by {one.name}</span>
                </Button>
              ) : null}
              <Button kind="plain" className="sm:min-h-6" onClick={() => onDrop(place)}>
                leave out<span className="sr-only"> {one.name}</span>
              </Button>
            </div>
            {seen ? (
              <>
                <MiniStream
                  state={seen.state}
                  motors={one.motors}
                  most={most}
                  label={`Stream of ${one.name}, drawn to the scale of the others`}
                />
                <p className="text-[12.5px] text-soft">
                  {text(seen.state.speed_mps, "speed")}, {seen.title.toLowerCase()}
                  {seen.met ? "" : ", less than asked"}
                  {one.changed.length ? `. ${one.changed.join(" ")}` : ""}
                </p>
              </>
            ) : null}
          </li>
        );
      })}
    </ol>
  );
}
