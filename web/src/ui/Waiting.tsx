import { ApiError } from "../api/client";

/** Why there is no answer yet, or what the engine refused. */
export function Waiting({ error, what }: { error: unknown; what: string }) {
  if (error instanceof ApiError)
    return (
      <p role="alert" className="py-3 text-[14px] text-stop">
        {error.where ? `${error.where.replaceAll("_", " ")} ` : ""}
        {error.what}.
      </p>
    );
  return (
    <p role="status" className="py-3 text-soft">
      {what}
    </p>
  );
}
