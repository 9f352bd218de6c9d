import { useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { bringInShelf, bringInTable, SHELF } from "../../api/shelf";
import type { BroughtIn, PartKind } from "../../api/types";
import { BroughtInReport } from "../../ui/BroughtInReport";
import { Button } from "../../ui/Button";
import { KINDS } from "./kinds";

/** Tables and documents of parts, out and in. */
export function InAndOut({ kind }: { kind: PartKind }) {
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<BroughtIn | string | null>(null);
  const plural = KINDS.find(([id]) => id === kind)?.[1].toLowerCase();
  const read = async (file: File) => {
    setTold("Reading");
    try {
      const isShelf = file.name.toLowerCase().endsWith(".json");
      setTold(await (isShelf ? bringInShelf(file) : bringInTable(kind, file)));
      await queries.invalidateQueries({ queryKey: [SHELF] });
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Nothing was brought in: ${problem.where} ${problem.what}.`);
    }
  };
  const link =
    "flex min-h-11 items-center rounded px-2 text-[13.5px] text-water hover:bg-sunk sm:min-h-8";
  return (
    <Popover.Root onOpenChange={() => setTold(null)}>
      <Popover.Trigger asChild>
        <Button>In and out</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-30 w-80 max-w-[94vw] rounded-lg border border-line bg-raised p-3 text-[13px] shadow-lg"
        >
          <p className="font-semibold">Out</p>
          <a className={link} href={`/api/shelf/${kind}/table`} download>
            All {plural} as a table (CSV)
          </a>
          <a className={link} href={`/api/shelf/${kind}/table?own=true`} download>
            Your own {plural} as a table (CSV)
          </a>
          <a className={link} href="/api/shelf" download="shelf.json">
            The whole shelf (JSON)
          </a>
          <p className="mt-2 font-semibold">In</p>
          <p className="mb-1 text-soft">
            A table of {plural} (CSV, units in the header) or a shelf (JSON). A row whose id is one
            of yours changes that part; it can be gone back on.
          </p>
          <Button onClick={() => input.current?.click()}>Open a file</Button>
          <input
            ref={input}
            type="file"
            accept=".csv,.json,text/csv,application/json"
            aria-label="Table or shelf"
            className="hidden"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void read(file);
            }}
          />
          <BroughtInReport told={told} noun="parts" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
