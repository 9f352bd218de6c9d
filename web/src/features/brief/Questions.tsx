import { useQuery } from "@tanstack/react-query";
import { shelfNames } from "../../api/matching";
import { Ask, blankOf } from "./Ask";
import { Choice } from "./Choice";
import type { Counts } from "./counts";
import { OfCraft } from "./OfCraft";
import { OfWheels } from "./OfWheels";
import type { Saying } from "./useBrief";

/** The brief, asked as one would ask a friend: a few sentences with blanks. */
export function Questions({ saying, usual }: { saying: Saying; usual: Counts }) {
  const blank = blankOf(saying);
  const craft = !saying.value("wheel");
  return (
    <div>
      {craft ? <OfCraft saying={saying} /> : <OfWheels saying={saying} />}
      <Ask title="What are the limits?">
        {blank("wishes.budget")} to spend, {blank("wishes.max_added_mass_kg")} of drive to carry,{" "}
        {blank("wishes.max_full_charge_v")} fresh off the charger. The motor is{" "}
        <Brushes saying={saying} /> and at most {blank("wishes.motor_space.diameter_mm")} across.
      </Ask>
      <Ask title="What is there already?">
        <Owned saying={saying} craft={craft} />
      </Ask>
      <Ask title="What counts most?">
        <Weights saying={saying} usual={usual} craft={craft} />
      </Ask>
    </div>
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

function Owned({ saying, craft }: { saying: Saying; craft: boolean }) {
  const parts = useQuery(shelfNames).data;
  const kinds = [
    ["motor", "motor", parts?.motors],
    ["controller", "controller", parts?.controllers],
    ["battery", "pack", parts?.packs],
    ...(craft ? [["propeller", "propeller", parts?.propellers] as const] : []),
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

function Weights({ saying, usual, craft }: { saying: Saying; usual: Counts; craft: boolean }) {
  return (
    <span className="grid grid-cols-[auto_1fr] items-center gap-x-3 leading-7">
      {COUNTS.filter(([key]) => !(craft && key === "simplicity")).map(([key, words]) => {
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
