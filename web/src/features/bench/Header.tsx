import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { Button } from "../../ui/Button";
import type { BenchState, Workbench } from "../../workbench/workbench";
import { History } from "./History";

interface Props {
  bench: Workbench;
  state: BenchState;
  settings: ReactNode;
}

export function Header({ bench, state, settings }: Props) {
  const { build, saving } = state;
  const pinnedHere = build.pinned.number === build.head;
  return (
    <header className="no-print flex flex-wrap items-center gap-x-3 border-b border-line px-3 py-1.5 sm:h-12 sm:flex-nowrap sm:px-6 sm:py-0">
      <Link to="/" className="text-[13px] text-water hover:underline" aria-label="All builds">
        ← Builds
      </Link>
      <Name bench={bench} name={state.document.name} />
      <span className="text-[12.5px] text-soft" aria-live="polite">
        {saving === "saved" ? "Saved" : saving === "saving" ? "Saving" : "Not saved yet"}
      </span>
      <Link
        to={`/builds/${build.id}/gearing`}
        className="text-[13px] whitespace-nowrap text-water hover:underline"
      >
        Gearing: teeth, winding, volts
      </Link>
      <span className="ml-auto flex flex-wrap items-center gap-1">
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
        {settings}
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
        className="w-44 truncate rounded bg-transparent px-1 py-1 text-[17px] font-semibold hover:bg-sunk sm:w-56"
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
