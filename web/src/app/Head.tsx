import { useState } from "react";
import { Link } from "react-router";
import { Button } from "../ui/Button";
import { Mark } from "../ui/Mark";
import type { BenchState, Workbench } from "../workbench/workbench";
import type { Entry, Known } from "./entries";
import { History } from "./History";
import { Settings } from "./Settings";
import { Way } from "./Way";

interface Props {
  bench: Workbench;
  state: BenchState;
  known: Known;
  now: Entry;
}

const SAVED = { saved: "Saved", saving: "Saving", waiting: "Not saved yet" };

/** The head of every page of a build: what it is, where one is in its work, and the way back. */
export function Head({ bench, state, known, now }: Props) {
  const { build, saving } = state;
  const pinnedHere = build.pinned.number === build.head;
  return (
    <header className="no-print sticky top-0 z-10 flex flex-wrap items-center gap-x-3 border-b border-line bg-paper px-3 py-1 sm:h-13 sm:flex-nowrap sm:px-6 sm:py-0">
      <Link
        to="/"
        aria-label="All builds"
        title="All builds"
        className="flex min-h-11 items-center sm:min-h-8"
      >
        <Mark className="size-5.5" />
      </Link>
      <div className="min-w-[70%] flex-1 leading-tight sm:min-w-0">
        <Name bench={bench} name={state.document.name} />
        <p className="flex gap-1.5 px-1 text-[11.5px] text-soft">
          <span aria-live="polite" className={saving === "waiting" ? "text-watch" : ""}>
            {SAVED[saving]}
          </span>
          <span className="min-w-0 truncate" title={state.answer?.drive}>
            {state.answer?.drive}
          </span>
        </p>
      </div>
      <Way buildId={build.id} known={known} now={now} />
      <span className="flex flex-wrap items-center gap-0.5">
        {now.undoesItself ? null : (
          <>
            <Button kind="plain" onClick={() => bench.pin()} disabled={pinnedHere} title="P">
              {pinnedHere ? "Pinned here" : "Pin this"}
            </Button>
            <Button
              kind="plain"
              onClick={() => bench.undo()}
              disabled={!build.can_undo && saving === "saved"}
              title="Ctrl Z"
            >
              Undo
            </Button>
            <Button
              kind="plain"
              onClick={() => bench.redo()}
              disabled={!build.can_redo}
              title="Ctrl Shift Z"
            >
              Redo
            </Button>
            <History bench={bench} build={build} />
          </>
        )}
        <Settings />
      </span>
    </header>
  );
}

function Name({ bench, name }: { bench: Workbench; name: string }) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const next = draft?.trim();
    if (next && next !== name) bench.act({ do: "set", values: { name: next } });
    setDraft(null);
  };
  return (
    <h1 className="min-w-0">
      <input
        aria-label="Name of the build"
        className="w-full max-w-72 truncate rounded bg-transparent px-1 text-[16px] font-semibold hover:bg-sunk"
        style={{ fontStretch: "112%" }}
        value={draft ?? name}
        maxLength={120}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") {
            setDraft(null);
            event.stopPropagation();
          }
        }}
      />
    </h1>
  );
}
