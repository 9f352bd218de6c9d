import { useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { beginMeterDay, facesOf } from "../../api/ride";
import type { MeterDayBegun } from "../../api/types";
import { type RidePlan, rideOf } from "./plan";

interface Frame {
  t_s: number;
  shows: Record<string, number | null>;
}

/** A test day whose instruments are looked at while it goes on. */
export function useMeters(buildId: string) {
  const [day, setDay] = useState<MeterDayBegun | null>(null);
  const [shows, setShows] = useState<Record<string, number | null>>({});
  const [atS, setAtS] = useState(0);
  const [over, setOver] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const stream = useRef<EventSource | null>(null);
  const stop = () => {
    stream.current?.close();
    stream.current = null;
    setOver(true);
  };
  useEffect(() => () => stream.current?.close(), []);
  const begin = async (
    plan: RidePlan,
    version: number,
    seed: number,
    cleared: boolean,
    pace: number,
  ) => {
    stream.current?.close();
    setTrouble("Getting ready");
    try {
      const begun = await beginMeterDay(buildId, {
        version,
        ride: rideOf(plan),
        air_c: plan.airC,
        seed,
        cleared,
      });
      setDay(begun);
      setShows({});
      setAtS(0);
      setOver(false);
      setTrouble(null);
      const faces = new EventSource(facesOf(buildId, begun.id, pace));
      stream.current = faces;
      faces.onmessage = (event) => {
        const frame = JSON.parse(event.data as string) as Frame;
        setAtS(frame.t_s);
        setShows((before) => ({ ...before, ...frame.shows }));
      };
      faces.addEventListener("end", stop);
      faces.onerror = () => {
        if (stream.current !== faces) return;
        stop();
        setTrouble("The instruments were broken off; begin again.");
      };
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`Not begun: ${problem.where} ${problem.what}.`);
    }
  };
  return { day, shows, atS, over, trouble, begin, stop };
}
