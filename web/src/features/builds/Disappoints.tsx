import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { buildList } from "../../api/queries";
import type { FigureId } from "../../api/types";
import type { BeginProps } from "./Begin";

/** What people complain of, and the figure on the bench that speaks of it. */
const COMPLAINTS: [FigureId, string][] = [
  ["top_speed_kmh", "It is too slow"],
  ["climb_kmh", "It won't climb"],
  ["launch_s", "It is sluggish off the line"],
  ["winding_c", "The motor gets too hot"],
  ["pack_peak_a", "It cuts out"],
  ["range_km", "It does not go far"],
];

/** Two questions, and the bench opens on what would help. */
export function Disappoints({ kinds, onBegin }: BeginProps) {
  const [machine, setMachine] = useState("");
  const builds = useQuery(buildList).data?.builds ?? [];
  const navigate = useNavigate();
  const own = builds.filter((build) => !build.demo);
  const shown = builds.filter((build) => build.demo);
  const complain = (figure: FigureId) => {
    const query = `?help=${figure}`;
    const [kind, id] = machine.split(":");
    if (kind === "build") void navigate(`/builds/${id}${query}`);
    const archetype = kinds.find((one) => kind === "kind" && one.id === id);
    if (archetype) onBegin(archetype.document, query);
  };
  return (
    <div className="grid gap-x-10 gap-y-4 md:grid-cols-2">
      <label className="block">
        <span className="block text-[14.5px] font-semibold">Which machine?</span>
        <select
          value={machine}
          onChange={(event) => setMachine(event.target.value)}
          className="mt-1.5 min-h-11 w-full max-w-sm rounded-md border border-line bg-raised px-2 text-[14px] sm:min-h-9"
        >
          <option value="">choose</option>
          {own.length > 0 ? (
            <optgroup label="your builds">
              {own.map((build) => (
                <option key={build.id} value={`build:${build.id}`}>
                  {build.name}
                </option>
              ))}
            </optgroup>
          ) : null}
          <optgroup label="not here yet; most like">
            {kinds.map((one) => (
              <option key={one.id} value={`kind:${one.id}`}>
                {one.title}
              </option>
            ))}
          </optgroup>
          {shown.length > 0 ? (
            <optgroup label="of the Quillmere workshop">
              {shown.map((build) => (
                <option key={build.id} value={`build:${build.id}`}>
                  {build.name}
                </option>
              ))}
            </optgroup>
          ) : null}
        </select>
        <span className="mt-1.5 block text-[12.5px] text-soft">
          One that is not here yet begins with typical values; say its own on the bench, and the
          answers follow.
        </span>
      </label>
      <fieldset>
        <legend className="text-[14.5px] font-semibold">What disappoints you?</legend>
        <div className="mt-1.5 flex flex-wrap gap-2">
          {COMPLAINTS.map(([figure, words]) => (
            <button
              key={figure}
              type="button"
              disabled={machine === ""}
              onClick={() => complain(figure)}
              className="min-h-11 rounded-md border border-line bg-raised px-3 text-[13.5px] hover:border-water disabled:opacity-50 sm:min-h-9"
            >
              {words}
            </button>
          ))}
        </div>
        {machine === "" ? (
          <p className="mt-1.5 text-[12.5px] text-soft">First say which machine it is.</p>
        ) : null}
      </fieldset>
    </div>
  );
}
