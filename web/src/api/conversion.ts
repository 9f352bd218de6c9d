import { answered, client } from "./client";
import type { BuildDocument, FieldConnection, WoundField } from "./types";

/** Questions about a vehicle whose engine comes out. */
export const conversion = (document: BuildDocument) =>
  answered(client.POST("/api/conversion", { body: { document } }));

export const joinField = (document: BuildDocument, connection: FieldConnection) =>
  answered(client.POST("/api/field", { body: { document, connection } }));

export const woundField = (measured: WoundField) =>
  answered(client.POST("/api/wound-field", { body: measured }));
