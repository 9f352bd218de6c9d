import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { beginMatch, brief, changeBrief } from "../../api/matching";
import type { BriefDocument } from "../../api/types";
import { valueAt } from "../../ui/paths";
import type { Counts } from "./counts";
import { withSaid } from "./document";
import { forgetUnsaved, keepUnsaved, readUnsaved, type Told } from "./unsaved";

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
  const [now, setNow] = useState<Told | null>(null);
  const [past, setPast] = useState<Told[]>([]);
  const [matchId, setMatchId] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<Saying["refusal"]>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef<Told | null>(null);

  const search = useCallback(
    async (next: Told, isKept = false) => {
      try {
        const changed = isKept
          ? { match: await beginMatch(id) }
          : await changeBrief(id, next.document, next.said);
        setRefusal(null);
        queries.setQueryData(brief(id).queryKey, (before) =>
          before ? { ...before, ...changed } : before,
        );
        setMatchId(changed.match?.id ?? null);
        setTrouble(null);
        if (latest.current === next) forgetUnsaved(id);
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
    const { document, said, match } = read.data;
    const kept: Told = { document, said };
    if (match && match.state !== "failed") setMatchId(match.id);
    const unsaved = readUnsaved(id);
    if (unsaved) {
      // Said at an earlier visit, and the page closed or the database away before it was kept.
      setPast([kept]);
      setNow(unsaved);
      latest.current = unsaved;
      void search(unsaved);
      return;
    }
    setNow(kept);
    if (!match || match.state === "failed") void search(kept, true);
  }, [id, read.data, search]);

  const keep = (next: Told) => {
    setNow(next);
    latest.current = next;
    keepUnsaved(id, next);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void search(next), PAUSE);
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
    search: () => void search(now),
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
