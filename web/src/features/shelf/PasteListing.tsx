import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useId, useState } from "react";
import { useDebounce } from "use-debounce";
import { ApiError } from "../../api/client";
import { addPart, readListing, SHELF } from "../../api/shelf";
import type { Listing, PartKind } from "../../api/types";
import { Button } from "../../ui/Button";
import { withValue } from "../../ui/paths";
import { chosen, typed } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown, toStored } from "../../units/quantities";
import { type Draft, known } from "./draft";
import { singular } from "./kinds";

interface Props {
  onClose: () => void;
  onAdded: (kind: PartKind, id: string) => void;
}

const EXAMPLE = "3548, 790 KV, 3S-6S, 60 A, 5 mm shaft";
const PAUSE = 250;

/** A line from a shop, read as it is typed; only what it leaves out is asked for. */
export function PasteListing({ onClose, onAdded }: Props) {
  const [text, setText] = useState("");
  const [asked] = useDebounce(text.trim(), PAUSE);
  const read = useQuery({
    queryKey: ["listing", asked],
    queryFn: () => readListing(asked),
    enabled: asked !== "",
    placeholderData: (before) => before,
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-40 flex w-full max-w-xl flex-col overflow-y-auto border-l border-line bg-raised px-4 py-3 shadow-xl"
        >
          <div className="flex items-start justify-between gap-3">
            <Dialog.Title className="text-[17px] font-semibold">Read a listing</Dialog.Title>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
          <label className="mt-2 block text-[13px] font-semibold">
            What the shop says of a motor, a controller, a pack or a propeller
            <textarea
              value={text}
              rows={3}
              maxLength={4000}
              placeholder={EXAMPLE}
              onChange={(event) => setText(event.target.value)}
              className="mt-1 w-full rounded-md border border-line bg-paper p-2 text-[14.5px] font-normal placeholder:text-soft"
            />
          </label>
          {read.error instanceof ApiError ? (
            <p role="alert" className="text-[13px] font-semibold text-stop">
              The {read.error.where} {read.error.what}.
            </p>
          ) : null}
          {read.data && asked ? (
            <Understood key={read.data.kind} listing={read.data} onAdded={onAdded} />
          ) : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Understood({
  listing,
  onAdded,
}: {
  listing: Listing;
  onAdded: (kind: PartKind, id: string) => void;
}) {
  const { choice } = useUnits();
  const queries = useQueryClient();
  const [answers, setAnswers] = useState<Record<string, { value: unknown; guess: boolean }>>({});
  const [name, setName] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const missing = listing.asked.filter((one) => one.needed);
  const likely = listing.asked.filter((one) => !one.needed);
  const open = missing.filter((one) => answers[one.path] === undefined);
  const answer = (path: string, value: unknown, guess: boolean) =>
    setAnswers({ ...answers, [path]: { value, guess } });
  const add = async () => {
    let draft = listing.document as Draft;
    for (const one of listing.asked) {
      const said = answers[one.path];
      if (said === undefined) continue;
      draft = withValue(draft, one.path, said.value);
      draft = known(draft, one.path, said.guess ? "estimated" : "data_sheet");
    }
    if (name?.trim()) draft = { ...draft, name: name.trim() };
    try {
      const part = await addPart(listing.kind, draft);
      await queries.invalidateQueries({ queryKey: [SHELF] });
      onAdded(listing.kind, part.id);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`Not kept: ${problem.where} ${problem.what}`);
    }
  };
  const shown = (value: unknown, unit: string): string => {
    if (Array.isArray(value)) return value.join(" to ");
    if (typeof value === "boolean") return value ? "yes" : "no";
    if (typeof value !== "number") return String(value).replaceAll("_", " ");
    const own = documentUnit(unit, choice);
    return `${chosen(toShown(value, own))} ${own.sign}`;
  };
  const ask = (one: Asked) => (
    <Question
      key={one.path}
      asked={one}
      answer={answers[one.path]}
      shown={shown}
      onAnswer={(value, guess) => answer(one.path, value, guess)}
    />
  );
  return (
    <>
      <h3 className="mt-3 text-[14px] font-semibold">A {singular(listing.kind)}, as understood</h3>
      <ul className="text-[13px]">
        {listing.understood.map((fact) => (
          <li
            key={fact.path}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1"
          >
            <span className="w-40 text-soft">{fact.label}</span>
            <span className="figure">{shown(fact.value, fact.unit)}</span>
            <span className="text-[12px] text-soft">
              “{fact.words}”{fact.note ? `. ${fact.note}` : ""}
            </span>
          </li>
        ))}
      </ul>
      {listing.unread.length > 0 ? (
        <p className="mt-1 text-[12.5px] text-watch">
          Not understood: {listing.unread.map((words) => `“${words}”`).join(", ")}
        </p>
      ) : null}
      <Questions list={missing} title="It does not say" ask={ask} />
      <Questions
        list={likely}
        title="It may mean"
        words="Nothing waits for these; what you leave stays not known."
        ask={ask}
      />
      <label className="mt-3 block text-[13px] font-semibold">
        Name
        <input
          value={name ?? String(listing.document.name)}
          onChange={(event) => setName(event.target.value)}
          className="mt-0.5 min-h-11 w-full rounded-md border border-line bg-paper px-2 text-[14px] font-normal sm:min-h-8"
        />
      </label>
      {trouble ? (
        <p role="alert" className="mt-1 text-[13px] font-semibold text-stop">
          {trouble}
        </p>
      ) : null}
      <div className="mt-3 flex flex-wrap items-center gap-3 pb-4">
        <Button kind="main" onClick={add} disabled={open.length > 0}>
          Put it on the shelf
        </Button>
        {open.length > 0 ? (
          <span className="text-[12.5px] text-soft">
            Still asked: {open.map((one) => one.label.toLowerCase()).join(", ")}
          </span>
        ) : null}
      </div>
    </>
  );
}

type Asked = Listing["asked"][number];

interface QuestionsProps {
  list: Asked[];
  title: string;
  words?: string;
  ask: (one: Asked) => ReactNode;
}

/** What is asked under one heading; nothing where nothing is asked. */
function Questions({ list, title, words, ask }: QuestionsProps) {
  if (list.length === 0) return null;
  return (
    <section>
      <h3 className="mt-3 text-[14px] font-semibold">{title}</h3>
      {words ? <p className="text-[12.5px] text-soft">{words}</p> : null}
      {list.map(ask)}
    </section>
  );
}

interface QuestionProps {
  asked: Asked;
  answer: { value: unknown; guess: boolean } | undefined;
  shown: (value: unknown, unit: string) => string;
  onAnswer: (value: unknown, guess: boolean) => void;
}

function Question({ asked, answer, shown, onAnswer }: QuestionProps) {
  const { choice } = useUnits();
  const unit = documentUnit(asked.unit, choice);
  const id = useId();
  const [text, setText] = useState("");
  const commit = () => {
    const value = typed(text);
    if (value !== null) onAnswer(toStored(value, unit), false);
  };
  return (
    <div className="border-b border-line py-1.5 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="flex items-center gap-2">
          <label htmlFor={id} className="w-36 font-semibold">
            {asked.label}
          </label>
          {asked.options.length > 0 ? (
            <select
              id={id}
              value={typeof answer?.value === "string" ? answer.value : ""}
              onChange={(event) => onAnswer(event.target.value, false)}
              className="min-h-11 rounded-md border border-line bg-paper px-2 sm:min-h-8"
            >
              <option value="">choose</option>
              {asked.options.map((option) => (
                <option key={option} value={option}>
                  {option.replaceAll("_", " ")}
                </option>
              ))}
            </select>
          ) : (
            <input
              id={id}
              inputMode="decimal"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onBlur={commit}
              onKeyDown={(event) => event.key === "Enter" && commit()}
              className="min-h-11 w-24 rounded-md border border-line bg-paper px-2 sm:min-h-8"
            />
          )}
          <span className="text-soft">{unit.sign}</span>
        </span>
        {asked.guess !== null && asked.guess !== undefined ? (
          <Button
            aria-pressed={answer?.guess === true}
            className="aria-pressed:border-water aria-pressed:font-semibold"
            onClick={() => {
              setText("");
              onAnswer(asked.guess, true);
            }}
          >
            Take the guess {shown(asked.guess, asked.unit)}
          </Button>
        ) : null}
      </div>
      <p className="text-[12px] text-soft">
        {asked.why ? `The guess is ${asked.why}. ` : ""}
        {asked.explain}
      </p>
    </div>
  );
}
