import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import { keepRide } from "../../api/ride";
import { Button } from "../../ui/Button";
import { useOpened } from "../../workbench/opened";
import { type RidePlan, rideOf } from "./plan";

/** Gives the ride a name and keeps it with the version of the build that it was ridden on. */
export function KeepIt({ plan }: { plan: RidePlan }) {
  const { state } = useOpened();
  const { build, saving } = state;
  const client = useQueryClient();
  const [name, setName] = useState<string | null>(null);
  const [told, setTold] = useState("");
  const keep = async () => {
    const called = (name ?? plan.name ?? "").trim() || "A ride";
    setTold("Keeping it");
    try {
      await keepRide(build.id, crypto.randomUUID(), {
        version: build.head,
        name: called,
        ride: rideOf({ ...plan, name: called }),
        air_c: plan.airC,
        track: plan.track ?? null,
      });
      await client.invalidateQueries({ queryKey: ["asked", build.id, "kept rides"] });
      setTold(`Kept as "${called}", with version ${build.head} of the build.`);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Not kept: ${problem.where} ${problem.what}.`);
    }
  };
  return (
    <form
      className="flex flex-wrap items-center gap-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <input
        aria-label="Name of the ride"
        placeholder="Name of the ride"
        maxLength={120}
        value={name ?? plan.name ?? ""}
        onChange={(event) => setName(event.target.value)}
        className="min-h-11 w-64 rounded-md border border-line bg-raised px-2 sm:min-h-8"
      />
      <Button type="submit" disabled={saving !== "saved"}>
        Keep this ride
      </Button>
      <span role="status" className="text-soft">
        {told}
      </span>
    </form>
  );
}
