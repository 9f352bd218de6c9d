import type { BuildDocument } from "../../api/types";

/** What a vehicle goes through or on, which its rides are said by. */
export type Medium = "ground" | "water" | "air";

const OF_KIND: Record<string, Medium> = { aircraft: "air", hull: "water" };

export const mediumOf = ({ vehicle }: BuildDocument): Medium => OF_KIND[vehicle.kind] ?? "ground";

/** What the way of a ride is called. */
export const WAY: Record<Medium, string> = { ground: "road", water: "way", air: "way" };
