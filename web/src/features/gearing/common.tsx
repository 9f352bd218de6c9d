import { ApiError } from "../../api/client";
import type { BuildDocument } from "../../api/types";
import { Notice } from "../../ui/Notice";

export interface ViewProps {
  document: BuildDocument;
  pinned: BuildDocument | null;
  /** Makes a change of the build; it can be undone like any other. */
  onSet: (values: Record<string, unknown>) => void;
}

/** Said above a last answer that still stands while a new one does not come. */
export function Passing({ error }: { error: unknown }) {
  if (!(error instanceof ApiError && error.passing)) return null;
  return (
    <Notice tone="watch">
      {error.where ? `The ${error.where} ` : ""}
      {error.what}. What is shown is the last answer; asking again.
    </Notice>
  );
}

export { Ask } from "../../ui/Ask";
export { SetIt } from "../../ui/SetIt";
export { useAsked } from "../../ui/useAsked";
export { Waiting } from "../../ui/Waiting";

export const Mark = ({ stopped }: { stopped: string | null }) =>
  stopped ? (
    <span className="font-semibold text-stop">
      Stop: <span className="font-normal">{stopped}</span>
    </span>
  ) : (
    <span className="text-fine">Nothing stops it</span>
  );
