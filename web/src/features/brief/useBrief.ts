import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { beginMatch, brief, changeBrief } from "../../api/matching";
import type { BriefDocument } from "../../api/types";
import { valueAt } from "../../ui/paths";
import type { Counts } from "./counts";
import { remember, saidPaths, withSaid } from "./document";

/** How long nothing is typed before the shelf is searched anew, in milliseconds. */
const PAUSE = 500;

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
  const [document, setDocument] = useState<BriefDocument | null>(null);
  const [past, setPast] = useState<BriefDocument[]>([]);
  const [said, setSaid] = useState(() => saidPaths(id));
  const [matchId, setMatchId] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<Saying["refusal"]>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const search = useCallback(
    async (next: BriefDocument, isKept = false) => {
      try {
        const changed = isKept ? { match: await beginMatch(id) } : await changeBrief(id, next);
        setRefusal(null);
        queries.setQueryData(brief(id).queryKey, (before) =>
          before ? { ...before, ...changed } : before,
        );
        setMatchId(changed.match?.id ?? null);
        setTrouble(null);
      } catch (problem) {
        if (!(problem instanceof ApiError)) throw problem;
        if (problem.status === 422) setRefusal({ where: problem.where, what: problem.what });
        else setTrouble(`Not kept yet: the ${problem.where} ${problem.what}.`);
        if (problem.passing) timer.current = setTimeout(() => void search(next), 2000);
      }
    },
    [id, queries],
  );

  const begun = useRef(false);
  useEffect(() => {
    if (!read.data || begun.current) return;
    begun.current = true;
    setDocument(read.data.document);
    if (read.data.match && read.data.match.state !== "failed") setMatchId(read.data.match.id);
    else void search(read.data.document, true);
  }, [read.data, search]);

  const keep = (next: BriefDocument) => {
    setDocument(next);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void search(next), PAUSE);
  };
  const usual = read.data?.weights ?? {};
  if (document === null)
    return {
      saying: null,
      document,
      usual,
      matchId,
      trouble: awayOf(read),
      undo: null,
      search: () => {},
    };
  return {
    document,
    usual,
    matchId,
    trouble,
    search: () => void search(document),
    undo:
      past.length > 0
        ? () => {
            keep(past[past.length - 1] as BriefDocument);
            setPast(past.slice(0, -1));
          }
        : null,
    saying: {
      value: (path) => valueAt(document, path),
      isSaid: (path) => said.has(path),
      say: (path, value) => {
        const more = new Set(said).add(path);
        remember(id, more);
        setSaid(more);
        setPast([...past.slice(-99), document]);
        keep(withSaid(document, path, value));
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
