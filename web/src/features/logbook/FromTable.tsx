import { useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { readLogTable, readLogTables } from "../../api/logbook";
import type { TableRead } from "../../api/types";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { fieldOf, type Observation } from "./kinds";

/** What a column may hold, in the unit that it is then taken in. */
const HOLDS: [string, string][] = [
  ["time_s", "time, s"],
  ["speed_kmh", "speed, km/h"],
  ["motor_rpm", "turns of the motor, rpm"],
  ["battery_voltage_v", "pack volts, V"],
  ["battery_current_a", "pack amps, A"],
  ["motor_current_a", "motor amps, A"],
  ["throttle_pct", "throttle, %"],
  ["case_c", "the motor's can, °C"],
  ["controller_c", "controller, °C"],
  ["pack_c", "pack, °C"],
];

const TABLES = ".csv,.txt,.log,.tsv,.gpx,text/csv,text/plain";
const NAME = "young-torrent.columns.";

const headerOf = (table: TableRead) => NAME + Object.keys(table.said).join("|");

/** What somebody said of the columns of a table with this header; null where nobody did. */
function saidBefore(table: TableRead): Record<string, string> | null {
  try {
    return JSON.parse(localStorage.getItem(headerOf(table)) ?? "null") as Record<
      string,
      string
    > | null;
  } catch {
    return null;
  }
}

const keepSaid = (table: TableRead, said: Record<string, string>) =>
  localStorage.setItem(headerOf(table), JSON.stringify(said));

interface Props {
  /** A table that came by another way. */
  sent: File | null;
  onRead: (observation: Observation) => void;
}

/** A logger's table or a satellite track: how it was understood, and what it can teach. */
export function FromTable({ sent, onRead }: Props) {
  const [table, setTable] = useState<TableRead | null>(null);
  const [told, setTold] = useState("");
  const [taken, setTaken] = useState<number[]>([]);
  const [file, setFile] = useState<File | null>(null);
  const [beside, setBeside] = useState<File | null>(null);
  const read = async (
    from: File,
    said: Record<string, string> | null,
    second: File | null = null,
  ) => {
    setTold(`Reading ${second?.name ?? from.name}`);
    setFile(from);
    setBeside(second);
    setTaken([]);
    const ask = (columns: Record<string, string>) =>
      second ? readLogTables(from, second, columns) : readLogTable(from, columns);
    try {
      const found = await ask(said ?? {});
      // What its columns hold was said once for tables with the same header.
      const before = said === null ? saidBefore(found) : null;
      setTable(before ? await ask(before) : found);
      setTold("");
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Nothing was read: ${problem.where} ${problem.what}.`);
    }
  };
  const latest = useRef(read);
  latest.current = read;
  useEffect(() => {
    if (sent) void latest.current(sent, null);
  }, [sent]);
  const columns = Object.entries(table?.said ?? {});
  const unknown = columns.filter(([, key]) => key === null).map(([name]) => name);
  return (
    <div className="border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <FilePick
          label="Logger's table"
          accept={TABLES}
          onFile={(from) => {
            setTable(null);
            void read(from, null);
          }}
        >
          Open a logger's table or a track
        </FilePick>
        {table && file ? (
          <FilePick
            label="Second table"
            accept={TABLES}
            onFile={(second) => void read(file, null, second)}
          >
            Lay another one beside it
          </FilePick>
        ) : null}
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
            .
          </p>
          {unknown.length ? (
            <div className="flex flex-wrap gap-x-4 gap-y-1 py-1">
              {unknown.map((name) => (
                <label key={name} className="flex items-center gap-2">
                  <b className="font-semibold">{name}</b> holds
                  <select
                    value=""
                    onChange={(event) => {
                      const said = { ...saidBefore(table), [name]: event.target.value };
                      keepSaid(table, said);
                      if (file) void read(file, said, beside);
                    }}
                    className="min-h-11 rounded-md border border-line bg-raised px-1 sm:min-h-8"
                  >
                    <option value="">nothing that is known here</option>
                    {HOLDS.map(([key, words]) => (
                      <option key={key} value={key}>
                        {words}
                      </option>
                    ))}
                  </select>
                </label>
              ))}
            </div>
          ) : null}
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
