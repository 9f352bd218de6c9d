import { isRunning } from "../../api/matching";
import type { MatchProgress } from "../../api/types";
import { Button } from "../../ui/Button";

interface Props {
  match: MatchProgress | undefined;
  onCancel: () => void;
  onAgain: () => void;
}

const many = (count: number) => count.toLocaleString("en-GB");

/** How far the search is, what it has looked at, and the way to call it off. */
export function Progress({ match, onCancel, onAgain }: Props) {
  const running = match === undefined || isRunning(match);
  const share = match && match.to_solve > 0 ? match.solved / match.to_solve : 0;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2">
      <p role="status" className="min-w-0 flex-1 text-[13.5px]">
        {words(match)}
      </p>
      {running ? (
        <>
          <progress
            aria-label="Part of the shelf that is searched"
            value={share}
            className="h-2 w-40 overflow-hidden rounded-full bg-sunk accent-water [&::-webkit-progress-bar]:bg-sunk [&::-webkit-progress-value]:bg-water"
          />
          <Button onClick={onCancel} disabled={!match}>
            Stop searching
          </Button>
        </>
      ) : match.state === "done" ? null : (
        <Button onClick={onAgain}>Search again</Button>
      )}
    </div>
  );
}

function words(match: MatchProgress | undefined): string {
  if (!match || match.state === "waiting") return "Going to the shelf";
  if (match.state === "failed") return `The search failed. ${match.problem}`;
  const looked = `${many(match.considered)} combinations on the shelf`;
  const fit = match.feasible === 0 ? "none does so far" : `${many(match.feasible)} do so far`;
  if (match.state === "running") return `${looked}: ${fit}`;
  if (match.state === "cancelled") return `Stopped early. Of ${looked} ${fit}.`;
  if (match.feasible === 0) return `None of the ${looked} does all of this.`;
  return `${many(match.feasible)} of the ${looked} do all of this.`;
}
