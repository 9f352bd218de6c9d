import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./client";
import type { BriefDocument, BuildDocument, PartKind } from "./types";

/** The parts shelf: every read and write as one function each. */
export interface Looked {
  words: string;
  sort: string;
  falling: boolean;
  onlyOwn: boolean;
  onlyFit: boolean;
  build: BuildDocument | null;
  brief: BriefDocument | null;
}

const of = (kind: PartKind) => ({ params: { path: { kind } } });
const at = (kind: PartKind, ref: string) => ({ params: { path: { kind, ref } } });

/** Everything that is read of the shelf is kept below this key, so that a change renews it all. */
export const SHELF = "shelf";

export const looked = (kind: PartKind, asked: Looked) =>
  queryOptions({
    queryKey: [SHELF, "look", kind, asked],
    queryFn: () =>
      answered(
        client.POST("/api/shelf/{kind}/look", {
          ...of(kind),
          body: {
            words: asked.words,
            sort: asked.sort,
            falling: asked.falling,
            only_own: asked.onlyOwn,
            only_fit: asked.onlyFit,
            limit: 300,
            ...(asked.build ? { build: asked.build } : {}),
            ...(asked.brief ? { brief: asked.brief } : {}),
          },
        }),
      ),
    placeholderData: (before: unknown) => before as never,
  });

export const partFields = (kind: PartKind) =>
  queryOptions({
    queryKey: ["part-fields", kind],
    queryFn: () => answered(client.GET("/api/shelf/{kind}/fields", of(kind))),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const part = (kind: PartKind, ref: string) =>
  queryOptions({
    queryKey: [SHELF, "part", kind, ref],
    queryFn: () => answered(client.GET("/api/shelf/{kind}/parts/{ref}", at(kind, ref))),
  });

type Plain = Record<string, unknown>;

export const addPart = (kind: PartKind, document: Plain) =>
  answered(client.POST("/api/shelf/{kind}/parts", { ...of(kind), body: { document } }));

export const changePart = (kind: PartKind, ref: string, document: Plain) =>
  answered(client.POST("/api/shelf/{kind}/parts/{ref}", { ...at(kind, ref), body: { document } }));

export const undoPart = (kind: PartKind, ref: string) =>
  answered(client.POST("/api/shelf/{kind}/parts/{ref}/undo", at(kind, ref)));

export const removePart = (kind: PartKind, ref: string) =>
  answered(client.POST("/api/shelf/{kind}/parts/{ref}/remove", at(kind, ref)));

export const bringPartBack = (kind: PartKind, ref: string) =>
  answered(client.POST("/api/shelf/{kind}/parts/{ref}/bring-back", at(kind, ref)));

export const readListing = (text: string) =>
  answered(client.POST("/api/shelf/read-listing", { body: { text } }));

const plainText = {
  bodySerializer: (body: unknown) => body as string,
  headers: { "Content-Type": "text/plain" },
};

export const bringInTable = (kind: PartKind, text: Blob) =>
  answered(
    client.POST("/api/shelf/bring-in/{kind}", { ...of(kind), ...plainText, body: text as never }),
  );

export const bringInShelf = (text: Blob) =>
  answered(client.POST("/api/shelf/bring-in", { ...plainText, body: text as never }));

export const bringInBuilds = (text: Blob) =>
  answered(client.POST("/api/builds/bring-in", { ...plainText, body: text as never }));
