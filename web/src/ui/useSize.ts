import { useCallback, useState } from "react";

/** Width and height of an element, as they change. */
export function useSize(): [
  (element: HTMLElement | null) => (() => void) | undefined,
  number,
  number,
] {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return;
    const seen = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  return [ref, size.width, size.height];
}
