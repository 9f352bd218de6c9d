import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { ApiError } from "../../api/client";
import { ride } from "../../api/ride";
import type { BuildDocument, RideDocument, RideShown } from "../../api/types";

/** Draws of the bands, coarse ones first: each round takes about as long as its draws are many. */
const ROUNDS = [16, 64, 256];
/** Bands of longer rides take too long to be asked for unasked. */
const LONG_S = 3600;

export interface Ridden {
  shown: RideShown | undefined;
  error: unknown;
  riding: boolean;
  /** The last bands that are there, and of how many draws they are. */
  banded: RideShown | undefined;
  draws: number;
  /** How many draws are under way; nought where none are. */
  coming: number;
  cancelled: boolean;
  cancel: () => void;
  again: () => void;
}

/** A ride, and its bands after it, from coarse to fine; both may be called off. */
export function useRidden(
  document: BuildDocument,
  asked: RideDocument,
  { ready, bands }: { ready: boolean; bands: boolean },
): Ridden {
  const client = useQueryClient();
  const key = ["ridden", document, asked];
  const said = JSON.stringify(key);
  const [off, setOff] = useState<string | null>(null);
  const [round, setRound] = useState({ of: said, done: 0 });
  const cancelled = off === said;
  const done = round.of === said ? round.done : 0;
  const one = useQuery<RideShown>({
    queryKey: [...key, 0],
    queryFn: ({ signal }) => ride(document, asked, 0, signal),
    enabled: ready && !cancelled,
    retry: (_, problem) => problem instanceof ApiError && problem.passing,
    placeholderData: (before) => before as never,
  });
  const fresh = one.data !== undefined && !one.isPlaceholderData;
  const draws = ROUNDS[done] ?? 0;
  const wanted =
    bands && fresh && !cancelled && draws > 0 && (one.data?.told.time_s ?? 0) <= LONG_S;
  const many = useQuery<RideShown>({
    queryKey: [...key, draws],
    queryFn: ({ signal }) => ride(document, asked, draws, signal),
    enabled: wanted,
    retry: (_, problem) => problem instanceof ApiError && problem.passing,
  });
  const [banded, setBanded] = useState<{ of: string; draws: number; shown: RideShown } | null>(
    null,
  );
  useEffect(() => {
    if (!many.data || !wanted) return;
    setBanded({ of: said, draws, shown: many.data });
    setRound({ of: said, done: done + 1 });
  }, [many.data, wanted, said, draws, done]);
  const mine = banded?.of === said ? banded : null;
  return {
    shown: one.data,
    error: one.error ?? (one.isFetching ? one.failureReason : null) ?? many.error,
    riding: one.isFetching,
    banded: mine?.shown,
    draws: mine?.draws ?? 0,
    coming: many.isFetching ? draws : 0,
    cancelled,
    cancel: () => {
      setOff(said);
      void client.cancelQueries({ queryKey: key });
    },
    again: () => setOff(null),
  };
}
