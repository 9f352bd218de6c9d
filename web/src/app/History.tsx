import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { versionList } from "../api/queries";
import type { BuildAnswer, Change, VersionCard } from "../api/types";
import { Button } from "../ui/Button";
import type { Workbench } from "../workbench/workbench";

/** Every version the build ever had, and the way back to each. */
export function History({ bench, build }: { bench: Workbench; build: BuildAnswer }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button kind="plain">History</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-10 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-20 flex w-full max-w-md flex-col border-l border-line bg-paper p-5"
        >
          <div className="mb-3 flex items-baseline justify-between">
            <Dialog.Title className="text-lg font-semibold">History</Dialog.Title>
            <Dialog.Close asChild>
              <Button kind="plain">Close</Button>
            </Dialog.Close>
          </div>
          {open ? <Versions bench={bench} build={build} onDone={() => setOpen(false)} /> : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface VersionsProps {
  bench: Workbench;
  build: BuildAnswer;
  onDone: () => void;
}

function Versions({ bench, build, onDone }: VersionsProps) {
  const { data, isPending } = useQuery({ ...versionList(build.id), staleTime: 0, gcTime: 0 });
  if (isPending) return <p className="text-soft">Reading</p>;
  return (
    <ol className="-mr-2 overflow-y-auto pr-2 text-[13px]">
      {(data ?? []).map((version) => (
        <li key={version.number} className="border-t border-line py-2">
          <div className="flex items-center justify-between gap-3">
            <span className="figure">
              {version.number}
              <span className="ml-2 font-normal text-soft">
                {new Date(version.made_at).toLocaleString()}, {version.made_by}
                {version.aside ? ", kept aside" : ""}
              </span>
            </span>
            {version.number === build.head ? (
              <span className="text-water">stands now</span>
            ) : (
              <Button
                onClick={() => {
                  bench.restore(version.number);
                  onDone();
                }}
              >
                Bring back
              </Button>
            )}
          </div>
          <p className="text-soft">{said(version)}</p>
        </li>
      ))}
    </ol>
  );
}

const said = (version: VersionCard): string =>
  version.changes.length ? version.changes.map(changeWords).join("; ") : "as it was begun";

export function changeWords(change: Change): string {
  const unit = change.unit ? ` ${change.unit}` : "";
  return `${change.label} ${plain(change.before)} → ${plain(change.after)}${unit}`;
}

function plain(value: unknown): string {
  if (value === null || value === undefined) return "none";
  if (typeof value === "number") return String(Number(value.toPrecision(5)));
  if (typeof value === "string") return value.replaceAll("_", " ");
  if (Array.isArray(value)) return `${value.length}`;
  return "changed";
}
