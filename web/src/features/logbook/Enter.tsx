import { useState } from "react";
import { useDebounce } from "use-debounce";
import { expectedReadings } from "../../api/logbook";
import type { ImpliedFigures, MeasuredRunBody } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { FromTable } from "./FromTable";
import { KINDS, type KindForm, type Observation, samplesOf } from "./kinds";
import { Readings } from "./Readings";
import { useSending } from "./useSending";

/** A run as it is entered: how the day was, and one reading after another. */
export function Enter() {
  const { state } = useOpened();
  const { build, saving } = state;
  const sending = useSending(build.id);
  const [run, setRun] = useState<MeasuredRunBody>(() => draftOf(build.id));
  const say = (some: Partial<MeasuredRunBody>) => {
    const next = { ...run, ...some };
    setRun(next);
    localStorage.setItem(NAME + build.id, JSON.stringify(next));
  };
  const [kind, setKind] = useState<KindForm>(KINDS[0] as KindForm);
  const [asked] = useDebounce(run, 400);
  const version = build.head;
  const { data } = useAsked(
    [build.id, version, asked, "expected"],
    () => expectedReadings(build.id, { version, run: asked }),
    asked.observations.length > 0 && saving === "saved",
  );
  const keep = () => {
    sending.put({ version, run });
    say({ observations: [], note: null });
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
        {KINDS.map((one) => (
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
      <Form
        key={kind.id + run.observations.length}
        kind={kind}
        onRead={(observation) => say({ observations: [...run.observations, observation] })}
      />
      <FromTable
        onRead={(observation) =>
          setRun((before) => {
            const next = { ...before, observations: [...before.observations, observation] };
            localStorage.setItem(NAME + build.id, JSON.stringify(next));
            return next;
          })
        }
      />
      {run.observations.length ? (
        <div className="border-t border-line pt-2">
          <h2 className="text-[15px] font-semibold">This run</h2>
          <ul>
            {run.observations.map((seen, at) => (
              // Readings of a run have no identity but their order.
              <li key={at} className="flex items-center gap-3 py-0.5">
                <span className="flex-1">{KINDS.find((one) => one.id === seen.kind)?.title}</span>
                <Button
                  kind="plain"
                  onClick={() =>
                    say({ observations: run.observations.filter((_, index) => index !== at) })
                  }
                >
                  Take out
                </Button>
              </li>
            ))}
          </ul>
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
      <p role="status" className="min-h-6 pt-2 text-soft">
        {sending.waiting ? `${sending.waiting} waiting. ` : ""}
        {sending.told}
      </p>
    </section>
  );
}

/** What a speed says by itself, where nothing else was logged. */
function Implied({ said }: { said: ImpliedFigures }) {
  const value = useValue();
  const amps = said.motor_current_a;
  return (
    <p className="pt-1 text-[12.5px] text-soft">
      At {value(said.speed_kmh, "km/h", 3)} the motor turns{" "}
      <b className="text-ink">{value(said.motor_rpm, "rpm", 4)}</b>, the wheel{" "}
      {value(said.wheel_rpm, "rpm", 3)}
      {amps === null || amps === undefined
        ? ""
        : `; by what is known of the drag it takes ${value(amps, "A", 2)} of each motor`}
      {said.load_factor === null || said.load_factor === undefined
        ? ""
        : `; the load factor of the trade's formula is then ${said.load_factor.toFixed(2)}`}
      .
    </p>
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

interface FormProps {
  kind: KindForm;
  onRead: (observation: Observation) => void;
}

function Form({ kind, onRead }: FormProps) {
  const [values, setValues] = useState<Record<string, number | null>>({});
  const [text, setText] = useState("");
  const rolls = kind.id === "coast_down";
  const samples = rolls ? samplesOf(text) : null;
  const missing = kind.asked.filter((one) => one.needed && values[one.key] == null);
  const read = kind.asked.filter((one) => !one.needed && values[one.key] != null);
  const ready = rolls
    ? samples !== null
    : missing.length === 0 &&
      (read.some((one) => one.key !== "grade_pct") || kind.id === "roll_out");
  const add = () => {
    const said = Object.fromEntries(
      Object.entries(values).filter(([, value]) => value !== null),
    ) as Record<string, number>;
    onRead({ kind: kind.id, ...said, ...(samples ? { samples } : {}) } as unknown as Observation);
  };
  return (
    <div className="py-2">
      <p className="text-soft">{kind.how}</p>
      {rolls ? (
        <label className="block pt-1">
          <span className="sr-only">Seconds and speed, a line each</span>
          <textarea
            value={text}
            onChange={(event) => setText(event.target.value)}
            rows={6}
            placeholder={"0 30\n2 28.4\n4 26.9"}
            className="w-60 rounded-md border border-line bg-raised p-2 tabular-nums"
          />
        </label>
      ) : null}
      <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
        {kind.asked.map((one) => (
          <Ask
            key={one.key}
            label={one.label}
            unit={one.unit}
            value={values[one.key] ?? null}
            onValue={(value) => setValues({ ...values, [one.key]: value })}
          />
        ))}
      </div>
      <Button disabled={!ready} onClick={add}>
        Add it to the run
      </Button>
      {missing.length && Object.values(values).some((value) => value != null) ? (
        <span className="ml-3 text-soft">
          {missing.map((one) => one.label.toLowerCase()).join(", ")} still to say
        </span>
      ) : null}
    </div>
  );
}
