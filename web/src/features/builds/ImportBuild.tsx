import { useState } from "react";
import { ApiError } from "../../api/client";
import { bringInBuilds } from "../../api/shelf";
import type { BroughtIn, BuildDocument } from "../../api/types";
import { BroughtInReport } from "../../ui/BroughtInReport";
import { FilePick } from "../../ui/FilePick";

interface Props {
  onRead: (document: BuildDocument) => void;
  /** Builds came in from a table. */
  onTable: () => void;
  onTrouble: (what: string) => void;
}

const LARGEST = 1_000_000;

/** Begin from a build document on disk, or from a table with a build in each row. */
export function ImportBuild({ onRead, onTable, onTrouble }: Props) {
  const [told, setTold] = useState<BroughtIn | string | null>(null);
  const readTable = async (file: File) => {
    setTold("Reading");
    try {
      setTold(await bringInBuilds(file));
      onTable();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Nothing was brought in: ${problem.where} ${problem.what}.`);
    }
  };
  const read = async (file: File) => {
    if (file.name.toLowerCase().endsWith(".csv")) return readTable(file);
    setTold(null);
    if (file.size > LARGEST) {
      onTrouble(`${file.name} is too long for a build document.`);
      return;
    }
    try {
      onRead(JSON.parse(await file.text()) as BuildDocument);
    } catch {
      onTrouble(`${file.name} is not JSON.`);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <a
        href="/api/builds/table"
        download
        className="flex min-h-11 items-center px-2 text-[13px] text-water sm:min-h-8"
      >
        All builds as a table (CSV)
      </a>
      <FilePick
        label="Build file"
        accept="application/json,.json,text/csv,.csv"
        onFile={(file) => void read(file)}
      >
        Open a build file
      </FilePick>
      <BroughtInReport told={told} noun="builds" />
    </div>
  );
}
