import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";

/**
 * What a page shows, kept in its address so that it can be sent on and come back to.
 *
 * Inputs answer at once; the address follows. A value of null or "" goes out of it.
 */
export function useAddress(): [URLSearchParams, (values: Record<string, string | null>) => void] {
  const [search, setSearch] = useSearchParams();
  const [now, setNow] = useState(search);
  const told = search.toString();
  useEffect(() => setNow(new URLSearchParams(told)), [told]);
  const say = (values: Record<string, string | null>) => {
    const next = new URLSearchParams(now);
    for (const [key, value] of Object.entries(values))
      value === null || value === "" ? next.delete(key) : next.set(key, value);
    setNow(next);
    setSearch(next, { replace: true });
  };
  return [now, say];
}
