import { useState } from "react";
import { useDebounce } from "use-debounce";
import { expectedReadings } from "../../api/logbook";
import type { MeasuredRunBody } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { useOpened } from "../../workbench/opened";
import { Form } from "./Form";
import { FromTable } from "./FromTable";
import { Implied } from "./Implied";
import { InThisRun } from "./InThisRun";
import { type KindForm, kindsFor, type Observation } from "./kinds";
import { LoggerLine } from "./LoggerLine";
import { Otherwise } from "./Otherwise";
import { Readings } from "./Readings";
import { useSending } from "./useSending";

/** A run as it is entered: how the day was, and one reading after another. */
export function Enter() {
  const { state } = useOpened();
  const { build, saving, document } = state;
  const [run, setRun] = useState<MeasuredRunBody>(() => draftOf(build.id));
  const change = (to: (before: MeasuredRunBody) => MeasuredRunBody) =>
    setRun((before) => {
      const next = to(before);
      localStorage.setItem(NAME + build.id, JSON.stringify(next));
      return next;
    });
  const say = (some: Partial<MeasuredRunBody>) => change((before) => ({ ...before, ...some }));
  const add = (observation: Observation) =>
    change((before) => ({ ...before, observations: [...before.observations, observation] }));
  // What the server can't take comes back to be mended, unless another is being entered already.
  const sending = useSending(build.id, ({ run: refused }) =>
    change((before) => (before.observations.length ? before : refused)),
  );
  const [table, setTable] = useState<File | null>(null);
  const kinds = kindsFor(document);
  const [kind, setKind] = useState<KindForm>(kinds[0] as KindForm);
  const [asked] = useDebounce(run, 400);
  const version = build.head;
  const { data } = useAsked(
    [build.id, version, asked, "expected"],
    () => expectedReadings(build.id, { version, run: asked }),
    asked.observations.length > 0 && saving === "saved",
  );
  const keep = () => {
    sending.put({ version, run });
    say({ observations: [], note: null, changes: {} });
  };
  return (
    <section aria-label="Enter a run" className="max-w-4xl text-[13.5px]">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <label className="flex items-center gap-2">
          Day
          <input
            type="date"
            value={run.date ?? ""}
            onChange={(event) => say({ date: event.target.value || null })}
            className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          />
        </label>
        <Ask
          label="Air"
          unit="C"
          value={run.conditions?.ambient_c ?? null}
          onValue={(ambient_c) => say({ conditions: { ...run.conditions, ambient_c } })}
        />
        <Ask
          label="Headwind"
          unit="m/s"
          value={run.conditions?.wind_mps ?? null}
          onValue={(wind_mps) => say({ conditions: { ...run.conditions, wind_mps } })}
        />
        <Otherwise run={run} onRun={say} />
        <label className="flex min-w-60 flex-1 items-center gap-2">
          Note
          <input
            value={run.note ?? ""}
            maxLength={2000}
            placeholder="Who, where, what was odd"
            onChange={(event) => say({ note: event.target.value || null })}
            className="min-h-11 w-full rounded-md border border-line bg-raised px-2 sm:min-h-8"
          />
        </label>
      </div>
      <div role="radiogroup" aria-label="What was measured" className="flex flex-wrap gap-1.5 pt-3">
        {kinds.map((one) => (
          <Button
            key={one.id}
            role="radio"
            aria-checked={one.id === kind.id}
            className={one.id === kind.id ? "border-water font-semibold" : ""}
            onClick={() => setKind(one)}
          >
            {one.title}
          </Button>
        ))}
      </div>
      <Form key={kind.id + run.observations.length} kind={kind} onRead={add} />
      {run.observations.length ? (
        <div className="border-t border-line pt-2">
          <h2 className="text-[15px] font-semibold">This run</h2>
          <InThisRun
            seen={run.observations}
            onOut={(at) =>
              say({ observations: run.observations.filter((_, index) => index !== at) })
            }
          />
          <section aria-label="Beside what was predicted">
            <Readings readings={data?.readings ?? []} />
            {(data?.implied ?? []).map((one) => (
              <Implied key={`${one.speed_kmh}${one.load_factor}`} said={one} />
            ))}
          </section>
          <Button kind="main" className="mt-2" disabled={saving !== "saved"} onClick={keep}>
            Keep this run
          </Button>
        </div>
      ) : null}
      <p role="status" className="min-h-6 py-1 text-soft">
        {sending.waiting ? `${sending.waiting} waiting. ` : ""}
        {sending.told}
      </p>
      <FromTable sent={table} onRead={add} />
      <LoggerLine onTable={setTable} />
    </section>
  );
}

const NAME = "young-torrent.run-draft.";

function draftOf(buildId: string): MeasuredRunBody {
  const today = new Date().toISOString().slice(0, 10);
  const empty: MeasuredRunBody = { date: today, note: null, observations: [] };
  try {
    return (
      (JSON.parse(localStorage.getItem(NAME + buildId) ?? "null") as MeasuredRunBody | null) ??
      empty
    );
  } catch {
    return empty;
  }
}
