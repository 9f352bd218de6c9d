import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";
import type { BenchState, Workbench } from "../workbench/workbench";
import { changeWords } from "./History";

/** What the user has to know about their edits, and the last thing that was done. */
interface Props {
  bench: Workbench;
  state: BenchState;
  /** Sections whose inputs are open; they show a refusal at the input itself. */
  open: string[];
}

export function Notices({ bench, state, open }: Props) {
  const { conflict, trouble, saving, refused, notice, changes } = state;
  if (conflict) {
    return (
      <Notice tone="stop">
        <span>
          This build was changed elsewhere meanwhile.
          {conflict.kept ? ` Your change is kept as version ${conflict.kept}.` : ""} Which should
          stand?
        </span>
        <Button onClick={() => bench.keepMine()}>Mine</Button>
        <Button onClick={() => void bench.takeTheirs()}>The other</Button>
        <Button onClick={() => void bench.keepBoth()}>Both: mine as a build of its own</Button>
      </Notice>
    );
  }
  if (trouble) return <Notice tone="stop">{trouble} What you did is kept here.</Notice>;
  if (saving === "waiting") {
    return (
      <Notice tone="watch">
        Not saved yet: the database does not answer. Your change is kept in this browser and is
        saved as soon as it answers again; you can go on.
      </Notice>
    );
  }
  if (refused && !open.includes(refused.where.split(".")[0] ?? "")) {
    return (
      <Notice tone="stop">
        <span>
          <strong>{refused.where || "The document"}</strong> {refused.what}. The last good result
          stands.
        </span>
        <Button onClick={() => bench.clearRefusal()}>Understood</Button>
      </Notice>
    );
  }
  if (notice) {
    return (
      <Notice tone="calm">
        {notice} <Button onClick={() => bench.clearNotice()}>Understood</Button>
      </Notice>
    );
  }
  return (
    <p className="sr-only" aria-live="polite">
      {changes.map(changeWords).join("; ")}
    </p>
  );
}
