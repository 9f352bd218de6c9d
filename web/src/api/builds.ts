import { answered, client } from "./client";
import type { BuildDocument, Facts, ListId, Operation, Terms, Ticked, When } from "./types";

/** Every write, and the solve, as one function each. */
const at = (id: string) => ({ params: { path: { build_id: id } } });

export const solve = (
  document: BuildDocument,
  operations: Operation[],
  when: When = "now",
  gear: number | null = null,
) => answered(client.POST("/api/solve", { body: { document, operations, when, gear } }));

export const compare = (documents: BuildDocument[], terms: Terms) =>
  answered(client.POST("/api/compare", { body: { documents, terms } }));

export const baseline = (document: BuildDocument, chosen: string | null) =>
  answered(client.POST("/api/baseline", { body: { document, chosen } }));

export const identify = (facts: Facts) => answered(client.POST("/api/identify", { body: facts }));

export const readBuild = (id: string) => answered(client.GET("/api/builds/{build_id}", at(id)));

export const createBuild = (document: BuildDocument, changeId: string) =>
  answered(client.POST("/api/builds", { body: { document, change_id: changeId } }));

export const saveVersion = (id: string, base: number, document: BuildDocument, changeId: string) =>
  answered(
    client.POST("/api/builds/{build_id}/versions", {
      ...at(id),
      body: { base, document, change_id: changeId },
    }),
  );

export const undo = (id: string, base: number) =>
  answered(client.POST("/api/builds/{build_id}/undo", { ...at(id), body: { base } }));

export const redo = (id: string, base: number) =>
  answered(client.POST("/api/builds/{build_id}/redo", { ...at(id), body: { base } }));

export const restore = (id: string, base: number, number: number) =>
  answered(client.POST("/api/builds/{build_id}/restore", { ...at(id), body: { base, number } }));

export const pin = (id: string, number: number) =>
  answered(client.POST("/api/builds/{build_id}/pin", { ...at(id), body: { number } }));

export const removeBuild = (id: string) =>
  answered(client.DELETE("/api/builds/{build_id}", at(id)));

export const bringBack = (id: string) =>
  answered(client.POST("/api/builds/{build_id}/bring-back", at(id)));

export const tickOff = (id: string, list: ListId, ticked: Ticked) =>
  answered(
    client.PUT("/api/builds/{build_id}/ticks/{of_list}", {
      params: { path: { build_id: id, of_list: list } },
      body: ticked,
    }),
  );
