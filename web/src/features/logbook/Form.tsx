import { useState } from "react";
import { ApiError } from "../../api/client";
import { timedSpeed } from "../../api/logbook";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { useValue } from "../../units/useValue";
import { INSTRUMENTS, type KindForm, type Observation, samplesOf } from "./kinds";

interface Props {
  kind: KindForm;
  onRead: (observation: Observation) => void;
}

/** One reading as it is taken: its figures, with what they were read and how exactly. */
export function Form({ kind, onRead }: Props) {
  const [values, setValues] = useState<Record<string, number | null>>({});
  const [instrument, setInstrument] = useState("");
  const [exactly, setExactly] = useState(false);
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
    onRead({
      kind: kind.id,
      ...(instrument ? { instrument } : {}),
      ...said,
      ...(samples ? { samples } : {}),
    } as unknown as Observation);
  };
  const doubted = kind.asked.filter(
    (one) => values[one.key] != null && one.key !== "grade_pct" && !one.given,
  );
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
      {kind.id === "top_speed" || kind.id === "steady" ? (
        <Timed
          onSpeed={(speed_kmh, speed_kmh_tolerance) =>
            setValues({
              ...values,
              speed_kmh,
              ...(kind.id === "top_speed" ? { speed_kmh_tolerance } : {}),
            })
          }
        />
      ) : null}
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 pb-1">
        <label className="flex items-center gap-2">
          Read with
          <select
            value={instrument}
            onChange={(event) => setInstrument(event.target.value)}
            className="min-h-11 rounded-md border border-line bg-raised px-1 sm:min-h-8"
          >
            <option value="">the usual instrument</option>
            {INSTRUMENTS.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <Button
          kind="plain"
          aria-expanded={exactly}
          disabled={doubted.length === 0 && !rolls}
          onClick={() => setExactly(!exactly)}
        >
          How exactly?
        </Button>
        {exactly
          ? (rolls ? [{ key: "speed_kmh", label: "Speed", unit: "km/h" }] : doubted).map((one) => (
              <Ask
                key={one.key}
                label={`${one.label} within ±`}
                unit={one.unit}
                value={values[`${one.key}_tolerance`] ?? null}
                onValue={(value) => setValues({ ...values, [`${one.key}_tolerance`]: value })}
              />
            ))
          : null}
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

/** A speed by stopwatch, over a marked way or a lap. */
function Timed({ onSpeed }: { onSpeed: (kmh: number, doubt: number) => void }) {
  const [way, setWay] = useState<number | null>(null);
  const [time, setTime] = useState<number | null>(null);
  const [told, setTold] = useState("");
  const value = useValue();
  const ask = async (way_m: number | null, time_s: number | null) => {
    setWay(way_m);
    setTime(time_s);
    if (way_m === null || time_s === null) return;
    try {
      const { speed_kmh, speed_kmh_tolerance } = await timedSpeed(way_m, time_s);
      setTold(`makes ${value(speed_kmh, "km/h", 3)}, the mean of it`);
      onSpeed(Number(speed_kmh.toFixed(3)), Number(speed_kmh_tolerance.toFixed(3)));
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`${problem.where} ${problem.what}`);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-1 text-soft">
      <span>or by stopwatch over a marked way or a lap:</span>
      <Ask label="Way" unit="m" value={way} onValue={(next) => void ask(next, time)} />
      <Ask label="in" unit="s" value={time} onValue={(next) => void ask(way, next)} />
      <span role="status">{told}</span>
    </div>
  );
}
