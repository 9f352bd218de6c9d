import { Suspense, useCallback, useEffect, useMemo, useState } from "react";
import { useLocation } from "react-router";
import type { BuildAnswer } from "../api/types";
import { useMetBrief } from "../workbench/met";
import { Opened } from "../workbench/Opened";
import { OpenedContext } from "../workbench/opened";
import { useTicks } from "../workbench/plan";
import { useWorkbench } from "../workbench/useWorkbench";
import { ENTRIES, type Entry, type Known } from "./entries";
import { Head } from "./Head";
import { Notices } from "./Notices";
import { useFrameKeys } from "./useFrameKeys";

/** What every page of a build stands in. */
export function BuildFrame() {
  return <Opened>{(build) => <Framed key={build.id} build={build} />}</Opened>;
}

function Framed({ build }: { build: BuildAnswer }) {
  const { bench, state } = useWorkbench(build);
  const met = useMetBrief(build.id, state.document);
  const plan = useTicks(build, "teeth").ticks;
  const power = useTicks(build, "power").ticks;
  const [shown, setShown] = useState<string[]>([]);
  const onShown = useCallback((sections: string[]) => setShown(sections), []);
  const { document: built, answer } = state;
  const known: Known = useMemo(
    () => ({ document: built, answer, met, plan, power }),
    [built, answer, met, plan, power],
  );
  const here = useLocation().pathname.split("/")[3] ?? "";
  const now = (ENTRIES.find((entry) => entry.path === here) ?? ENTRIES[1]) as Entry;
  useFrameKeys(bench, known, now, build.id);
  useEffect(() => {
    const page = now.path ? `${now.title} of ${built.name}` : built.name;
    document.title = `${page}, Young Torrent`;
  }, [built.name, now]);
  const opened = useMemo(() => ({ bench, state, met, onShown }), [bench, state, met, onShown]);
  const Page = now.page;
  return (
    <OpenedContext value={opened}>
      <div
        className={`flex min-h-dvh flex-col pb-14 [--way:3.1rem] sm:pb-0 sm:[--way:0px] print:pb-0 ${now.fits ? "sm:h-dvh sm:min-h-0" : ""}`}
      >
        <Head bench={bench} state={state} known={known} now={now} />
        <Notices bench={bench} state={state} open={shown} />
        <Suspense fallback={<p className="p-6 text-soft">Opening</p>}>
          <Page />
        </Suspense>
      </div>
    </OpenedContext>
  );
}
