import { Ask, blankOf } from "./Ask";
import { Ground } from "./Ground";
import type { Saying } from "./useBrief";

/** What is asked of a vehicle that wheels drive. */
export function OfWheels({ saying }: { saying: Saying }) {
  const blank = blankOf(saying);
  return (
    <>
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
    </>
  );
}
