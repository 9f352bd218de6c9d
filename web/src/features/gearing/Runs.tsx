import { willItRun } from "../../api/gearing";
import type { RunsAnswer } from "../../api/types";
import { SeverityWord } from "../../ui/Severity";
import { useValue } from "../../units/useValue";
import { Passing, useAsked, type ViewProps, Waiting } from "./common";

/** Whether each stage runs as it is mounted: sizes, wrap, lengths that can be bought. */
export function Runs({ document, onSet }: ViewProps) {
  const { data, error } = useAsked([document, "runs"], () => willItRun(document));
  if (!data) return <Waiting error={error} what="Measuring" />;
  if (data.stages.length === 0) return <p className="py-3">A hub motor has no stages.</p>;
  return (
    <>
      <Passing error={error} />
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-2">
        {data.stages.map((stage) => (
          <Stage key={stage.index} stage={stage} onSet={onSet} />
        ))}
      </div>
      <h2 className="mt-5 text-[15px] font-semibold">To the builder</h2>
      <ul className="list-disc pl-5 text-[13px]">
        {data.notes.map((note) => (
          <li key={note} className="py-0.5">
            {note}
          </li>
        ))}
      </ul>
    </>
  );
}

function Stage({
  stage,
  onSet,
}: {
  stage: RunsAnswer["stages"][number];
  onSet: ViewProps["onSet"];
}) {
  const value = useValue();
  return (
    <section className="min-w-0">
      <h2 className="text-[15px] font-semibold">{stage.title}</h2>
      {stage.assumed ? <p className="text-[12.5px] text-watch">{stage.assumed}</p> : null}
      {stage.drawing ? <Drawing drawing={stage.drawing} kind={stage.kind} /> : null}
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-[13px]">
        {stage.facts.map((fact) => (
          <div key={fact.label} className="contents">
            <dt className="border-t border-line py-1 text-soft">{fact.label}</dt>
            <dd className="border-t border-line py-1">
              <span className="figure">{value(fact.value, fact.unit, 4)}</span>{" "}
              <span className="text-soft">{fact.note}</span>
            </dd>
          </div>
        ))}
      </dl>
      {stage.findings.map((finding) => (
        <p key={finding.say} className="py-0.5 text-[13px]">
          <SeverityWord severity={finding.severity} /> {finding.say}
        </p>
      ))}
      {stage.strands.length > 0 ? (
        <>
          <h3 className="mt-2 text-[13px] font-semibold">Lengths there are</h3>
          <ul className="text-[13px]">
            {stage.strands.map((strand) => (
              <li
                key={strand.links}
                className="flex flex-wrap items-center gap-x-3 border-t border-line py-1"
              >
                <b className="figure w-20">
                  {strand.links} {stage.kind === "belt" ? "teeth" : "links"}
                </b>
                <span className="flex-1 basis-56">
                  {strand.say}; shafts {value(strand.centre_mm, "mm", 4)} apart
                  {strand.fits === null
                    ? ""
                    : strand.fits
                      ? ", the slot reaches it"
                      : ", the slot does not reach it"}
                </span>
                <button
                  type="button"
                  className="min-h-11 text-water hover:underline sm:min-h-7"
                  onClick={() =>
                    onSet({
                      [`gearing.${stage.index}.links`]: strand.links,
                      [`gearing.${stage.index}.centre_mm`]: Number(strand.centre_mm.toFixed(1)),
                    })
                  }
                >
                  note it in the build
                  <span className="sr-only">
                    : {strand.links} in stage {stage.index + 1}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}

/** Both wheels and what runs over them, to scale. */
function Drawing({ drawing, kind }: { drawing: number[]; kind: string }) {
  const [small = 1, large = 1, centre = 4] = drawing;
  const wide = small + large + centre;
  const tall = 2 * Math.max(small, large);
  const slope = Math.asin(Math.min(1, (large - small) / centre));
  const [sx, sy] = [Math.sin(slope), Math.cos(slope)];
  const cx = [small, small + centre];
  const middle = tall / 2;
  return (
    <svg
      viewBox={`-4 -4 ${wide + 8} ${tall + 8}`}
      className="my-2 max-h-36 w-full max-w-md"
      role="img"
      aria-label="Both wheels of the stage at their distance, to scale"
    >
      <circle
        cx={cx[0]}
        cy={middle}
        r={small}
        className="fill-shallow stroke-water"
        strokeWidth={wide / 200}
      />
      <circle
        cx={cx[1]}
        cy={middle}
        r={large}
        className="fill-shallow stroke-water"
        strokeWidth={wide / 200}
      />
      {kind === "spur"
        ? null
        : [1, -1].map((side) => (
            <line
              key={side}
              x1={(cx[0] ?? 0) - small * sx}
              y1={middle - side * small * sy}
              x2={(cx[1] ?? 0) - large * sx}
              y2={middle - side * large * sy}
              className="stroke-ink"
              strokeWidth={wide / 120}
              strokeDasharray={kind === "chain" ? `${wide / 60} ${wide / 120}` : undefined}
            />
          ))}
    </svg>
  );
}
