import { useState } from "react";
import { ApiError } from "../../api/client";
import { bringInArchive } from "../../api/keeping";
import type { ArchiveTold } from "../../api/types";
import { FilePick } from "../../ui/FilePick";

type Told = ArchiveTold | "reading" | { trouble: string };

/** Everything out as one open file, and in again. */
export function Archive({ onIn }: { onIn: () => void }) {
  const [told, setTold] = useState<Told | null>(null);
  const read = async (file: File) => {
    setTold("reading");
    try {
      setTold(await bringInArchive(file));
      onIn();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold({ trouble: `Nothing was brought in: ${problem.where} ${problem.what}.` });
    }
  };
  return (
    <section>
      <h2 className="mb-1 text-[16px] font-semibold">Everything as one file</h2>
      <p className="mb-2 text-[13.5px]">
        Builds with every version, parts with all they said, briefs with their searches: a ZIP of
        plain documents. Brought in elsewhere, or here again, what is not there is added and nothing
        is doubled.
      </p>
      <div className="flex flex-wrap gap-2">
        <a
          href="/api/archive"
          download
          className="inline-flex min-h-11 items-center rounded-md border border-line bg-raised px-3 text-[13px] hover:border-water sm:min-h-8"
        >
          Take everything out
        </a>
        <FilePick
          label="Archive"
          accept="application/zip,.zip"
          disabled={told === "reading"}
          onFile={(file) => void read(file)}
        >
          Bring an archive in
        </FilePick>
      </div>
      <div role="status" className="mt-2 text-[13px]">
        {told === null ? null : told === "reading" ? (
          "Reading; a large archive takes some minutes."
        ) : "trouble" in told ? (
          <p className="text-stop">{told.trouble}</p>
        ) : (
          <ul>
            {(["builds", "parts", "briefs"] as const).map((kind) => (
              <li key={kind}>{inWords(kind, told[kind])}</li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

function inWords(kind: string, became: ArchiveTold["builds"]): string {
  const said = [
    became.added ? `${became.added} added` : "",
    became.went_on ? `${became.went_on} went on from where they were` : "",
    became.beside ? `${became.beside} differ from yours and stand beside them` : "",
    became.known ? `${became.known} were there already` : "",
  ].filter(Boolean);
  const name = kind[0]?.toUpperCase() + kind.slice(1);
  return `${name}: ${said.length > 0 ? said.join(", ") : "none in it"}.`;
}
