import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { fieldList } from "../../../api/queries";
import type { Facts, FieldInfo, Identified, PartId } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { Notice } from "../../../ui/Notice";
import { digits, typed } from "../../../units/format";
import { useUnits } from "../../../units/preferences";
import { documentUnit, toShown, toStored } from "../../../units/quantities";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { learned } from "./learned";
import { useIdentified } from "./useIdentified";

interface Props {
  part: Extract<PartId, "motor" | "pack">;
  bench: Workbench;
  state: BenchState;
}

type Typed = Record<string, string>;

const SECTION = { motor: "motor", pack: "battery" } as const;
/** The one fact that is a list: points, a line for each. */
const CURVE = "curve";

interface Route {
  title: string;
  how: string;
  keys: string[];
}

/** The ways in which people know a part; each opens the few inputs that it needs. */
const ROUTES: Record<Props["part"], Route[]> = {
  motor: [
    {
      title: "The maker's figures",
      how: "As the listing states them.",
      keys: ["kv_rpm_per_v", "resistance_ohm", "no_load_current_a"],
    },
    {
      title: "A plate",
      how: "Say whether its watts go in at the wires or come out at the shaft.",
      keys: [
        "rated_voltage_v",
        "rated_speed_rpm",
        "rated_current_a",
        "rated_power_w",
        "power_is",
        "duty",
        "duty_min",
      ],
    },
    {
      title: "A drill",
      how: "Turn the shaft from outside, no controller connected, and read the volts between two wires.",
      keys: ["spun_rpm", "spun_line_v"],
    },
    {
      title: "A bench supply",
      how: "Send a few known amps through two wires with the shaft held.",
      keys: ["test_current_a", "test_voltage_v"],
    },
    {
      title: "A free run",
      how: "Nothing to turn: wheels on a stand or propeller off, full throttle, everybody clear.",
      keys: ["free_voltage_v", "free_speed_rpm", "free_current_a"],
    },
    {
      title: "A second free run",
      how: "The same at other volts; what both lose alike drops out.",
      keys: ["second_free_voltage_v", "second_free_speed_rpm", "second_free_current_a"],
    },
    {
      title: "Stall figures",
      how: "From the data sheet, at its rated volts.",
      keys: ["stall_torque_nm", "stall_current_a", "rated_voltage_v"],
    },
    {
      title: "A curve",
      how: "Points of a published curve or table, all at these volts; a series-wound motor needs four.",
      keys: ["curve_voltage_v", CURVE],
    },
    {
      title: "Turns and can",
      how: "No more than the right order.",
      keys: ["turns", "diameter_mm", "length_mm", "mass_kg"],
    },
  ],
  pack: [
    {
      title: "Two loads",
      how: "Volts of the whole pack under a light and under a heavy load, some seconds apart.",
      keys: ["light_current_a", "light_voltage_v", "heavy_current_a", "heavy_voltage_v"],
    },
    { title: "A charger", how: "What it shows for one cell position.", keys: ["charger_mohm"] },
    { title: "A C rating", how: "An estimate from the print.", keys: ["c_rating"] },
  ],
};

const CARRIED = {
  motor: ["diameter_mm", "length_mm", "mass_kg"],
  pack: ["series", "parallel", "cell_capacity_ah"],
} as const;

