import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ApiError } from "../../api/client";
import { brief, cancelMatch, makeBuild, match, shelfNames } from "../../api/matching";
import type { BriefDocument, MatchAnswer, ShelfNames } from "../../api/types";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/Notice";
import { useSize } from "../../ui/useSize";
import { digits } from "../../units/format";
import { KindForBrief } from "../controller/WhichKind";
import { asked } from "./blanks";
import { type Counts, sameCounts, sortedBy, weightsOf } from "./counts";
import { FallsOut } from "./FallsOut";
import { Front } from "./Front";
import { Progress } from "./Progress";
import { Questions } from "./Questions";
import { ResultRow } from "./ResultRow";
import { useBrief } from "./useBrief";
import { WhyNot } from "./WhyNot";

/** What somebody wishes for, and beside it what the shelf has for that. */
export function BriefPage() {
  const { id = "" } = useParams();
  const read = useQuery(brief(id)).data;
  const name = read?.document.name;
  useEffect(() => {
    document.title = `${name ?? "Brief"}, Young Torrent`;
  }, [name]);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 px-4 pt-2.5 sm:px-6">
        <h1 className="text-[16px] font-semibold">{name ? `A drive for the ${name}` : "Brief"}</h1>
        {read?.builds.length ? (
          <p className="text-[13px] text-soft">
            Builds made for it:{" "}
            {read.builds.map((build, at) => (
              <span key={build.id}>
                {at > 0 ? ", " : ""}
                <Link to={`/builds/${build.id}`} className="text-water underline">
                  {build.name}
                </Link>
              </span>
            ))}
          </p>
        ) : null}
      </div>
      <BriefBody key={id} id={id} />
    </>
  );
}

/** The questions of one brief and what the shelf has for their answers. */
export function BriefBody({ id }: { id: string }) {
  const { saying, document: said, usual, matchId, trouble, undo, search } = useBrief(id);
  const parts = useQuery(shelfNames).data;
  const told = useQuery({ ...match(matchId ?? ""), enabled: matchId !== null }).data;
  // What the last search found stays until the next one has found something.
  const [kept, setKept] = useState<{
    id: string;
    answer: MatchAnswer;
    asked: BriefDocument;
  } | null>(null);
  useEffect(() => {
    if (told?.answer)
      setKept({
        id: told.id,
        answer: told.answer,
        asked: told.document as unknown as BriefDocument,
      });
  }, [told]);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).matches("input, select, textarea");
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z" || typing) return;
      event.preventDefault();
      undo?.();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [undo]);
  return (
    <div className="flex flex-1 flex-col">
      {trouble ? <Notice tone="watch">{trouble}</Notice> : null}
      {saying?.refusal ? (
        <Notice tone="stop">
          Not searched: {asked(saying.refusal.where).toLowerCase()} {saying.refusal.what}.
        </Notice>
      ) : null}
      <main className="grid flex-1 gap-x-8 px-4 pb-8 sm:px-6 lg:grid-cols-[22rem_1fr] xl:grid-cols-[24rem_1fr]">
        <div className="min-w-0">
          {saying ? (
            <>
              <Questions saying={saying} usual={usual} />
              {said?.wheel ? (
                <KindForBrief
                  brief={said}
                  onOnly={(kind) => saying.say("wishes.commutation", kind)}
                />
              ) : null}
            </>
          ) : (
            <p className="py-6 text-soft">Reading</p>
          )}
          <p className="flex flex-wrap items-center gap-x-3 pt-2 text-[12px] text-soft">
            <span className="flex-1">
              Dashed: a guess for such a vehicle. Empty: it does not matter.
            </span>
            <Button
              onClick={undo ?? (() => {})}
              disabled={undo === null}
              title="Takes the last answer of the brief back (Ctrl Z)"
            >
              Undo
            </Button>
          </p>
        </div>
        <div className="min-w-0 scroll-mt-2" id="found">
          <Progress
            match={told}
            onCancel={() => matchId && void cancelMatch(matchId)}
            onAgain={search}
          />
          {kept ? (
            <Found
              answer={kept.answer}
              matchId={kept.id}
              shelf={parts}
              craft={!kept.asked.wheel}
              weights={said ? weightsOf(said, usual) : null}
              asked={weightsOf(kept.asked, usual)}
              whole={told?.state === "done"}
            />
          ) : null}
        </div>
      </main>
      {told && told.feasible > 0 ? (
        <a
          href="#found"
          className="no-print sticky bottom-[var(--way,0px)] border-t border-line bg-raised px-4 py-3 text-center text-[14px] font-semibold text-water lg:hidden"
        >
          {told.feasible.toLocaleString("en-GB")} combinations do: to the list
        </a>
      ) : null}
    </div>
  );
}

interface FoundProps {
  answer: MatchAnswer;
  matchId: string;
  shelf: ShelfNames | undefined;
  /** Whether propellers push it. */
  craft: boolean;
  /** What counts for how much now, and what did when the shelf was searched. */
  weights: Counts | null;
  asked: Counts;
  /** Whether all of the shelf was searched; before, nothing found means nothing yet. */
  whole: boolean;
}

