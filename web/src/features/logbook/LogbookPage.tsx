import { type View, Views } from "../../ui/Views";
import { Enter } from "./Enter";
import { Learn } from "./Learn";
import { Story } from "./Story";
import { TheDay } from "./TheDay";

const VIEWS: View[] = [
  { id: "runs", title: "Runs", shows: () => <Story /> },
  { id: "enter", title: "Enter a run", shows: () => <Enter /> },
  { id: "learn", title: "What they teach", shows: () => <Learn /> },
  { id: "day", title: "The day", shows: () => <TheDay /> },
];

/** What was measured of a build, and what it teaches. */
export function LogbookPage() {
  return (
    <main className="flex flex-1 flex-col pt-1">
      <Views label="Logbook" views={VIEWS} />
    </main>
  );
}
