import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useDebounce } from "use-debounce";
import { readBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import { brief, briefList } from "../../api/matching";
import { buildList } from "../../api/queries";
import { looked } from "../../api/shelf";
import type { PartKind } from "../../api/types";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/Notice";
import { useAddress } from "../../ui/useAddress";
import { useWide } from "../../ui/useWide";
import { useUnits } from "../../units/preferences";
import { InAndOut } from "./InAndOut";
import { KINDS, singular } from "./kinds";
import { PartSheet } from "./PartSheet";
import { PartsView } from "./PartsView";
import { PasteListing } from "./PasteListing";
import { axesOf, type Brushed, figuresOf, inside, ShelfMap } from "./ShelfMap";
import { SideBySide } from "./SideBySide";

const PAUSE = 200;

/** Every part there is: looked for, held against a build or a brief, compared, one's own kept. */
export function ShelfPage() {
  const [search, say] = useAddress();
  const kind = (KINDS.find(([id]) => id === search.get("kind"))?.[0] ?? "motors") as PartKind;
  const [words, setWords] = useState(search.get("q") ?? "");
  const [asked] = useDebounce(words, PAUSE);
  useEffect(() => {
    document.title = "Parts shelf, Young Torrent";
  }, []);

  const sort = search.get("sort") ?? "";
  const falling = search.get("falling") === "yes";
  const [fitsKind, fitsId] = (search.get("fits") ?? "").split(":") as [string, string?];
  const build = useQuery({
    queryKey: ["build", fitsId],
    queryFn: () => readBuild(fitsId as string),
    enabled: fitsKind === "build" && Boolean(fitsId),
  });
  const wanted = useQuery({
    ...brief(fitsId ?? ""),
    enabled: fitsKind === "brief" && Boolean(fitsId),
  });
  const held = fitsKind === "build" ? build : fitsKind === "brief" ? wanted : null;
  const table = useQuery({
    ...looked(kind, {
      words: asked,
      sort: sort,
      falling,
      onlyOwn: search.get("own") === "yes",
      onlyFit: search.get("only") === "fitting" && held !== null,
      build: fitsKind === "build" ? (build.data?.document ?? null) : null,
      brief: fitsKind === "brief" ? (wanted.data?.document ?? null) : null,
    }),
    enabled: held === null || held.data !== undefined,
  });
  const beside = (search.get("beside") ?? "").split(",").filter(Boolean);
  const put = (ids: string[]) => say({ beside: ids.join(",") });
  const facing = search.get("view") === "beside" && beside.length > 1;
  const open = search.get("part");
  const [pasting, setPasting] = useState(false);
  const wide = useWide();
  const told = table.data;
  const { choice } = useUnits();
  const mapped = search.get("map") !== "no";
  const [brushed, setBrushed] = useState<Brushed | null>(null);
  const narrowed = useMemo(() => {
    if (!told || !brushed) return null;
    const axes = axesOf(told, figuresOf(told, choice), search.get("across"), search.get("up"));
    if (!axes) return null;
    const [x, y] = axes;
    return { ...told, rows: told.rows.filter((row) => inside(brushed, x.of(row), y.of(row))) };
  }, [told, brushed, choice, search]);

  return (
    <div className="flex flex-1 flex-col">
      <h1 className="sr-only">Parts shelf</h1>
      {table.error instanceof ApiError ? (
        <Notice tone="stop">
          The {table.error.where} {table.error.what}.
        </Notice>
      ) : null}
      {table.failureCount > 0 && !table.error ? (
        <Notice tone="watch">The server or its database does not answer; trying again.</Notice>
      ) : null}
      <main className="flex-1 px-4 pb-6 sm:px-6">
        <nav aria-label="Kinds of part" className="-mx-1 flex gap-1 overflow-x-auto py-2">
          {KINDS.map(([id, plural]) => (
            <button
              key={id}
              type="button"
              aria-current={id === kind ? "page" : undefined}
              onClick={() => {
                setBrushed(null);
                say({
                  kind: id,
                  sort: null,
                  falling: null,
                  beside: null,
                  part: null,
                  across: null,
                  up: null,
                });
              }}
              className="min-h-11 shrink-0 rounded-md px-2.5 text-[13.5px] whitespace-nowrap text-soft hover:bg-sunk aria-[current]:bg-shallow aria-[current]:font-semibold aria-[current]:text-ink sm:min-h-8"
            >
              {plural}
            </button>
          ))}
        </nav>
        <div className="flex flex-wrap items-center gap-2 pb-2">
          <input
            type="search"
            aria-label="Look for"
            placeholder="Look for a name or word"
            value={words}
            onChange={(event) => {
              setWords(event.target.value);
              say({ q: event.target.value });
            }}
            className="min-h-11 w-full rounded-md border border-line bg-raised px-3 text-[14px] placeholder:text-soft sm:min-h-8 sm:w-56"
          />
          <Fits
            value={search.get("fits") ?? ""}
            only={search.get("only") === "fitting"}
            onValue={(fits) => say({ fits })}
            onOnly={(only) => say({ only: only ? "fitting" : null })}
          />
          <label className="flex min-h-11 items-center gap-1.5 text-[13px] sm:min-h-8">
            <input
              type="checkbox"
              className="size-4 accent-water"
              checked={search.get("own") === "yes"}
              onChange={(event) => say({ own: event.target.checked ? "yes" : null })}
            />
            own only
          </label>
          <label className="flex min-h-11 items-center gap-1.5 text-[13px] sm:min-h-8">
            <input
              type="checkbox"
              className="size-4 accent-water"
              checked={mapped}
              onChange={(event) => say({ map: event.target.checked ? null : "no" })}
            />
            map
          </label>
          <span className="flex-1" />
          <Button kind="main" onClick={() => setPasting(true)}>
            Read a listing
          </Button>
          <Button onClick={() => say({ part: "new" })}>Add a {singular(kind)}</Button>
          <InAndOut kind={kind} />
        </div>
        <p role="status" className="pb-1 text-[12.5px] text-soft">
          {told ? count(told.total, told.rows.length) : "Reading"}
          {told?.untried
            ? `; ${told.untried.toLocaleString("en-GB")} more were not tried, say a word to narrow them`
            : ""}
          {narrowed ? `; ${narrowed.rows.length} of them in the part of the map you marked` : ""}
          {table.isFetching && told ? ", looking" : ""}
          {beside.length === 1 ? "; tick another to see them side by side" : ""}
        </p>
        {told && beside.length > 1 ? (
          <p className="flex flex-wrap gap-2 pb-2">
            <Button aria-pressed={facing} onClick={() => say({ view: facing ? null : "beside" })}>
              {facing ? "Back to the list" : `Side by side: ${beside.length} ticked`}
            </Button>
            <Button kind="plain" onClick={() => put([])}>
              Untick all
            </Button>
          </p>
        ) : null}
        {told && facing ? (
          <SideBySide
            table={told}
            ids={beside}
            onDrop={(id) => put(beside.filter((one) => one !== id))}
          />
        ) : null}
        {told && told.total === 0 ? (
          <p className="border-y border-line py-6 text-soft">
            Nothing on the shelf is like that. Look for less, or add it from a listing.
          </p>
        ) : null}
        {told && told.kind === kind && told.total > 0 && !facing ? (
          <div
            className={
              mapped
                ? "grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-3 xl:grid-cols-[minmax(0,1fr)_33rem]"
                : ""
            }
          >
            {mapped ? (
              <div className="min-w-0 xl:order-last">
                <ShelfMap
                  table={told}
                  across={search.get("across")}
                  up={search.get("up")}
                  onAxes={(across, up) => {
                    setBrushed(null);
                    say({ across, up });
                  }}
                  brushed={brushed}
                  onBrush={setBrushed}
                  onOpen={(id) => say({ part: id })}
                  asksFit={held?.data !== undefined && held !== null}
                />
              </div>
            ) : null}
            <PartsView
              table={narrowed ?? told}
              wide={wide}
              sort={sort}
              falling={falling}
              onSort={(path) =>
                say({ sort: path, falling: sort === path && !falling ? "yes" : null })
              }
              beside={beside}
              onBeside={(id) =>
                put(beside.includes(id) ? beside.filter((one) => one !== id) : [...beside, id])
              }
              onOpen={(id) => say({ part: id })}
              asksFit={held?.data !== undefined && held !== null}
            />
          </div>
        ) : null}
      </main>
      {open ? (
        <PartSheet
          key={`${kind} ${open}`}
          kind={kind}
          id={open === "new" ? null : open}
          onOpen={(id) => say({ part: id })}
          onClose={() => say({ part: null })}
        />
      ) : null}
      {pasting ? (
        <PasteListing
          onClose={() => setPasting(false)}
          onAdded={(added, id) => {
            setPasting(false);
            say({ kind: added, sort: null, falling: null, beside: null, part: id });
          }}
        />
      ) : null}
    </div>
  );
}

const count = (total: number, shown: number): string =>
  `${total.toLocaleString("en-GB")} found${shown < total ? `, the first ${shown} here` : ""}`;

interface FitsProps {
  value: string;
  only: boolean;
  onValue: (value: string) => void;
  onOnly: (only: boolean) => void;
}

/** What the parts are held against. */
function Fits({ value, only, onValue, onOnly }: FitsProps) {
  const builds = useQuery(buildList).data?.builds ?? [];
  const briefs = useQuery(briefList).data?.briefs ?? [];
  return (
    <>
      <select
        aria-label="Fits"
        value={value}
        onChange={(event) => onValue(event.target.value)}
        className="min-h-11 max-w-full rounded-md border border-line bg-raised px-2 text-[13.5px] sm:min-h-8 sm:max-w-64"
      >
        <option value="">whatever it fits</option>
        <optgroup label="A build">
          {builds.map((build) => (
            <option key={build.id} value={`build:${build.id}`}>
              fits the {build.name}
            </option>
          ))}
        </optgroup>
        {briefs.length > 0 ? (
          <optgroup label="A brief">
            {briefs.map((one) => (
              <option key={one.id} value={`brief:${one.id}`}>
                fits the brief for the {one.name}
              </option>
            ))}
          </optgroup>
        ) : null}
      </select>
      {value ? (
        <label className="flex min-h-11 items-center gap-1.5 text-[13px] sm:min-h-8">
          <input
            type="checkbox"
            className="size-4 accent-water"
            checked={only}
            onChange={(event) => onOnly(event.target.checked)}
          />
          only those
        </label>
      ) : null}
    </>
  );
}
