import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { fieldList } from "../../../api/queries";
import type { FieldInfo, PartId } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { valueAt } from "../../../ui/paths";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { isOfKind, partTitle, sectionsOf } from "../parts";
import { FieldInput } from "./FieldInput";
import { GearingEditor } from "./GearingEditor";
import { MotorKind } from "./MotorKind";
import { Stand } from "./Stand";
import { WorkOut } from "./WorkOut";

interface Props {
  part: PartId;
  bench: Workbench;
  state: BenchState;
  onClose: () => void;
}

/** The bank opened under a part: every input it has, with unit, origin and explanation. */
export function PartEditor({ part, bench, state, onClose }: Props) {
  const { data } = useQuery(fieldList);
  const heading = useRef<HTMLHeadingElement>(null);
  const title = partTitle(part, state.answer);
  const sections = sectionsOf(part, state.document);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the heading takes the focus for each part
  useEffect(() => heading.current?.focus(), [part]);
  // What the engine can't do without comes first.
  const kind = state.document.motor.kind;
  const own = (data?.fields ?? [])
    .filter((field) => sections.includes(field.section))
    .filter((field) => isOfKind(field, state.document))
    .sort((a, b) => Number(b.required) - Number(a.required));
  return (
    <section
      aria-label={`${title}, all inputs`}
      className="flex min-h-0 flex-1 flex-col border-t-2 border-water"
    >
      <div className="flex items-center gap-4 py-2">
        <h2 ref={heading} tabIndex={-1} className="text-[16px] font-semibold outline-none">
          {title}
        </h2>
        <p className="hidden text-[12.5px] text-soft sm:block">
          Enter keeps a value, Escape takes it back. Empty means not known.
        </p>
        <Button className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto pb-4">
        {part === "motor" ? <MotorKind bench={bench} state={state} /> : null}
        {part === "motor" || part === "pack" ? (
          <WorkOut part={part} bench={bench} state={state} />
        ) : null}
        {part === "wheel" && state.document.propeller ? (
          <Stand propeller={state.document.propeller} bench={bench} state={state} />
        ) : null}
        {part === "gearing" ? (
          <GearingEditor bench={bench} state={state} fields={own} />
        ) : (
          <FieldGroups
            key={`${part} ${kind} ${own.length}`}
            bench={bench}
            state={state}
            fields={own}
          />
        )}
      </div>
    </section>
  );
}

interface GroupsProps {
  bench: Workbench;
  state: BenchState;
  fields: FieldInfo[];
}

const pathsFilled = (fields: FieldInfo[], state: BenchState) =>
  new Set(
    fields
      .filter((field) => field.required || valueAt(state.document, field.path) !== undefined)
      .map((field) => field.path),
  );

function FieldGroups({ bench, state, fields }: GroupsProps) {
  const main = fields.filter((field) => field.group === "");
  // As the bank was opened: what is filled in meanwhile stays where the hand is.
  const [before] = useState(() => pathsFilled(main, state));
  const filled = main.filter((field) => before.has(field.path));
  const empty = main.filter((field) => !before.has(field.path));
  const [open, setOpen] = useState(filled.length < 6);
  const groups = [...new Set(fields.map((field) => field.group))].filter(Boolean);
  const said = (list: FieldInfo[]) =>
    list.filter((field) => valueAt(state.document, field.path) != null).length;
  const inputs = (list: FieldInfo[]): ReactNode =>
    list.map((field) => (
      <FieldInput key={field.path} bench={bench} state={state} field={field} path={field.path} />
    ));
  return (
    <>
      <div className={GRID}>{inputs(filled)}</div>
      {empty.length ? (
        <details
          className="mt-3"
          open={open}
          onToggle={(event) => setOpen(event.currentTarget.open)}
        >
          <summary className="cursor-pointer py-1 text-[13px] text-water">
            {empty.length} more, {said(empty) ? `${said(empty)} filled in` : "not filled in"}
          </summary>
          <div className={`${GRID} pt-2`}>{inputs(empty)}</div>
        </details>
      ) : null}
      {groups.map((group) => {
        const members = fields.filter((field) => field.group === group);
        const count = said(members);
        return (
          <details key={group} className="mt-2">
            <summary className="cursor-pointer py-1 text-[13px] text-water">
              {group}: {count ? `${count} of ${members.length} filled in` : "not filled in"}
            </summary>
            <div className={`${GRID} pt-2`}>{inputs(members)}</div>
          </details>
        );
      })}
    </>
  );
}

export const GRID = "grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4";
