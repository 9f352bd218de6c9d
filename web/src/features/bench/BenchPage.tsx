import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { logbook } from "../../api/logbook";
import type { FigureId, MeasuredRunCard, MomentId, PartId, When as Time } from "../../api/types";
import { useAsked } from "../../ui/useAsked";
import { useSize } from "../../ui/useSize";
import { type OpenedBuild, useOpened } from "../../workbench/opened";
import { PartOnBank } from "./bank/Bank";
import { stations } from "./bank/layout";
import { PartEditor } from "./editor/PartEditor";
import { Facts } from "./Facts";
import { FIGURES } from "./figures";
import { InShort } from "./InShort";
import { KeysHelp } from "./KeysHelp";
import { MomentTabs } from "./MomentTabs";
import { type Measured, PushMap } from "./map/PushMap";
import { Pane, type PaneId } from "./Pane";
import { momentOf, PARTS, sectionsOf } from "./parts";
import { DownStream } from "./stream/DownStream";
import { Stream } from "./stream/Stream";
import { useKeys } from "./useKeys";
import { When } from "./When";

const WIDE = 760;

/** Where the watts go, what is at its limit, and what to change about it. */
export function BenchPage() {
  const { bench, state, met, onShown } = useOpened();
  const [moment, setMoment] = useState<MomentId>("top_speed");
  const [open, setOpen] = useState<PartId | null>(null);
  const close = useCallback(() => setOpen(null), []);
  const lower = useRef<HTMLDivElement>(null);
  const look = useCallback((when: Time) => bench.look(when), [bench]);
  const end = useCallback(() => look(state.when === "end" ? "now" : "end"), [look, state.when]);
  useKeys({ choose: setMoment, close, end });
  const [ref, width] = useSize();
  useEffect(() => {
    onShown(open ? sectionsOf(open, state.document) : []);
    return () => onShown([]);
  }, [onShown, open, state.document]);

  const { answer, pinned } = state;
  const [search] = useSearchParams();
  // Who complained of something at the start comes here for what would help.
  const complaint = FIGURES.find((figure) => figure.id === search.get("help"))?.id ?? null;
  const [pane, setPane] = useState<PaneId>(complaint ? "levers" : "verdicts");
  const showVerdicts = () => {
    setOpen(null);
    setPane("verdicts");
    lower.current?.scrollIntoView({ block: "nearest" });
  };
  const bank = (part: PartId) => (
    <PartOnBank
      key={part}
      part={part}
      bench={bench}
      state={state}
      moment={moment}
      open={open}
      onOpen={setOpen}
    />
  );
  const wide = width >= WIDE;
  return (
    <main ref={ref} className="flex min-h-0 flex-1 flex-col sm:overflow-y-auto">
      {answer === null || width === 0 ? (
        <p className="p-6 text-soft">Solving</p>
      ) : (
        <>
          <div className="flex flex-wrap items-start gap-x-6 gap-y-1.5 px-3 pt-2 sm:px-6">
            <InShort answer={answer} onMoment={setMoment} onVerdicts={showVerdicts} />
            <When when={state.when} onWhen={look} />
          </div>
          <MomentTabs answer={answer} moment={moment} onChoose={setMoment} />
          {wide ? (
            <WideStream width={width - 48} moment={moment} state={state} bank={bank} />
          ) : (
            <DownStream
              state={momentOf(answer, moment).state}
              load={answer.load}
              pinned={pinned ? momentOf(pinned, moment).state : null}
              document={state.document}
              part={bank}
            />
          )}
          <div ref={lower} className="flex min-h-64 flex-1 flex-col gap-x-6 px-3 pb-2 sm:px-6">
            {open ? (
              <PartEditor part={open} bench={bench} state={state} onClose={close} />
            ) : (
              <Lower
                bench={bench}
                state={state}
                met={met}
                moment={moment}
                pane={pane}
                complaint={complaint}
                onPane={setPane}
                onOpen={setOpen}
              />
            )}
          </div>
        </>
      )}
    </main>
  );
}

interface WideProps {
  width: number;
  moment: MomentId;
  state: OpenedBuild["state"];
  bank: (part: PartId) => ReactNode;
}

function WideStream({ width, moment, state, bank }: WideProps) {
  const { answer, pinned, document } = state;
  const stages = document.gearing.length;
  const places = useMemo(() => stations(width, stages), [width, stages]);
  if (!answer) return null;
  return (
    <div className="px-6">
      <div className="grid min-h-38" style={{ gridTemplateColumns: places.columns }}>
        {PARTS.map((part) => bank(part.id))}
      </div>
      <Stream
        answer={answer}
        pinned={pinned ? momentOf(pinned, moment).state : null}
        document={document}
        width={width}
        stations={places}
        moment={moment}
      />
    </div>
  );
}

interface LowerProps {
  bench: OpenedBuild["bench"];
  state: OpenedBuild["state"];
  met: OpenedBuild["met"];
  moment: MomentId;
  pane: PaneId;
  complaint: FigureId | null;
  onPane: (pane: PaneId) => void;
  onOpen: (part: PartId) => void;
}

function Lower({ bench, state, met, moment, pane, complaint, onPane, onOpen }: LowerProps) {
  const [ref, width, height] = useSize();
  const { answer, pinned, build } = state;
  const { data } = useAsked([build.id, "logbook", build.head], () => logbook(build.id));
  const measured = useMemo(() => topSpeeds(data ?? [], build.head), [data, build.head]);
  if (!answer) return null;
  const differs = build.pinned.number !== build.head || state.saving !== "saved";
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center justify-between gap-4 border-y border-line py-1">
        <Facts answer={answer} onDoubt={() => onPane("doubt")} />
        <KeysHelp />
      </div>
      <div
        className={`grid min-h-0 flex-1 gap-x-6 gap-y-3 pt-1.5 ${pane === "verdicts" ? "sm:grid-cols-[1.5fr_1fr]" : "sm:grid-cols-[0.72fr_1.85fr]"}`}
      >
        <div ref={ref} className="h-72 min-w-0 sm:h-auto sm:min-h-0">
          {width > 0 ? (
            <PushMap
              answer={answer}
              pinned={differs ? pinned : null}
              moment={moment}
              width={width}
              height={Math.max(196, Math.min(height, 420) - 2)}
              measured={measured}
            />
          ) : null}
        </div>
        <Pane
          pane={pane}
          complaint={complaint}
          onPane={onPane}
          bench={bench}
          answer={answer}
          met={met}
          buildId={build.id}
          onOpen={onOpen}
        />
      </div>
    </div>
  );
}

/** Top speeds that were read on the version that stands, or that it has learned from. */
const topSpeeds = (runs: MeasuredRunCard[], head: number): Measured[] =>
  runs
    .filter((run) => run.version === head || run.learned)
    .flatMap((run) => run.run.observations)
    .flatMap((seen) =>
      seen.kind === "top_speed" && seen.speed_kmh
        ? [{ speedMps: seen.speed_kmh / 3.6, gradePct: seen.grade_pct ?? 0 }]
        : [],
    );
