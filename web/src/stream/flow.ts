import type { StateAnswer } from "../api/types";
import { digits } from "../units/format";

/** Watts along the stream, from cells to road; the drawing knows no more physics than this. */
export interface Flow {
  /** Whether power runs from pack to road (false: it comes back from the road). */
  forward: boolean;
  cells: number;
  terminals: number;
  shaft: number;
  road: number;
  losses: Loss[];
  ends: End[];
}

export interface Loss {
  id: string;
  part: "pack" | "controller" | "along" | "motor" | "gearing" | "propeller";
  /** Which stage, in the gearing. */
  stage?: number;
  /** What becomes of it where that is not heat in a part: air that is stirred. */
  label?: string;
  watts: number;
}

export interface End {
  id: "air" | "tyres" | "climb" | "speed" | "brakes" | "thrust";
  label: string;
  watts: number;
}

/** What the stream is drawn from: watts, and what people call where they end. */
export type StateWatts = Pick<
  StateAnswer,
  | "cells_w"
  | "pack_heat_w"
  | "terminals_w"
  | "controller_heat_w"
  | "copper_heat_w"
  | "brush_heat_w"
  | "turning_heat_w"
  | "shaft_w"
  | "stage_losses_w"
  | "road_w"
  | "air_w"
  | "rolling_w"
  | "climbing_w"
  | "speeding_up_w"
  | "brakes_w"
  | "takes"
> &
  Partial<Pick<StateAnswer, "thrust_w" | "wake_w" | "blades_w" | "auxiliaries_w">>;

export function flowOf(state: StateWatts): Flow {
  const motorHeat = state.copper_heat_w + state.brush_heat_w + state.turning_heat_w;
  const ends: End[] = [
    { id: "air", label: state.takes.air ?? "air", watts: state.air_w },
    { id: "climb", label: state.takes.climbing ?? "climb", watts: state.climbing_w },
    { id: "speed", label: "gaining speed", watts: state.speeding_up_w },
    { id: "brakes", label: "in the brakes", watts: state.brakes_w },
    { id: "tyres", label: state.takes.rolling ?? "tyres", watts: state.rolling_w },
    { id: "thrust", label: state.takes.thrust ?? "thrust", watts: state.thrust_w ?? 0 },
  ];
  // What stirs the air and pushes nothing spills, as heat does.
  const stirred: Loss[] = (
    [
      ["blades", state.blades_w],
      ["wake", state.wake_w],
    ] as const
  ).flatMap(([id, watts]) =>
    watts !== undefined && watts > 1e-6
      ? [{ id, part: "propeller", label: state.takes[id] ?? id, watts }]
      : [],
  );
  // What runs along takes its share whatever it hangs on.
  const beside = state.auxiliaries_w ?? 0;
  const along: Loss[] =
    beside > 1e-6 ? [{ id: "along", part: "along", label: "runs along", watts: beside }] : [];
  return {
    forward: state.road_w >= 0 || state.cells_w > Math.abs(state.road_w),
    cells: Math.abs(state.cells_w),
    terminals: Math.abs(state.terminals_w),
    shaft: Math.abs(state.shaft_w),
    road: Math.abs(state.road_w),
    losses: [
      { id: "pack", part: "pack", watts: state.pack_heat_w },
      { id: "controller", part: "controller", watts: state.controller_heat_w },
      ...along,
      { id: "motor", part: "motor", watts: motorHeat },
      ...state.stage_losses_w.map(
        (watts, stage): Loss => ({ id: `stage ${stage}`, part: "gearing", stage, watts }),
      ),
      ...stirred,
    ],
    ends: ends.filter((end) => end.watts > 1e-6),
  };
}

/** The widest the stream gets, which sets the scale. */
export const widest = (flow: Flow): number => Math.max(flow.cells, flow.road, 1e-9);

/** Where the watts end, in words: what they move, and what air they stir. */
export const endsOf = (flow: Flow): string =>
  [...flow.ends, ...flow.losses.filter((loss) => loss.label !== undefined)]
    .map((end) => `${digits(end.watts)} W ${end.label}`)
    .join(", ");
