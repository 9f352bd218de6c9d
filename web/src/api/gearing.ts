import { answered, client } from "./client";
import type { BriefDocument, BuildDocument } from "./types";

/** The ways to change speed: one question of a document each. */
export const ladder = (
  document: BuildDocument,
  pinned: BuildDocument | null,
  brief: BriefDocument | null,
) => answered(client.POST("/api/ladder", { body: { document, pinned, brief, limit: 8 } }));

export const willItRun = (document: BuildDocument) =>
  answered(client.POST("/api/will-it-run", { body: { document } }));

export const speedChart = (document: BuildDocument) =>
  answered(client.POST("/api/speed-chart", { body: { document } }));

export const windings = (document: BuildDocument) =>
  answered(client.POST("/api/windings", { body: { document } }));

export const overvolt = (document: BuildDocument, series: number) =>
  answered(client.POST("/api/overvolt", { body: { document, series } }));

export const roads = (document: BuildDocument, wishKmh: number) =>
  answered(client.POST("/api/roads", { body: { document, wish_kmh: wishKmh } }));

export const split = (wanted: number, kinds: ("chain" | "belt" | "spur")[]) =>
  answered(client.POST("/api/split", { body: { wanted, kinds } }));

export const tyre = (marking: string, speedKmh: number, pressureShare: number) =>
  answered(
    client.POST("/api/tyre", {
      body: { marking, speed_kmh: speedKmh, pressure_share: pressureShare },
    }),
  );

export interface OneSpeed {
  wheel_rpm?: number;
  motor_rpm?: number;
  speed_kmh?: number;
}

export const speeds = (document: BuildDocument, one: OneSpeed) =>
  answered(client.POST("/api/speeds", { body: { document, ...one } }));

export const boost = (
  document: BuildDocument,
  helper: BuildDocument,
  tapCells: number,
  fromKmh: number,
) =>
  answered(
    client.POST("/api/boost", {
      body: { document, helper, tap_cells: tapCells, from_kmh: fromKmh },
    }),
  );

export const planetary = (sun: number, ring: number, planets: number) =>
  answered(client.POST("/api/planetary", { body: { sun, ring, planets } }));

export const gearModule = (diametralPitch: number) =>
  answered(client.POST("/api/module", { body: { diametral_pitch: diametralPitch } }));
