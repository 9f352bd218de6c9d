import type { BuildDocument, FieldInfo } from "../../../api/types";
import { Button } from "../../../ui/Button";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { FieldInput } from "./FieldInput";

interface Props {
  bench: Workbench;
  state: BenchState;
  fields: FieldInfo[];
}

type Stage = BuildDocument["gearing"][number];
type Kind = Stage["kind"];

const KINDS: Kind[] = ["chain", "belt", "spur", "planetary", "fixed", "gearbox"];
const TYPICAL: Record<Kind, number> = {
  chain: 0.96,
  belt: 0.96,
  spur: 0.97,
  planetary: 0.9,
  fixed: 0.95,
  gearbox: 0.94,
};

/** Stages from motor to wheel: each with its inputs, added, moved and taken out. */
export function GearingEditor({ bench, state, fields }: Props) {
  const { gearing } = state.document;
  const replace = (stages: Stage[]) => bench.act({ do: "set", values: { gearing: stages } });
  const add = (kind: Kind) => replace([...gearing, fresh(kind)]);
  return (
    <>
      {gearing.length === 0 ? (
        <p className="mb-3 text-[14px]">
          The motor turns the wheel itself. Add a stage if there is one.
        </p>
      ) : null}
      {gearing.map((stage, index) => (
        <fieldset
          // A stage has no name but its place in the train.
          key={index}
          className="mb-3 border-t border-line pt-2"
        >
          <legend className="flex items-center gap-2 pr-3 text-[14px] font-semibold">
            Stage {index + 1}
          </legend>
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-[130px_repeat(5,1fr)_auto]">
            <label className="block text-[13px] font-semibold">
              Kind
              <select
                className="mt-0.5 block min-h-11 w-full rounded-md border border-line bg-raised px-2 text-[14px] font-normal sm:min-h-8"
                value={stage.kind}
                onChange={(event) =>
                  replace(gearing.with(index, turned(stage, event.target.value as Kind)))
                }
              >
                {KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </select>
            </label>
            {shownOf(fields, stage).map((field) => (
              <FieldInput
                key={field.path}
                bench={bench}
                state={state}
                field={field}
                path={field.path.replace("*", String(index))}
              />
            ))}
            <div className="flex items-start gap-1 pt-5 sm:col-start-7">
              <Button
                aria-label={`Move stage ${index + 1} towards the motor`}
                disabled={index === 0}
                onClick={() => replace(moved(gearing, index))}
              >
                ↑
              </Button>
              <Button
                aria-label={`Take out stage ${index + 1}`}
                onClick={() => replace(gearing.filter((_, i) => i !== index))}
              >
                Take out
              </Button>
            </div>
          </div>
        </fieldset>
      ))}
      <p className="flex flex-wrap items-center gap-2 text-[13px]">
        Add at the wheel's side:
        {KINDS.map((kind) => (
          <Button key={kind} onClick={() => add(kind)}>
            {kind}
          </Button>
        ))}
      </p>
    </>
  );
}

/** Inputs of a stage: what it needs first, of the others those of its own kind. */
const shownOf = (fields: FieldInfo[], stage: Stage): FieldInfo[] =>
  fields.filter((field) => {
    if (!field.kinds.includes(stage.kind)) return false;
    const key = field.path.split(".").at(-1) ?? "";
    if (["module_mm", "face_mm", "allowed_stress_mpa"].includes(key)) return stage.kind === "spur";
    if (["pitch_mm", "allowed_pull_n"].includes(key)) return stage.kind !== "spur";
    return true;
  });

const toothed = (kind: Kind): kind is "chain" | "belt" | "spur" =>
  kind === "chain" || kind === "belt" || kind === "spur";

function fresh(kind: Kind): Stage {
  if (toothed(kind)) return { kind, driver_teeth: 15, driven_teeth: 45, efficiency: TYPICAL[kind] };
  if (kind === "gearbox") return { kind, ratios: [3.2, 2, 1.25], efficiency: TYPICAL[kind] };
  return { kind, ratio: 4, efficiency: TYPICAL[kind] };
}

/** The same stage as another kind: what it shares with that kind stays as it is. */
function turned(stage: Stage, kind: Kind): Stage {
  const made = fresh(kind);
  if ("driver_teeth" in made && "driver_teeth" in stage) {
    return { ...made, driver_teeth: stage.driver_teeth, driven_teeth: stage.driven_teeth };
  }
  if ("ratio" in made) {
    return { ...made, ratio: Number(ratioOf(stage).toPrecision(6)) };
  }
  return made;
}

function ratioOf(stage: Stage): number {
  if ("ratio" in stage) return stage.ratio;
  if ("ratios" in stage) return Math.max(...stage.ratios);
  return stage.driven_teeth / stage.driver_teeth;
}

function moved(stages: Stage[], index: number): Stage[] {
  const order = [...stages];
  const [stage] = order.splice(index, 1);
  if (stage) order.splice(index - 1, 0, stage);
  return order;
}
