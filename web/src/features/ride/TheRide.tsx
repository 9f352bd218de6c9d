import { useEffect, useRef, useState } from "react";
import { useDebounce } from "use-debounce";
import { rideGpx, rideTable } from "../../api/ride";
import type { BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";
import { saveFile } from "../../ui/saveFile";
import { savePicture } from "../../ui/savePicture";
import { Waiting } from "../../ui/Waiting";
import { useOpened } from "../../workbench/opened";
import { Course } from "./Course";
import { KeepIt } from "./KeepIt";
import { mediumOf } from "./medium";
import { Picture } from "./Picture";
import { type RidePlan, rideOf } from "./plan";
import { Told } from "./Told";
import { type Ridden, useRidden } from "./useRidden";

interface Props {
  plan: RidePlan;
  /** Whether the plan is known yet: the usual one waits for the build's own cruise. */
  ready: boolean;
  onPlan: (plan: RidePlan) => void;
}

/** A ride in time: the road, what the drive did on it, and where the watt-hours went. */
export function TheRide({ plan, ready, onPlan }: Props) {
  const { state } = useOpened();
  const { document, build } = state;
  const [asked] = useDebounce(plan, 250);
  const ridden = inAir(document, asked.airC);
  const found = useRidden(ridden, rideOf(asked), { ready, bands: true });
  const pinned = build.pinned.number === build.head ? null : build.pinned.document;
  const other = useRidden(inAir(pinned ?? document, asked.airC), rideOf(asked), {
    ready: ready && pinned !== null,
    bands: false,
  });
  const before = pinned ? (other.shown ?? null) : null;
  const picture = useRef<HTMLDivElement>(null);
  const shown = found.banded ?? found.shown;
  return (
    <>
      <Course
        plan={plan}
        medium={mediumOf(document)}
        driven={Boolean(document.wheel)}
        onPlan={onPlan}
      />
      <Progress found={found} />
      {shown && !found.error ? (
        <div ref={picture} className={found.riding ? "opacity-60" : ""}>
          <Told shown={shown} bands={found.banded?.told.bands ?? {}} before={before} />
          <div className="no-print flex flex-wrap gap-1 pt-1">
            <KeepIt plan={asked} />
            <span className="flex-1" />
            <Out plan={asked} document={ridden} picture={() => picture.current} />
          </div>
          <Picture
            shown={shown}
            before={before}
            beside="as pinned"
            motors={document.motor.count ?? 1}
            medium={mediumOf(document)}
            overWay={asked.kind === "road"}
          />
        </div>
      ) : found.cancelled && !shown ? null : (
        <Waiting error={found.error} what="Riding" />
      )}
    </>
  );
}

/** The build in other air. */
const inAir = (document: BuildDocument, airC: number | null): BuildDocument =>
  airC === null
    ? document
    : { ...document, conditions: { ...document.conditions, ambient_c: airC } };

const PATIENT_S = 2;

/** How far it is, where that takes a while, and how to call it off. */
function Progress({ found }: { found: Ridden }) {
  const [seconds, setSeconds] = useState(0);
  const busy = found.riding || found.coming > 0;
  useEffect(() => {
    if (!busy) return;
    setSeconds(0);
    const begun = Date.now();
    const tick = setInterval(() => setSeconds(Math.round((Date.now() - begun) / 1000)), 500);
    return () => clearInterval(tick);
  }, [busy]);
  const shows = found.cancelled || (busy && (found.coming > 0 || seconds >= PATIENT_S));
  return (
    <p role="status" className="flex min-h-6 items-center gap-3 text-[12.5px] text-soft">
      {!shows ? null : found.cancelled ? (
        <>
          Called off.
          <Button kind="plain" onClick={found.again}>
            Ride it after all
          </Button>
        </>
      ) : (
        <>
          {found.riding
            ? `Riding, ${seconds} s so far.`
            : `${found.draws ? `Bands of ${found.draws} draws; ` : ""}${found.coming} draws under way, ${seconds} s so far.`}
          <Button kind="plain" onClick={found.cancel}>
            Call it off
          </Button>
        </>
      )}
    </p>
  );
}

interface OutProps {
  plan: RidePlan;
  document: BuildDocument;
  picture: () => HTMLElement | null;
}

/** The ride as files. */
function Out({ plan, document, picture }: OutProps) {
  const name = (plan.name || "ride").toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const save = (ending: string, type: string, text: () => Promise<unknown>) => async () =>
    saveFile(`${name}.${ending}`, (await text()) as string, type);
  const drawn = (kind: "svg" | "png") => {
    const part = picture()?.querySelector<HTMLElement>("[data-ride-picture]");
    if (part) void savePicture(part, name, kind);
  };
  return (
    <>
      <Button
        kind="plain"
        onClick={save("csv", "text/csv", () => rideTable(document, rideOf(plan)))}
      >
        Save the table
      </Button>
      <Button
        kind="plain"
        onClick={save("gpx", "application/gpx+xml", () =>
          rideGpx(document, rideOf(plan), plan.track ?? null),
        )}
      >
        As GPX
      </Button>
      <Button kind="plain" onClick={() => drawn("svg")}>
        Picture, SVG
      </Button>
      <Button kind="plain" onClick={() => drawn("png")}>
        PNG
      </Button>
    </>
  );
}
