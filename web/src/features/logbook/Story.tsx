import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import {
  expectedReadings,
  keepRun,
  logbook,
  logDocument,
  logTable,
  takeRunOut,
} from "../../api/logbook";
import type { MeasuredRunBody, MeasuredRunCard } from "../../api/types";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { ofTheDay } from "./day";
import { Photos } from "./Photos";
import { Readings } from "./Readings";

/** The runs of a build in the order of time: what was changed before each, and what was read. */
export function Story() {
  const { state } = useOpened();
  const { build } = state;
  const client = useQueryClient();
  const { data, error } = useAsked([build.id, "logbook", build.head], () => logbook(build.id));
  const [gone, setGone] = useState<MeasuredRunCard | null>(null);
  const [trouble, setTrouble] = useState("");
  const anew = () => client.invalidateQueries({ queryKey: ["asked", build.id, "logbook"] });
  const done = async (work: Promise<unknown>, then: MeasuredRunCard | null) => {
    try {
      await work;
      setGone(then);
      setTrouble("");
      await anew();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`Not done: ${problem.where} ${problem.what}.`);
    }
  };
  if (!data) return <Waiting error={error} what="Opening the logbook" />;
  return (
    <section aria-label="Measured runs" className="text-[13.5px]">
      <p role="status" className="flex min-h-8 items-center gap-2 text-soft">
        {trouble}
        {gone ? (
          <>
            A run is taken out.
            <Button
              kind="plain"
              onClick={() =>
                void done(
                  keepRun(build.id, gone.id, { version: gone.version, run: gone.run }),
                  null,
                )
              }
            >
              Bring it back
            </Button>
          </>
        ) : null}
      </p>
      {data.length === 0 ? (
        <p className="max-w-[60ch] text-soft">
          Nothing measured yet. Enter a run: a top speed off a satellite display, turns with the
          wheels up, one turn of the tyre by tape. Each stands beside what was predicted, and
          teaches the build.
        </p>
      ) : (
        <>
          <ol>
            {data.map((run, place) => (
              <One
                key={run.id}
                run={run}
                number={place + 1}
                buildId={build.id}
                onOut={() => void done(takeRunOut(build.id, run.id), run)}
                onChange={anew}
                onSay={(body) =>
                  void done(keepRun(build.id, run.id, { version: run.version, run: body }), gone)
                }
              />
            ))}
          </ol>
          <p className="no-print flex gap-4 pt-3 text-water">
            <a href={logDocument(build.id)} download>
              Log document
            </a>
            <a href={logTable(build.id)} download>
              Table of all readings (CSV)
            </a>
          </p>
        </>
      )}
    </section>
  );
}

interface OneProps {
  run: MeasuredRunCard;
  number: number;
  buildId: string;
  onOut: () => void;
  onChange: () => Promise<unknown>;
  /** Keeps the run as it is said now. */
  onSay: (run: MeasuredRunBody) => void;
}

function One({ run, number, buildId, onOut, onChange, onSay }: OneProps) {
  const { data, error } = useAsked([buildId, run.version, run.run, "expected"], () =>
    expectedReadings(buildId, { version: run.version, run: run.run }),
  );
  const value = useValue();
  const others = ofTheDay(run, value);
  return (
    <li className="border-t border-line py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-[15px] font-semibold">
          Run {number},{" "}
          {run.run.date
            ? new Date(run.run.date).toLocaleDateString("en-GB", { dateStyle: "long" })
            : "no day said"}
        </h2>
        <span className="text-soft">
          version {run.version}
          {run.learned ? ", learned from" : ""}
        </span>
        <span className="flex-1" />
        <Button kind="plain" onClick={onOut}>
          Take it out
        </Button>
      </div>
      {run.changes.length ? (
        <p className="text-soft">
          Changed before it:{" "}
          {run.changes
            .map((change) => `${change.label} ${said(change.before)} to ${said(change.after)}`)
            .join("; ")}
        </p>
      ) : null}
      {others.length ? (
        <p className="text-soft">
          On the day:{" "}
          {others.map((one) => (
            <span key={one.label} className="mr-3">
              {one.label} {one.value}
              <Button
                kind="plain"
                aria-label={`Leave out of run ${number}: ${one.label}`}
                onClick={() => onSay(one.without)}
              >
                Leave out
              </Button>
            </span>
          ))}
        </p>
      ) : null}
      {run.run.note ? <p>{run.run.note}</p> : null}
      {data ? (
        <Readings readings={data.readings} />
      ) : (
        <Waiting error={error} what="Looking what was predicted" />
      )}
      <Photos run={run} number={number} buildId={buildId} onChange={onChange} />
    </li>
  );
}

const said = (value: unknown) =>
  value === null || value === undefined
    ? "nothing"
    : typeof value === "object"
      ? "another"
      : String(value);
