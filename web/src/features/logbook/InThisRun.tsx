import { Button } from "../../ui/Button";
import { useValue } from "../../units/useValue";
import { fieldOf, kindOf, type Observation } from "./kinds";

interface Props {
  seen: Observation[];
  onOut: (at: number) => void;
}

/** What was read so far, each in a word, to be taken out again. */
export function InThisRun({ seen, onOut }: Props) {
  const value = useValue();
  const words = (one: Observation) =>
    "samples" in one
      ? `${one.samples.length} looks`
      : Object.entries(one)
          .filter(([key, figure]) => typeof figure === "number" && !key.endsWith("_tolerance"))
          .map(([key, figure]) => value(figure as number, fieldOf(key)[1], 3))
          .join(", ");
  return (
    <ul aria-label="Readings of this run" className="flex flex-wrap gap-1.5 py-1">
      {seen.map((one, at) => (
        // Readings of a run have no identity but their order.
        <li
          key={at}
          className="flex items-center gap-1 rounded-md border border-line bg-raised pl-2.5"
        >
          {words(one)}
          <Button
            kind="plain"
            aria-label={`Take out ${kindOf(one.kind)?.title ?? "logger"}, ${words(one)}`}
            onClick={() => onOut(at)}
          >
            Take out
          </Button>
        </li>
      ))}
    </ul>
  );
}
