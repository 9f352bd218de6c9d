import { useState } from "react";
import { ApiError } from "../../api/client";
import { keepPhoto, photoOf, takePhotoOut } from "../../api/logbook";
import type { MeasuredRunCard } from "../../api/types";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";

interface Props {
  run: MeasuredRunCard;
  number: number;
  buildId: string;
  /** Asks for the runs anew. */
  onChange: () => Promise<unknown>;
}

/** Photos of a run: of a display, a sprocket, a burn. */
export function Photos({ run, number, buildId, onChange }: Props) {
  const [told, setTold] = useState("");
  const [gone, setGone] = useState<string | null>(null);
  const doing = async (work: Promise<unknown>, then: string | null) => {
    setTold("");
    try {
      await work;
      setGone(then);
      await onChange();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold(`Not done: ${problem.where} ${problem.what}.`);
    }
  };
  return (
    <div className="flex flex-wrap items-end gap-2 pt-1">
      {run.photos.map((photo, at) => (
        <figure key={photo} className="m-0">
          <a href={photoOf(buildId, run.id, photo)} target="_blank" rel="noreferrer">
            <img
              src={photoOf(buildId, run.id, photo)}
              alt={`${at + 1} of run ${number}`}
              loading="lazy"
              className="h-24 rounded-md border border-line object-cover"
            />
          </a>
          <figcaption className="no-print">
            <Button
              kind="plain"
              aria-label={`Take out photo ${at + 1} of run ${number}`}
              onClick={() => void doing(takePhotoOut(buildId, run.id, photo), photo)}
            >
              Take out
            </Button>
          </figcaption>
        </figure>
      ))}
      <span className="no-print flex items-center gap-2">
        <FilePick
          label={`Photo of run ${number}`}
          accept="image/jpeg,image/png,image/webp"
          onFile={(file) => void doing(keepPhoto(buildId, run.id, crypto.randomUUID(), file), null)}
        >
          Add a photo
        </FilePick>
        {gone ? (
          <Button
            kind="plain"
            onClick={() => void doing(keepPhoto(buildId, run.id, gone, null), null)}
          >
            Bring the photo back
          </Button>
        ) : null}
        <span role="status" className="text-soft">
          {told}
        </span>
      </span>
    </div>
  );
}
