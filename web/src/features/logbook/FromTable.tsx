import { useState } from "react";
import { ApiError } from "../../api/client";
import { readLogTable } from "../../api/logbook";
import type { TableRead } from "../../api/types";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { fieldOf, type Observation } from "./kinds";

interface Props {
  onRead: (observation: Observation) => void;
}

/** A logger's table: how it was understood, and what in it can be learned from. */
export function FromTable({ onRead }: Props) {
  const [table, setTable] = useState<TableRead | null>(null);
  const [told, setTold] = useState("");
  const [taken, setTaken] = useState<number[]>([]);
  const read = async (file: File) => {
    setTold(`Reading ${file.name}`);
    setTable(null);
    setTaken([]);
    try {
      setTable(await readLogTable(file));
      setTold("");
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Nothing was read: ${problem.where} ${problem.what}.`);
    }
  };
  const columns = Object.entries(table?.said ?? {});
  const unknown = columns.filter(([, key]) => key === null).map(([name]) => name);
  return (
    <div className="border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <FilePick
          label="Logger's table"
          accept=".csv,.txt,.log,.tsv,text/csv,text/plain"
          onFile={(file) => void read(file)}
        >
          Open a logger's table
        </FilePick>
        <span role="status" className="text-soft">
          {told}
        </span>
      </div>
      {table ? (
        <div className="pt-1">
          <p className="text-soft">
            {table.rows.toLocaleString("en-GB")} rows over {Math.round(table.lasts_s / 60)} min;
            understood:{" "}
            {columns
              .filter(([, key]) => key)
              .map(([name, key]) => `${name} as ${fieldOf(key ?? "")[0].toLowerCase()}`)
              .join(", ")}
            {unknown.length ? `; not understood: ${unknown.join(", ")}` : ""}.
          </p>
          {table.notes.map((note) => (
            <p key={note} className="text-[12.5px] text-soft">
              {note}
            </p>
          ))}
          {table.proposed.length === 0 ? (
            <p>
              Nothing in it stands still long enough to be learned from: no held speed, no start at
              full throttle, no rolling out.
            </p>
          ) : (
            <ul>
              {table.proposed.map((one, at) => (
                <li key={`${one.from_s} ${one.say}`} className="flex items-center gap-3 py-0.5">
                  <span className="flex-1">
                    {one.say}
                    <span className="text-soft">, from {Math.round(one.from_s)} s on</span>
                  </span>
                  <Button
                    disabled={taken.includes(at)}
                    onClick={() => {
                      setTaken([...taken, at]);
                      onRead(one.observation as unknown as Observation);
                    }}
                  >
                    {taken.includes(at) ? "Taken" : "Take it into the run"}
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </div>
      ) : null}
    </div>
  );
}
