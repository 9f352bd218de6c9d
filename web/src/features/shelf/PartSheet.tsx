import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { fieldList } from "../../api/queries";
import {
  addPart,
  bringPartBack,
  changePart,
  part,
  partFields,
  removePart,
  SHELF,
  undoPart,
} from "../../api/shelf";
import type { PartAnswer, PartKind } from "../../api/types";
import { Button } from "../../ui/Button";
import { valueAt, withValue } from "../../ui/paths";
import { DraftField } from "./DraftField";
import { BLANK, type Draft, fieldsFor } from "./draft";
import { singular } from "./kinds";

interface Props {
  kind: PartKind;
  /** The part that is looked at, or null for a new one. */
  id: string | null;
  onOpen: (id: string) => void;
  onClose: () => void;
}

/** One part with everything that is said of it; one's own can be changed, any can be copied. */
export function PartSheet({ kind, id, onOpen, onClose }: Props) {
  const found = useQuery({ ...part(kind, id ?? ""), enabled: id !== null });
  const fields = useQuery(partFields(kind)).data?.fields ?? [];
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Draft | null>(id === null ? BLANK[kind] : null);
  const [refusal, setRefusal] = useState<{ where: string; what: string } | null>(null);
  const [more, setMore] = useState(false);
  const [keeping, setKeeping] = useState(false);
  // Closed while something is being kept: it closes once that is kept, and stays if it is refused.
  const leaving = useRef(false);
  useEffect(() => {
    if (found.data) setDraft(found.data.document as Draft);
  }, [found.data]);
  const own = id === null || found.data?.own === true;
  const changed = draft !== null && draft !== found.data?.document;

  const keep = async (doing: () => Promise<PartAnswer>) => {
    setKeeping(true);
    try {
      const told = await doing();
      setRefusal(null);
      await queries.invalidateQueries({ queryKey: [SHELF] });
      if (leaving.current) onClose();
      else onOpen(told.id);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setRefusal({ where: problem.where, what: problem.what });
    } finally {
      leaving.current = false;
      setKeeping(false);
    }
  };
  const close = () => {
    if (keeping) leaving.current = true;
    else onClose();
  };
  const save = () =>
    draft && keep(() => (id === null ? addPart(kind, draft) : changePart(kind, id, draft)));
  const copy = () =>
    draft && keep(() => addPart(kind, { ...draft, name: `${String(draft.name)}, copy` }));
  const [first, rest] = draft ? fieldsFor(fields, draft) : [[], []];
  const at = (path: string) =>
    refusal && (refusal.where === path || refusal.where.startsWith(`${path}.`))
      ? refusal.what
      : null;
  const placed = [...first, ...rest].some((field) => at(field.path)) || at("name");
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-40 flex w-full max-w-xl flex-col border-l border-line bg-raised shadow-xl"
        >
          <div className="flex items-start gap-3 border-b border-line px-4 py-3">
            <Dialog.Title className="min-w-0 flex-1 text-[17px] font-semibold">
              {id === null ? `A ${singular(kind)} of your own` : String(draft?.name ?? "Reading")}
            </Dialog.Title>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
          <section
            aria-label="What is said of it"
            tabIndex={0}
            className="min-h-0 flex-1 overflow-y-auto px-4 py-3"
          >
            {found.error instanceof ApiError ? <p>The part {found.error.what}.</p> : null}
            {!own && found.data ? (
              <p className="mb-3 text-[13px] text-soft">
                This part ships with the shelf. Copy it to change what it says.
              </p>
            ) : null}
            {refusal && !placed ? (
              <p role="alert" className="mb-2 text-[13px] font-semibold text-stop">
                Not kept: {refusal.where} {refusal.what}
              </p>
            ) : null}
            {draft ? (
              <fieldset disabled={!own} className="grid gap-3 sm:grid-cols-2">
                <label className="block text-[13px] font-semibold sm:col-span-2">
                  Name
                  <input
                    value={String(draft.name ?? "")}
                    onChange={(event) => setDraft({ ...draft, name: event.target.value })}
                    className={`min-h-11 w-full rounded-md border bg-paper px-2 text-[14px] font-normal sm:min-h-8 ${at("name") ? "border-stop" : "border-line"}`}
                  />
                  {at("name") ? <span className="text-stop">Name {at("name")}</span> : null}
                </label>
                {kind === "motors" ? <MotorSort draft={draft} onChange={setDraft} /> : null}
                {first.map((field) => (
                  <DraftField
                    key={field.path}
                    field={field}
                    draft={draft}
                    refused={at(field.path)}
                    onChange={setDraft}
                  />
                ))}
                {own && rest.length > 0 ? (
                  <div className="sm:col-span-2">
                    <Button onClick={() => setMore(!more)} aria-expanded={more}>
                      {more ? "Fewer facts" : `${rest.length} more facts`}
                    </Button>
                  </div>
                ) : null}
                {own && (more || rest.some((field) => at(field.path)))
                  ? rest.map((field) => (
                      <DraftField
                        key={field.path}
                        field={field}
                        draft={draft}
                        refused={at(field.path)}
                        onChange={setDraft}
                      />
                    ))
                  : null}
              </fieldset>
            ) : null}
          </section>
          <div className="flex flex-wrap items-center gap-2 border-t border-line px-4 py-3">
            {own ? (
              <Button kind="main" disabled={!changed || keeping} onClick={save}>
                {id === null ? "Put it on the shelf" : "Save"}
              </Button>
            ) : null}
            {id !== null ? (
              <Button disabled={keeping} onClick={copy}>
                Copy
              </Button>
            ) : null}
            {found.data?.own && found.data.can_undo ? (
              <Button disabled={keeping} onClick={() => keep(() => undoPart(kind, found.data.id))}>
                As it was before
              </Button>
            ) : null}
            {found.data?.own ? (
              <Button
                disabled={keeping}
                onClick={() =>
                  keep(() => (found.data.removed ? bringPartBack : removePart)(kind, found.data.id))
                }
              >
                {found.data.removed ? "Bring back" : "Take off the shelf"}
              </Button>
            ) : null}
            <span role="status" className="text-[13px] text-soft">
              {keeping ? "Keeping it" : ""}
            </span>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function MotorSort({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  const kinds = useQuery(fieldList).data?.motor_kinds ?? [];
  return (
    <label className="block text-[13px] font-semibold sm:col-span-2">
      Kind
      <select
        value={String(valueAt(draft, "motor.kind"))}
        onChange={(event) => onChange(withValue(draft, "motor.kind", event.target.value))}
        className="min-h-11 w-full rounded-md border border-line bg-paper px-2 text-[14px] font-normal sm:min-h-8"
      >
        {kinds.map(({ kind, label }) => (
          <option key={kind} value={kind}>
            {label}
          </option>
        ))}
      </select>
    </label>
  );
}
