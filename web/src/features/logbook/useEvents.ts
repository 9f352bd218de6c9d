import { useEffect, useState } from "react";

/** The last of a stream of events, each a JSON document. */
export function useEvents<T>(address: string) {
  const [last, setLast] = useState<T | null>(null);
  const [broken, setBroken] = useState(false);
  useEffect(() => {
    const events = new EventSource(address);
    events.onmessage = (event) => {
      setBroken(false);
      setLast(JSON.parse(event.data as string) as T);
    };
    // The browser connects again by itself; meanwhile it is said.
    events.onerror = () => setBroken(true);
    events.addEventListener("end", () => events.close());
    return () => events.close();
  }, [address]);
  return { last, broken };
}
