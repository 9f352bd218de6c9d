import { Suspense } from "react";
import { NavLink, Outlet } from "react-router";
import { Mark } from "../ui/Mark";
import { Settings } from "./Settings";

const PLACES = [
  ["/", "Builds"],
  ["/shelf", "Parts shelf"],
  ["/compare", "Compare"],
] as const;

/** What every page stands in that is not of one build. */
export function PlainFrame() {
  return (
    <div className="flex min-h-dvh flex-col">
      <header className="no-print flex flex-wrap items-center gap-x-3 border-b border-line px-4 sm:h-13 sm:px-6">
        <p
          className="flex items-center gap-2.5 text-[16px] font-semibold"
          style={{ fontStretch: "112%" }}
        >
          <Mark className="size-5.5" />
          <span className="hidden sm:inline">Young Torrent</span>
          <span className="sr-only sm:hidden">Young Torrent</span>
        </p>
        <nav aria-label="Places" className="flex flex-1 items-center gap-1 sm:h-full sm:pl-4">
          {PLACES.map(([to, title]) => (
            <NavLink
              key={to}
              to={to}
              end
              className="flex min-h-12 items-center border-b-2 border-transparent px-2 text-[13.5px] whitespace-nowrap text-soft hover:text-ink aria-[current]:border-water aria-[current]:font-semibold aria-[current]:text-ink sm:h-full sm:min-h-0"
            >
              {title}
            </NavLink>
          ))}
        </nav>
        <Settings />
      </header>
      <Suspense fallback={<p className="p-6 text-soft">Opening</p>}>
        <Outlet />
      </Suspense>
    </div>
  );
}
