import { answered, client } from "./client";
import type { BuildDocument, RideDocument } from "./types";

export const ride = (document: BuildDocument, asked: RideDocument, draws: number) =>
  answered(client.POST("/api/ride", { body: { document, ride: asked, draws } }));

/** Every tenth of a second of a ride as a table. */
export const rideTable = (document: BuildDocument, asked: RideDocument) =>
  answered(
    client.POST("/api/ride/table", { body: { document, ride: asked, draws: 0 }, parseAs: "text" }),
  );
