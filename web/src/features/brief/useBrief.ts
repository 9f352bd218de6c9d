import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useDebouncedCallback } from "use-debounce";
import { ApiError } from "../../api/client";
import { beginMatch, brief, changeBrief } from "../../api/matching";
import type { BriefDocument } from "../../api/types";
import { valueAt } from "../../ui/paths";
import { MEETS } from "../../workbench/met";
import { Outbox } from "../../workbench/outbox";
import type { Counts } from "./counts";
import { withSaid } from "./document";

/** How long nothing is typed before the shelf is searched anew, in milliseconds. */
const PAUSE = 500;

/** A brief and the places in it that somebody said; null where all of it was said. */
export interface Told {
  document: BriefDocument;
  said: string[] | null;
}

export interface Saying {
  value: (path: string) => unknown;
  isSaid: (path: string) => boolean;
  say: (path: string, value: unknown) => void;
  refusal: { where: string; what: string } | null;
}

interface Known {
  saying: Saying | null;
  document: BriefDocument | null;
  /** What counts for how much where the brief does not say. */
  usual: Counts;
  matchId: string | null;
  trouble: string | null;
  undo: (() => void) | null;
  search: () => void;
}

/** A brief as it is being said: kept at once, and the shelf searched whenever somebody pauses. */
export function useBrief(id: string): Known {
  const read = useQuery(brief(id));
  const queries = useQueryClient();
  const [now, setNow] = useState<Told | null>(null);
  const [past, setPast] = useState<Told[]>([]);
  const [matchId, setMatchId] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<Saying["refusal"]>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const tell = useCallback((problem: unknown): "halt" => {
    if (!(problem instanceof ApiError)) throw problem;
    if (problem.status === 422) setRefusal({ where: problem.where, what: problem.what });
    else setTrouble(`Not kept yet: the ${problem.where} ${problem.what}.`);
    if (problem.passing) throw problem;
    return "halt";
  }, []);
  const show = useCallback(
    (changed: { match?: { id: string } | null }) => {
      setRefusal(null);
      setTrouble(null);
      queries.setQueryData(brief(id).queryKey, (before) =>
        before ? ({ ...before, ...changed } as typeof before) : before,
      );
      setMatchId(changed.match?.id ?? null);
      void queries.invalidateQueries({ queryKey: [MEETS] });
    },
    [id, queries],
  );
  // What is said, and that the shelf be searched for what is kept already.
  const outbox = useMemo(
    () =>
      new Outbox<Told | "search">({
        name: "brief.unsaved",
        id,
        byTab: false,
        beside: () => ({}),
        send: async (what) => {
          try {
            show(
              what === "search"
                ? { match: await beginMatch(id) }
                : await changeBrief(id, what.document, what.said),
            );
            return "sent";
          } catch (problem) {
            return tell(problem);
          }
        },
        onWaiting: () => {},
      }),
    [id, show, tell],
  );
  const sendSoon = useDebouncedCallback(() => void outbox.send(), PAUSE);

  const begun = useRef(false);
  useEffect(() => {
    if (!read.data || begun.current) return;
    begun.current = true;
    const { document, said, match } = read.data;
    const kept: Told = { document, said };
    if (match && match.state !== "failed") setMatchId(match.id);
    outbox.takeUp();
    const unsaved = outbox.last;
    if (unsaved && unsaved !== "search") {
      // Said at an earlier visit, and the page closed or the database away before it was kept.
      setPast([kept]);
      setNow(unsaved);
      void outbox.send();
      return;
    }
    setNow(kept);
    if (!match || match.state === "failed") outbox.putOnly("search");
  }, [outbox, read.data]);

  const keep = (next: Told) => {
    setNow(next);
    outbox.hold(next);
    sendSoon();
  };
  const usual = read.data?.weights ?? {};
  if (now === null)
    return {
      saying: null,
      document: null,
      usual,
      matchId,
      trouble: awayOf(read),
      undo: null,
      search: () => {},
    };
  const { document, said } = now;
  return {
    document,
    usual,
    matchId,
    trouble,
    search: () => outbox.putOnly(now),
    undo:
      past.length > 0
        ? () => {
            keep(past[past.length - 1] as Told);
            setPast(past.slice(0, -1));
          }
        : null,
    saying: {
      value: (path) => valueAt(document, path),
      isSaid: (path) => said === null || said.includes(path),
      say: (path, value) => {
        setPast([...past.slice(-99), now]);
        keep({
          document: withSaid(document, path, value),
          said: said === null || said.includes(path) ? said : [...said, path],
        });
      },
      refusal,
    },
  };
}

function awayOf(read: { failureCount: number; error: unknown }): string | null {
  if (read.error instanceof ApiError) return `This brief ${read.error.what}.`;
  if (read.failureCount > 0) return "The server or its database does not answer; trying again.";
  return null;
}
