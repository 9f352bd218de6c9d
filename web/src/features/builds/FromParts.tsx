import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { shelfNames } from "../../api/matching";
import type { PartKind } from "../../api/types";
import { Button } from "../../ui/Button";
import type { BeginProps } from "./Begin";

const PasteListing = lazy(() =>
  import("../shelf/PasteListing").then((it) => ({ default: it.PasteListing })),
);

type Owned = "motor" | "controller" | "battery";

const PARTS: [Owned, string, "motors" | "controllers" | "packs"][] = [
  ["motor", "Motor", "motors"],
  ["controller", "Controller", "controllers"],
  ["battery", "Pack", "packs"],
];

const OWNED_OF: Partial<Record<PartKind, Owned>> = {
  motors: "motor",
  controllers: "controller",
  packs: "battery",
};

/** What lies on the bench, and what it should move: the shelf is searched for the rest. */
export function FromParts({ kinds, onMatch }: BeginProps) {
  const parts = useQuery(shelfNames).data;
  const queries = useQueryClient();
  const [owned, setOwned] = useState<Partial<Record<Owned, string>>>({});
  const [vehicle, setVehicle] = useState("");
  const [pasting, setPasting] = useState(false);
  const has = Object.values(owned).filter(Boolean).length;
  const rolling = kinds.filter((one) => one.document.wheel);
  const search = () =>
    onMatch(
      vehicle,
      (document) => ({
        ...document,
        wishes: {},
        owned: Object.fromEntries(Object.entries(owned).filter(([, id]) => id)),
      }),
      Object.keys(owned).map((part) => `owned.${part}`),
    );
  const field =
    "min-h-11 w-full min-w-0 rounded-md border border-line bg-raised px-2 text-[14px] sm:min-h-9";
  return (
    <div className="grid gap-x-10 gap-y-4 md:grid-cols-2">
      <div>
        <p className="text-[14.5px] font-semibold">What lies on the bench?</p>
        <div className="mt-1.5 grid max-w-md grid-cols-[6rem_1fr] items-center gap-x-3 gap-y-1.5 text-[14px]">
          {PARTS.map(([part, noun, list]) => (
            <label key={part} className="contents">
              <span>{noun}</span>
              <select
                aria-label={noun}
                value={owned[part] ?? ""}
                onChange={(event) => setOwned({ ...owned, [part]: event.target.value })}
                className={field}
              >
                <option value="">none, or any</option>
                {(parts?.[list] ?? []).map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
        <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-soft">
          <Button onClick={() => setPasting(true)}>Type its label or listing</Button>
          Not among them? What stands on it is enough; only what is missing is asked for.
        </p>
      </div>
      <div>
        <label className="block">
          <span className="block text-[14.5px] font-semibold">What should they move?</span>
          <select
            value={vehicle}
            onChange={(event) => setVehicle(event.target.value)}
            className={`${field} mt-1.5 max-w-md`}
          >
            <option value="">choose what comes nearest</option>
            {rolling.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </select>
        </label>
        <Button
          kind="main"
          className="mt-3"
          disabled={has === 0 || vehicle === ""}
          onClick={search}
        >
          See what they can do
        </Button>
        <p className="mt-1.5 text-[12.5px] text-soft">
          {has === 0
            ? "Name at least one part."
            : "The shelf fills in what is missing; what you have costs nothing and stays."}
        </p>
      </div>
      {pasting ? (
        <Suspense fallback={null}>
          <PasteListing
            onClose={() => setPasting(false)}
            onAdded={(kind, id) => {
              void queries.invalidateQueries({ queryKey: shelfNames.queryKey });
              const part = OWNED_OF[kind];
              if (part) setOwned({ ...owned, [part]: id });
              setPasting(false);
            }}
          />
        </Suspense>
      ) : null}
    </div>
  );
}
