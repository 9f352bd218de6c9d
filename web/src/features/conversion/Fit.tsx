import { Button } from "../../ui/Button";
import { SeverityWord } from "../../ui/Severity";
import { useSize } from "../../ui/useSize";
import { Inputs, type PartProps } from "./common";
import { FitDrawing } from "./FitDrawing";

const HOLE = [
  "free_length_mm",
  "free_across_mm",
  "adapter_mm",
  "coupler_mm",
  "shaft",
  "flywheel",
  "clutch",
];

const MOTOR = ["motor.length_mm", "motor.diameter_mm", "motor.shaft_mm"];

/** Whether the motor fits where the engine was: lengths to scale, and what the joint must bear. */
export function Fit({ bench, state, told, document }: PartProps) {
  const [ref, width] = useSize();
  const { fit } = told;
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[25rem_minmax(0,1fr)] print:block">
      <div className="min-w-0 print:hidden">
        <h2 className="pb-1 text-[15px] font-semibold">Measured with a tape</h2>
        <Inputs
          label="Measured with a tape"
          bench={bench}
          state={state}
          paths={[...HOLE.map((key) => `coupling.${key}`), ...MOTOR]}
        />
      </div>
      <div className="min-w-0">
        <h1 className="hidden pb-2 text-[18px] font-semibold print:block">{document.name}</h1>
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h2 className="text-[15px] font-semibold">
            On the shaft’s line, from the gearbox’s face
          </h2>
          <Button className="ml-auto print:hidden" onClick={() => window.print()}>
            Print for the machinist
          </Button>
        </div>
        <div ref={ref} className="mt-1">
          <FitDrawing answer={fit} width={Math.max(width, 0)} name={document.name} />
        </div>
        <ul className="mt-3">
          {fit.checks.map((check) => (
            <li key={check.id} className="border-t border-line py-2 text-[13.5px]">
              <b>{check.title}</b>{" "}
              {check.word === "open" ? (
                <span className="text-[12.5px] text-soft">not known</span>
              ) : (
                <SeverityWord severity={check.word} />
              )}
              <p className="text-[13px] text-soft">{check.why}</p>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