/** From what is known of a part to the constants the engine needs; one fact is enough to begin. */
export function WorkOut({ part, bench, state }: Props) {
  const { choice } = useUnits();
  const { data } = useQuery(fieldList);
  const key = `young-torrent.facts.${state.build.id}.${part}`;
  const [facts, setFacts] = useState<Typed>(() => kept(key));
  const [open, setOpen] = useState(() => Object.keys(kept(key)).length > 0);
  const prefix = part === "motor" ? "motor" : "cell";
  const fields = (part === "motor" ? data?.motor_facts : data?.cell_facts) ?? [];
  const keep = (path: string, text: string) => {
    const next = { ...facts, [path]: text };
    if (text === "") delete next[path];
    setFacts(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const write = (field: FieldInfo, text: string) => keep(field.path, text);
  const body = factsOf(part, state, fields, facts, (field, text) => {
    const number = typed(text);
    return number === null ? null : toStored(number, documentUnit(field.unit, choice));
  });
  const any = Object.keys(facts).length > 0;
  // Facts tell the constants of some kinds of motor only.
  const tells = part === "pack" || data?.fact_kinds.includes(state.document.motor.kind);
  const answer = useIdentified(body, open && any && tells === true);
  const found = any ? (part === "motor" ? answer.data?.motor : answer.data?.cell) : null;
  const routes = ROUTES[part];
  const [chosen, setChosen] = useState<string[]>([]);
  const shown = routes.filter(
    (route) =>
      chosen.includes(route.title) || route.keys.some((name) => facts[`${prefix}.${name}`]),
  );
  const toggle = (title: string) =>
    setChosen((now) =>
      now.includes(title) ? now.filter((item) => item !== title) : [...now, title],
    );
  if (tells === false) return null;
  return (
    <details
      className="mb-3 rounded-md border border-line px-3 py-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-1 text-[13px] font-semibold text-water">
        Work it out from what you know
      </summary>
      <div className="grid gap-x-8 gap-y-2 pb-2 lg:grid-cols-[1.25fr_1fr]">
        <div>
          <p className="text-[12.5px] text-soft">
            What do you have? One fact is enough to begin; each further one sharpens the answer.
          </p>
          <p className="flex flex-wrap gap-1.5 py-2">
            {routes.map((route) => (
              <Button
                key={route.title}
                aria-pressed={shown.includes(route)}
                className="aria-pressed:border-water aria-pressed:font-semibold"
                onClick={() => toggle(route.title)}
              >
                {route.title}
              </Button>
            ))}
          </p>
          {shown.map((route) => (
            <fieldset key={route.title} className="border-t border-line py-1.5">
              <legend className="sr-only">{route.title}</legend>
              <p className="text-[12px] text-soft">{route.how}</p>
              <div className="grid grid-cols-2 gap-x-4 gap-y-1 sm:grid-cols-4">
                {route.keys.map((name) => {
                  if (name === CURVE) {
                    return (
                      <CurvePoints
                        key={name}
                        text={facts[`${prefix}.${CURVE}`] ?? ""}
                        onText={(text) => keep(`${prefix}.${CURVE}`, text)}
                      />
                    );
                  }
                  const field = fields.find((item) => item.path === `${prefix}.${name}`);
                  return field ? (
                    <Fact key={name} field={field} text={facts[field.path] ?? ""} onText={write} />
                  ) : null;
                })}
              </div>
            </fieldset>
          ))}
        </div>
        <div aria-live="polite">
          {answer.error ? <Notice tone="stop">{answer.error.message}</Notice> : null}
          {found ? (
            <Outcome part={part} found={found} bench={bench} fields={data?.fields ?? []} />
          ) : null}
        </div>
      </div>
    </details>
  );
}

/** Points as people copy them from a table: torque, rpm and amps on each line. */
function CurvePoints({ text, onText }: { text: string; onText: (text: string) => void }) {
  const id = useId();
  const misread = text !== "" && points(text) === null;
  return (
    <div className="col-span-2 text-[12.5px] sm:col-span-3">
      <label htmlFor={id}>
        Points <span className="text-soft">N·m, rpm, A on each line</span>
      </label>
      <textarea
        id={id}
        rows={4}
        placeholder={"2.1  3150  22\n6.4  2610  51"}
        className={`mt-0.5 block w-full rounded-md border bg-raised px-2 py-1 text-[13px] tabular-nums ${misread ? "border-stop" : "border-line"}`}
        aria-invalid={misread}
        value={text}
        onChange={(event) => onText(event.target.value)}
      />
      {misread ? (
        <p role="alert" className="font-semibold text-stop">
          Each line needs three numbers: torque, rpm, amps.
        </p>
      ) : null}
    </div>
  );
}

/** The points of a pasted table, null if a line is not three numbers. */
function points(text: string) {
  const lines = text.split("\n").filter((line) => line.trim() !== "");
  const rows = lines.map((line) =>
    line
      .trim()
      .split(/[;\t ]+|,\s+/)
      .map(typed),
  );
  if (!rows.every((row) => row.length === 3 && row.every((value) => value !== null))) return null;
  return rows.map(([torque_nm, rpm, current_a]) => ({ torque_nm, rpm, current_a }));
}

interface FactProps {
  field: FieldInfo;
  text: string;
  onText: (field: FieldInfo, text: string) => void;
}

function Fact({ field, text, onText }: FactProps) {
  const id = useId();
  const { choice } = useUnits();
  const unit = documentUnit(field.unit, choice);
  const wrong = text !== "" && field.kind !== "choice" && typed(text) === null;
  const box = "mt-0.5 w-full min-w-0 rounded-md border bg-raised px-2 py-0.5 text-[13.5px]";
  return (
    <div className="text-[12.5px]" title={field.explain}>
      <label htmlFor={id}>
        {field.label} <span className="text-soft">{unit.sign}</span>
      </label>
      {field.kind === "choice" ? (
        <select
          id={id}
          className={`${box} border-line`}
          value={text}
          onChange={(event) => onText(field, event.target.value)}
        >
          <option value="">not said</option>
          {field.options.map((option) => (
            <option key={option} value={option}>
              {option.replaceAll("_", " ")}
            </option>
          ))}
        </select>
      ) : (
        <input
          id={id}
          className={`${box} tabular-nums ${wrong ? "border-stop" : "border-line"}`}
          inputMode="decimal"
          aria-invalid={wrong}
          value={text}
          onChange={(event) => onText(field, event.target.value)}
        />
      )}
    </div>
  );
}

interface OutcomeProps {
  part: Props["part"];
  found: Identified;
  bench: Workbench;
  fields: FieldInfo[];
}

function Outcome({ part, found, bench, fields }: OutcomeProps) {
  const { choice } = useUnits();
  const section = SECTION[part];
  const values = Object.values(found.values);
  const label = (name: string) =>
    fields.find((field) => field.path === `${section}.${name}`) ?? null;
  return (
    <div className="border-l-4 border-water bg-raised px-3 py-2 text-[13px]">
      {values.length === 0 ? (
        <p className="text-soft">Nothing follows from these facts yet.</p>
      ) : null}
      <ul className="grid gap-y-1">
        {values.map((finding) => {
          const field = label(finding.key);
          const unit = documentUnit(field?.unit ?? "", choice);
          return (
            <li key={finding.key}>
              {field?.label ?? finding.key}{" "}
              <span className="figure">{digits(toShown(finding.value, unit))}</span> {unit.sign}{" "}
              <span className="text-soft">
                ±{digits(finding.tolerance * 100, 2)} %, by {finding.route}
              </span>
            </li>
          );
        })}
      </ul>
      {found.contradictions.map((clash) => (
        <Notice key={clash.say} tone="watch">
          <span className="font-semibold">{label(clash.key)?.label ?? clash.key}</span> {clash.say}
        </Notice>
      ))}
      {Object.entries(found.missing).map(([name, how]) => (
        <p key={name} className="text-[12.5px] text-soft">
          {label(name)?.label ?? name}: {how}
        </p>
      ))}
      {values.length ? (
        <Button
          kind="main"
          className="mt-2"
          onClick={() => bench.act(learned(section, found.values))}
        >
          Use {values.length === 1 ? "it" : "these"}
        </Button>
      ) : null}
    </div>
  );
}

function factsOf(
  part: Props["part"],
  state: BenchState,
  fields: FieldInfo[],
  facts: Typed,
  read: (field: FieldInfo, text: string) => number | null,
): Facts {
  const own: Record<string, unknown> = {};
  const section = state.document[SECTION[part]] as unknown as Record<string, unknown>;
  for (const key of CARRIED[part]) if (section[key] != null) own[key] = section[key];
  if (part === "pack") own.chemistry = state.document.battery.chemistry;
  else {
    own.kind = state.document.motor.kind;
    own.commutation = state.document.motor.commutation ?? "brushless";
  }
  for (const field of fields) {
    const text = facts[field.path];
    if (text === undefined) continue;
    const value = field.kind === "choice" ? text : read(field, text);
    if (value !== null) own[field.path.split(".").at(-1) ?? ""] = value;
  }
  const name = part === "motor" ? "motor" : "cell";
  const curve = points(facts[`${name}.${CURVE}`] ?? "");
  if (curve?.length) own[CURVE] = curve;
  return { format: "young-torrent.facts/1", [name]: own } as Facts;
}

function kept(key: string): Typed {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "{}") as Typed;
  } catch {
    return {};
  }
}
