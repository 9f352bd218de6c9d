import { useMemo, useState } from "react";
import { useAddress } from "../../ui/useAddress";
import { type View, Views } from "../../ui/Views";
import { useOpened } from "../../workbench/opened";
import { Kept } from "./Kept";
import { Meters } from "./Meters";
import { mediumOf } from "./medium";
import { keepPlan, keptPlan, planOf, type RidePlan, usualPlan } from "./plan";
import { TheRide } from "./TheRide";

/** The rides of a build: one that is planned, those that were kept, and one to read meters on. */
export function RidePage() {
  const { state } = useOpened();
  const { build, answer, document } = state;
  const medium = mediumOf(document);
  const cruise = answer?.moments.find((moment) => moment.id === "cruise")?.state.speed_mps ?? null;
  const [said, setSaid] = useState(() => keptPlan(build.id));
  const [, address] = useAddress();
  const plan = useMemo(() => said ?? usualPlan(cruise, medium), [said, cruise, medium]);
  const toPlan = (next: RidePlan) => {
    setSaid(next);
    keepPlan(build.id, next);
  };
  const views: View[] = [
    {
      id: "ride",
      title: "The ride",
      shows: () => <TheRide plan={plan} ready={said !== null || answer !== null} onPlan={toPlan} />,
    },
    {
      id: "kept",
      title: "Kept rides",
      shows: () => (
        <Kept
          onRide={(kept) => {
            toPlan(planOf(kept, plan));
            address({ view: "ride" });
          }}
        />
      ),
    },
  ];
  // Simulated instruments hang on wheels so far.
  if (document.wheel) {
    const shows = () => <Meters plan={plan} />;
    views.push({ id: "meters", title: "Meters on the bench", shows });
  }
  return (
    <main className="flex flex-1 flex-col pt-1">
      <Views label="Rides" views={views} />
    </main>
  );
}
