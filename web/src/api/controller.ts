import { answered, client } from "./client";
import type { BriefDocument, BuildDocument, ChooseAsked, ShuntAsked } from "./types";

/** Questions about the controller of a build, and its drive by hand. */
export const settingsSheet = (document: BuildDocument) =>
  answered(client.POST("/api/settings", { body: { document } }));

export const adviseKind = (document: BuildDocument) =>
  answered(client.POST("/api/advise", { body: { document } }));

export const adviseBrief = (brief: BriefDocument) =>
  answered(client.POST("/api/advise", { body: { brief } }));

export const chooseController = (asked: ChooseAsked) =>
  answered(client.POST("/api/choose-controller", { body: asked }));

export const wires = (document: BuildDocument, packM: number, motorM: number) =>
  answered(client.POST("/api/wires", { body: { document, pack_m: packM, motor_m: motorM } }));

export const shunt = (asked: ShuntAsked) => answered(client.POST("/api/shunt", { body: asked }));

export const hall = (offsetDeg: number, poles: number, mechanical: boolean) =>
  answered(client.POST("/api/hall", { body: { offset_deg: offsetDeg, poles, mechanical } }));

export const beginDrive = (document: BuildDocument, gradePct: number) =>
  answered(client.POST("/api/trigger", { body: { document, grade_pct: gradePct } }));

export const holdTrigger = (key: string, trigger: number, gradePct: number) =>
  answered(
    client.PUT("/api/trigger/{key}", {
      params: { path: { key } },
      body: { trigger, grade_pct: gradePct },
    }),
  );

/** Where a drive's frames are streamed. */
export const framesOf = (key: string) => `/api/trigger/${key}/frames`;

export const tracedPull = (document: BuildDocument, trigger: number, gradePct: number) =>
  answered(
    client.POST("/api/trigger/traced", { body: { document, trigger, grade_pct: gradePct } }),
  );
