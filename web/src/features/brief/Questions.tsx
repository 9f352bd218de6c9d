import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { shelfNames } from "../../api/matching";
import { PRICE } from "../../units/quantities";
import { Blank } from "./Blank";
import { Choice } from "./Choice";
import type { Counts } from "./counts";
import type { Saying } from "./useBrief";

const GROUND: [string, string][] = [
  ["0.005", "smooth rollers or track"],
  ["0.01", "tarmac"],
  ["0.02", "gravel"],
  ["0.04", "hard earth"],
  ["0.08", "wet grass"],
  ["0.15", "mud or sand"],
];

interface BlankInfo {
  label: string;
  unit: string;
  /** What stands in the blank while nothing is said. */
  open?: string;
  needed?: boolean;
}

/** Every number that is asked for, by its place in the document. */
const BLANKS = {
  "vehicle.mass_kg": { label: "Mass without drive", unit: "kg", open: "?", needed: true },
  "wheel.rolling_circumference_mm": {
    label: "One turn of the wheel",
    unit: "mm",
    open: "?",
    needed: true,
  },
  "final_drive.ratio": { label: "Ratio of the axle itself", unit: "", open: "nothing" },
  "vehicle.drag_area_m2": { label: "Drag area", unit: "m2", open: "?", needed: true },
  "wishes.top_speed_kmh.min": { label: "Top speed at least", unit: "km/h" },
  "wishes.top_speed_kmh.max": { label: "Top speed at most", unit: "km/h" },
  "wishes.cruise_kmh": { label: "Cruising speed", unit: "km/h" },
  "wishes.climb.grade_pct": { label: "Grade of the hill", unit: "%", open: "no" },
  "wishes.climb.length_m": { label: "Length of the hill", unit: "m" },
  "wishes.climb.speed_kmh": { label: "Speed on the hill", unit: "km/h" },
  "wishes.range_km": { label: "Range", unit: "km" },
  "wishes.budget": { label: "Budget", unit: PRICE, open: "no limit" },
  "wishes.max_added_mass_kg": { label: "Added mass at most", unit: "kg" },
  "wishes.max_full_charge_v": { label: "Volts at most", unit: "V" },
  "wishes.motor_space.diameter_mm": { label: "Motor's diameter at most", unit: "mm" },
} satisfies Record<string, BlankInfo>;

/** What is asked for at a place, in the words of the page. */
export function asked(path: string): string {
  const blank = (BLANKS as Record<string, BlankInfo>)[path];
  const last = path.split(".").at(-1) ?? path;
  return blank?.label ?? last.replace(/_(kmh|km|kg|mm|m|m2|pct|v|s)$/, "").replaceAll("_", " ");
}

/** The brief, asked as one would ask a friend: a few sentences with blanks. */
export function Questions({ saying, usual }: { saying: Saying; usual: Counts }) {
  const blank = (path: keyof typeof BLANKS) => (
    <Blank saying={saying} path={path} {...BLANKS[path]} />
  );
  return (
    <div>
      <Ask title="What has to move?">
        It weighs {blank("vehicle.mass_kg")} with its load, without motor, controller and pack, and
        rolls {blank("wheel.rolling_circumference_mm")} in one turn of the driven wheel, on{" "}
        <Ground saying={saying} />. Its drag area is {blank("vehicle.drag_area_m2")}. The axle
        itself gears down by {blank("final_drive.ratio")}.
      </Ask>
      <Ask title="How fast?">
        At least {blank("wishes.top_speed_kmh.min")} and at most {blank("wishes.top_speed_kmh.max")}{" "}
        flat out on the level; {blank("wishes.cruise_kmh")} on an ordinary trip.
      </Ask>
      <Ask title="Which hill?">
        One of {blank("wishes.climb.grade_pct")}
        {saying.value("wishes.climb") ? (
          <>
            , {blank("wishes.climb.length_m")} long, at {blank("wishes.climb.speed_kmh")}
          </>
        ) : null}
        .
      </Ask>
      <Ask title="How far?">
        {blank("wishes.range_km")} on one charge, at the speed of an ordinary trip.
      </Ask>
      <Ask title="What are the limits?">
        {blank("wishes.budget")} to spend, {blank("wishes.max_added_mass_kg")} of drive to carry,{" "}
        {blank("wishes.max_full_charge_v")} fresh off the charger. The motor is{" "}
        <Brushes saying={saying} /> and at most {blank("wishes.motor_space.diameter_mm")} across.
      </Ask>
      <Ask title="What is there already?">
        <Owned saying={saying} />
      </Ask>
      <Ask title="What counts most?">
        <Weights saying={saying} usual={usual} />
      </Ask>
    </div>
  );
}

function Ask({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-b border-line py-2.5">
      <h2 className="text-[13px] font-semibold text-water">{title}</h2>
      <p className="text-[14.5px] leading-10 sm:leading-9">{children}</p>
    </section>
  );
}

function Ground({ saying }: { saying: Saying }) {
  const now = Number(saying.value("vehicle.rolling_resistance"));
  const nearest = GROUND.reduce((best, one) =>
    Math.abs(Math.log(Number(one[0]) / now)) < Math.abs(Math.log(Number(best[0]) / now))
      ? one
      : best,
  );
  const known = GROUND.some(([value]) => Number(value) === now);
  const options: [string, string][] = known
    ? GROUND
    : [[String(now), `ground like ${nearest[1]} (${now})`], ...GROUND];
  return (
    <Choice
      saying={saying}
      path="vehicle.rolling_resistance"
      label="Ground"
      options={options}
      to={Number}
      from={() => options.find(([value]) => Number(value) === now)?.[0] ?? ""}
    />
  );
}

function Brushes({ saying }: { saying: Saying }) {
  return (
    <Choice
      saying={saying}
      path="wishes.commutation"
      label="Kind of motor"
      options={[
        ["", "of any kind"],
        ["brushless", "brushless"],
        ["brushed", "brushed"],
      ]}
    />
  );
}

function Owned({ saying }: { saying: Saying }) {
  const parts = useQuery(shelfNames).data;
  const kinds = [
    ["motor", "motor", parts?.motors],
    ["controller", "controller", parts?.controllers],
    ["battery", "pack", parts?.packs],
  ] as const;
  return (
    <>
      {kinds.map(([key, noun, list], index) => (
        <span key={key}>
          {index > 0 ? ", " : ""}
          <Choice
            saying={saying}
            path={`owned.${key}`}
            label={`Owned ${noun}`}
            options={[["", `no ${noun}`], ...(list ?? []).map(pair)]}
          />
        </span>
      ))}
      .
    </>
  );
}

const pair = (part: { id: string; name: string }): [string, string] => [part.id, part.name];

const COUNTS = [
  ["margin", "margin"],
  ["cost", "price"],
  ["mass", "lightness"],
  ["range", "range"],
  ["simplicity", "few stages"],
] as const;

function Weights({ saying, usual }: { saying: Saying; usual: Counts }) {
  return (
    <span className="grid grid-cols-[auto_1fr] items-center gap-x-3 leading-7">
      {COUNTS.map(([key, words]) => {
        const path = `weights.${key}`;
        const stored = saying.value(path);
        const value = typeof stored === "number" ? stored : (usual[key] ?? 0);
        return (
          <label key={key} className="contents text-[13.5px]">
            <span>{words}</span>
            <input
              type="range"
              min={0}
              max={5}
              step={1}
              value={value}
              aria-valuetext={`${value} of 5`}
              onChange={(event) => saying.say(path, Number(event.target.value))}
              className="h-6 w-full max-w-52 accent-water"
            />
          </label>
        );
      })}
    </span>
  );
}
