import { useEffect } from "react";
import type { MomentId } from "../../api/types";
import { keysAreOn } from "../../ui/keys";
import { MOMENTS } from "./MomentTabs";

interface Actions {
  choose: (moment: MomentId) => void;
  close: () => void;
  /** Look at the end of the trip, and back. */
  end: () => void;
}

/** Which lever each letter goes to; arrows then press it. */
const LEVERS: Record<string, string> = {
  t: '[data-lever$="driver_teeth"], [data-lever$="ratio"]',
  c: '[data-lever="battery.series"]',
  w: '[data-lever="winding"]',
  m: '[data-lever="vehicle.mass_kg"]',
};

export function useKeys({ choose, close, end }: Actions): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches("input, select, textarea, [contenteditable]");
      const key = event.key.toLowerCase();
      if (key === "escape" && !event.defaultPrevented) close();
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !keysAreOn()) return;
      const moment = MOMENTS[Number(key) - 1];
      if (moment) choose(moment);
      else if (key === "e") end();
      else if (LEVERS[key]) {
        document
          .querySelector<HTMLElement>(LEVERS[key])
          ?.querySelector<HTMLElement>("button:enabled")
          ?.focus();
      } else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [choose, close, end]);
}
