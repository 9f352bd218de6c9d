import { useState } from "react";
import { ApiError } from "../../api/client";
import { lineLive, lineTable, openLine, shutLine } from "../../api/logbook";
import type { LineOpened } from "../../api/types";
import { Button } from "../../ui/Button";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { fieldOf } from "./kinds";
import { useEvents } from "./useEvents";

interface Props {
  /** Takes what came over the line as a table. */
  onTable: (table: File) => void;
}

/** A logger that sends while it rides: the line it sends over, and what it reads right now. */
export function LoggerLine({ onTable }: Props) {
  const { state } = useOpened();
  const own = state.build.id;
  const [line, setLine] = useState<LineOpened | null>(null);
  const [told, setTold] = useState("");
  const doing = async (work: () => Promise<void>) => {
    try {
      await work();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Not done: ${problem.where} ${problem.what}.`);
    }
  };
  const open = () =>
    doing(async () => {
      setLine(await openLine(own));
      setTold("Open. The token is shown this once; another line shuts this one.");
    });
  const take = () =>
    doing(async () => {
      onTable(new File([await lineTable(own)], "what the logger sent.csv"));
      setTold("Taken; what it holds stands above.");
    });
  const shut = () =>
    doing(async () => {
      await shutLine(own);
      setLine(null);
      setTold("Shut. What came over it stays, and can still be taken in.");
    });
  return (
    <details className="border-t border-line pt-2">
      <summary className="min-h-11 cursor-pointer py-1 sm:min-h-8">
        A logger that sends while it rides
      </summary>
      <p className="max-w-[70ch] text-soft">
        Whatever reads the logger's serial line posts its table here, header first, as many lines at
        a time as it likes. The line has a token of its own that opens nothing else.
      </p>
      <div className="flex flex-wrap gap-2 py-2">
        <Button onClick={() => void open()}>{line ? "Open another line" : "Open a line"}</Button>
        <Button onClick={() => void take()}>Take in what it sent</Button>
        {line ? <Button onClick={() => void shut()}>Shut it</Button> : null}
      </div>
      <p role="status" className="text-soft">
        {told}
      </p>
      {line ? (
        <>
          <pre className="my-2 overflow-x-auto rounded-md bg-sunk p-2 text-[12px]">
            {`curl --data-binary @- -H "Authorization: Bearer ${line.token}" \\\n  "${window.location.origin}${line.path}" < lines.csv`}
          </pre>
          <Live key={line.id} address={lineLive(own)} />
        </>
      ) : null}
    </details>
  );
}

interface Reading {
  pieces: number;
  shows?: Record<string, number | null>;
  trouble?: string;
}

function Live({ address }: { address: string }) {
  const value = useValue();
  const { last, broken } = useEvents<Reading>(address);
  const shows = Object.entries(last?.shows ?? {});
  return (
    <div role="group" aria-label="What the logger reads now">
      <p className="text-soft">
        {broken
          ? "The view of it was broken off; what it sends is kept all the same."
          : last?.pieces
            ? `${last.pieces} pieces came.`
            : "Nothing came yet."}{" "}
        {last?.trouble ?? ""}
      </p>
      <dl className="flex flex-wrap gap-x-6">
        {shows.map(([key, figure]) => (
          <div key={key}>
            <dt className="text-[12px] text-soft">{fieldOf(key)[0]}</dt>
            <dd className="figure text-[22px] leading-tight">
              {figure === null ? "- - -" : value(figure, fieldOf(key)[1], 3)}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
