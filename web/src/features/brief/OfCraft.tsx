import type { ReactNode } from "react";
import { Ask, blankOf } from "./Ask";
import { Ground } from "./Ground";
import type { Saying } from "./useBrief";

/** What is asked of a craft that propellers push: a wing, a hull, a cart with a fan. */
export function OfCraft({ saying }: { saying: Saying }) {
  const blank = blankOf(saying);
  const flies = saying.value("vehicle.kind") === "aircraft";
  return (
    <>
      <Ask title="What has to move?">
        It weighs {blank("vehicle.mass_kg")} with its load, without motor, controller, pack and
        propeller, <Body saying={saying} />
      </Ask>
      <Ask title="How much push?">
        Standing at full throttle, {blank("wishes.thrust_to_weight")} of its weight in thrust
        {flies ? (
          <>
            , and a pitch speed of {blank("wishes.pitch_speed_over_stall")} times its stall speed:
            2.5 is one school, for ease, 3 and more the other, for speed
          </>
        ) : null}
        .
      </Ask>
      <Ask title="How fast?">
        At least {blank("wishes.top_speed_kmh.min")} and at most {blank("wishes.top_speed_kmh.max")}{" "}
        flat out; {blank("wishes.cruise_kmh")} on an ordinary trip.
      </Ask>
      {flies ? (
        <Ask title="How steep?">It climbs {blank("wishes.climb_ms")} at its best.</Ask>
      ) : null}
      <Ask title="How long?">
        {blank("wishes.endurance_min")} out or {blank("wishes.range_km")} far on one charge, at the
        speed of an ordinary trip.
      </Ask>
      <Ask title="What clears?">
        The propeller measures at most {blank("wishes.max_diameter_mm")} from tip to tip.
      </Ask>
    </>
  );
}

function Body({ saying }: { saying: Saying }): ReactNode {
  const blank = blankOf(saying);
  const kind = saying.value("vehicle.kind");
  if (kind === "aircraft")
    return (
      <>
        on {blank("vehicle.wing_area_m2")} of wing, {blank("vehicle.span_m")} from tip to tip. Its
        drag without lift is {blank("vehicle.zero_lift_drag")} on the wing's area.
      </>
    );
  if (kind === "ground")
    return (
      <>
        and rolls on <Ground saying={saying} />. Its drag area is {blank("vehicle.drag_area_m2")}.
      </>
    );
  const measured = saying.value("vehicle.drag") as { speed_kmh: number }[] | null | undefined;
  return (
    <>
      afloat.{" "}
      {measured ? (
        <>Its drag in water was measured at {measured.length} speeds. </>
      ) : (
        <>Its drag area in water is {blank("vehicle.drag_area_m2")}. </>
      )}
      Above the water its drag area is {blank("vehicle.air_drag_area_m2")}.
    </>
  );
}
