import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { ApiError } from "../api/client";
import type { BuildAnswer } from "../api/types";
import { Notice } from "../ui/Notice";
import { useBuild } from "./useWorkbench";

/** The build that the address names, as soon as it is read; until then what keeps it. */
export function Opened({ children }: { children: (build: BuildAnswer) => ReactNode }) {
  const { id = "" } = useParams();
  const { data, error, failureCount } = useBuild(id);
  if (data) return children(data);
  const lost = error instanceof ApiError && !error.passing;
  return (
    <main className="p-6">
      {lost ? (
        <Notice tone="stop">
          This build is not here.{" "}
          <Link to="/" className="text-water underline">
            All builds
          </Link>
        </Notice>
      ) : failureCount > 0 ? (
        <Notice tone="watch">The server or its database does not answer; trying again.</Notice>
      ) : (
        <p className="text-soft">Opening the build</p>
      )}
    </main>
  );
}
