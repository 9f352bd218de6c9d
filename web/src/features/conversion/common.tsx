import { useQuery } from "@tanstack/react-query";
import { fieldList } from "../../api/queries";
import type { BuildDocument, ConversionAnswer } from "../../api/types";
import type { BenchState, Workbench } from "../../workbench/workbench";
import { FieldInput } from "../bench/editor/FieldInput";

export interface PartProps {
  bench: Workbench;
  state: BenchState;
  document: BuildDocument;
  told: ConversionAnswer;
  onSet: (values: Record<string, unknown>) => void;
}

/** Some inputs of the build, by their paths. */
export function Inputs({
  paths,
  label,
  bench,
  state,
}: Pick<PartProps, "bench" | "state"> & { paths: string[]; label: string }) {
  const { data } = useQuery(fieldList);
  const kind = state.document.motor.kind;
  const known = paths.flatMap(
    (path) =>
      data?.fields.find(
        (field) =>
          field.path === path &&
          (!path.startsWith("motor.") || !field.kinds.length || field.kinds.includes(kind)),
      ) ?? [],
  );
  return (
    <section aria-label={label} className="grid gap-x-4 gap-y-2 min-[520px]:grid-cols-2">
      {known.map((field) => (
        <FieldInput key={field.path} bench={bench} state={state} field={field} path={field.path} />
      ))}
    </section>
  );
}
