import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";

/**
 * What a page shows, kept in its address so that it can be sent on and come back to.
 *
 * Inputs answer at once; the address follows. A value of null or "" goes out of it.
 */
export function useAddress(): [URLSearchParams, (values: Record<string, string | null>) => void] {
  const [search, setSearch] = useSearchParams();
  const [now, setNow] = useState(search);
  const latest = useRef(search);
  // Addresses that were said here and have not come round yet: their echo must not undo a later one.
  const underWay = useRef<string[]>([]);
  const told = search.toString();
  useEffect(() => {
    const at = underWay.current.lastIndexOf(told);
    if (at >= 0) {
      underWay.current = underWay.current.slice(at + 1);
      return;
    }
    latest.current = new URLSearchParams(told);
    setNow(latest.current);
  }, [told]);
  const say = (values: Record<string, string | null>) => {
    const next = new URLSearchParams(latest.current);
    for (const [key, value] of Object.entries(values))
      value === null || value === "" ? next.delete(key) : next.set(key, value);
    if (next.toString() === latest.current.toString()) return;
    latest.current = next;
    underWay.current.push(next.toString());
    setNow(next);
    setSearch(next, { replace: true });
  };
  return [now, say];
}