function Found({ answer, matchId, shelf: parts, craft, weights, asked, whole }: FoundProps) {
  const anew = weights !== null && !sameCounts(weights, asked);
  const sorted = anew ? sortedBy(answer.results, weights) : answer.results;
  const [each, setEach] = useState(false);
  const results = each ? oneOfEachMotor(sorted) : sorted;
  const navigate = useNavigate();
  const [marked, setMarked] = useState<number | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [ticks, setTicks] = useState<{ of: string; ranks: number[] }>({ of: matchId, ranks: [] });
  // Ranks are those of one search; the next one begins with none.
  const ticked = ticks.of === matchId ? ticks.ranks : [];
  const tick = (rank: number) =>
    setTicks({
      of: matchId,
      ranks: ticked.includes(rank) ? ticked.filter((one) => one !== rank) : [...ticked, rank],
    });
  const [ref, width] = useSize();
  const names = useMemo(() => {
    const all = [parts?.motors, parts?.controllers, parts?.packs, parts?.propellers].flatMap(
      (list) => list ?? [],
    );
    // A result's build names its parts; the list to choose from may not hold all of them.
    const named = answer.results.flatMap(({ parts: ids, build }) =>
      (["motor", "controller", "battery", "propeller"] as const).flatMap((part) => {
        const id = ids[part];
        const named = (build[part] as { name?: string } | undefined)?.name;
        return id ? [{ id, name: named || id }] : [];
      }),
    );
    return new Map([...named, ...all].map((part) => [part.id, part.name]));
  }, [parts, answer]);
  const nameOf = (id: string) => (id === "own" ? "your own" : (names.get(id) ?? id));
  const make = async (rank: number) => {
    try {
      const made = await makeBuild(matchId, rank);
      void navigate(`/builds/${made.id}`);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`No build was made: the ${problem.where} ${problem.what}.`);
    }
  };
  return (
    <div className="grid gap-x-8 xl:grid-cols-[1fr_15.5rem]">
      <div className="min-w-0">
        {trouble ? <Notice tone="stop">{trouble}</Notice> : null}
        {whole && answer.results.length === 0 ? <Nothing answer={answer} nameOf={nameOf} /> : null}
        {answer.left_out ? (
          <Notice tone="watch">
            You keep more parts of your own than one search looks through:{" "}
            {answer.left_out.toLocaleString("en-GB")} of them were left out, those that can't serve
            the brief and those changed longest ago. A part that the brief says you own is always
            looked at.
          </Notice>
        ) : null}
        {answer.whole === false ? (
          <Notice tone="watch">
            The shelf allows more than can be looked at: these are the best of what was looked at
            first. Say more, such as the greatest mass or price, and the rest comes into view.
          </Notice>
        ) : null}
        {anew ? (
          <p role="status" className="pt-2 text-[13px] text-soft">
            These are sorted by what counts now; the whole shelf is being searched by it.
          </p>
        ) : null}
        {answer.decided && !anew ? (
          <p className="pt-2 text-[13px] text-soft">{answer.decided}</p>
        ) : null}
        {new Set(sorted.map((one) => one.parts.motor)).size > 1 ? (
          <label className="flex min-h-11 items-center gap-1.5 text-[12.5px] text-soft sm:min-h-7">
            <input
              type="checkbox"
              checked={each}
              onChange={(event) => setEach(event.target.checked)}
              className="size-4 accent-water"
            />
            only the best of each motor
          </label>
        ) : null}
        {ticked.length > 1 ? (
          <p className="py-1">
            <Link
              to={`/compare?with=${ticked.map((rank) => `result:${matchId}:${rank}`).join(",")}`}
              className="inline-flex min-h-11 items-center rounded-md border border-line bg-raised px-3 text-[13px] text-water hover:border-water sm:min-h-8"
            >
              Compare the {ticked.length} that are ticked
            </Link>
          </p>
        ) : null}
        <ol>
          {results.map((result, place) => (
            <ResultRow
              key={result.rank}
              result={result}
              place={place + 1}
              follows={results[place - 1]?.rank === result.rank - 1}
              nameOf={nameOf}
              marked={marked === result.rank}
              onMark={setMarked}
              onMake={make}
              ticked={ticked.includes(result.rank)}
              onTick={
                ticked.includes(result.rank) || ticked.length < 5 ? () => tick(result.rank) : null
              }
            />
          ))}
        </ol>
      </div>
      <aside ref={ref} className="min-w-0">
        {answer.results.length > 0 ? <Front answer={answer} marked={marked} width={width} /> : null}
        <FallsOut answer={answer} />
        {parts ? <WhyNot matchId={matchId} shelf={parts} craft={craft} /> : null}
      </aside>
    </div>
  );
}

const oneOfEachMotor = (results: MatchAnswer["results"]) =>
  results.filter(
    (one, place) => results.findIndex((other) => other.parts.motor === one.parts.motor) === place,
  );

/** Nothing does: the single wishes which, given up so far, would let something through. */
function Nothing({ answer, nameOf }: { answer: MatchAnswer; nameOf: (id: string) => string }) {
  return (
    <div className="py-3 text-[14px]">
      {answer.relaxed.length > 0 ? (
        <>
          <p className="mb-1 font-semibold">One of these alone would let something through:</p>
          <ul className="list-disc pl-5">
            {answer.relaxed.map((one) => (
              <li key={one.wish} className="py-0.5">
                {one.say}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p>
          No single wish given up would be enough.{" "}
          {answer.blocked?.length
            ? "These fixed rules stand in the way:"
            : "Ask for less of two things, or look at the reasons beside."}
        </p>
      )}
      <ul className="list-disc pl-5">
        {answer.blocked?.map((one) => (
          <li key={one.rule} className="py-0.5">
            <b>{one.say}</b> rules out {one.count.toLocaleString("en-GB")} combinations.{" "}
            {one.nearest ? (
              <>
                Nearest without it: {nameOf(one.nearest.motor)}, {nameOf(one.nearest.controller)},{" "}
                {nameOf(one.nearest.battery)},{" "}
                {one.nearest.propeller
                  ? nameOf(one.nearest.propeller)
                  : `${digits(one.nearest.ratio, 3)} to 1`}
                . {one.why}
              </>
            ) : (
              "Even without it nothing would do."
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
