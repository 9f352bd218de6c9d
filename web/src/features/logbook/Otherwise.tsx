import type { MeasuredRunBody } from "../../api/types";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { digits } from "../../units/format";

interface Props {
  run: MeasuredRunBody;
  /** What paths are called. */
  labels?: Record<string, string>;
  onRun: (some: Partial<MeasuredRunBody>) => void;
}

/** How the machine stood on the day, where that was not as its document says. */
export function Otherwise({ run, labels = {}, onRun }: Props) {
  const changes = Object.entries(run.changes ?? {});
  return (
    <>
      <Ask
        label="Charge at the start"
        unit="%"
        value={run.start?.soc_pct ?? null}
        onValue={(soc) => {
          const { soc_pct: _, ...rest } = run.start ?? {};
          onRun({ start: soc === null ? rest : { ...rest, soc_pct: soc } });
        }}
      />
      {changes.map(([path, value]) => (
        <span key={path} className="flex items-center gap-1">
          {labels[path] ?? path}: {typeof value === "number" ? digits(value, 3) : String(value)}
          <Button
            kind="plain"
            aria-label={`Leave out ${labels[path] ?? path}`}
            onClick={() =>
              onRun({ changes: Object.fromEntries(changes.filter(([key]) => key !== path)) })
            }
          >
            Leave out
          </Button>
        </span>
      ))}
    </>
  );
}
