import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { BuildAnswer, MomentId, PartId } from "../../api/types";
import { useSize } from "../../ui/useSize";
import { Opened } from "../../workbench/Opened";
import { useWorkbench } from "../../workbench/useWorkbench";
import { PartOnBank } from "./bank/Bank";
import { stations } from "./bank/layout";
import { PartEditor } from "./editor/PartEditor";
import { Facts } from "./Facts";
import { Header } from "./Header";
import { InShort } from "./InShort";
import { KeysHelp } from "./KeysHelp";
import { MomentTabs } from "./MomentTabs";
import { PushMap } from "./map/PushMap";
import { Notices } from "./Notices";
import { Pane, type PaneId } from "./Pane";
import { momentOf, PARTS, sectionsOf } from "./parts";
import { DownStream } from "./stream/DownStream";
import { Stream } from "./stream/Stream";
import { useKeys } from "./useKeys";
import { useMetBrief } from "./useMetBrief";

export function BenchPage({ settings }: { settings: ReactNode }) {
  return <Opened>{(build) => <Bench key={build.id} build={build} settings={settings} />}</Opened>;
}

const WIDE = 760;

function Bench({ build, settings }: { build: BuildAnswer; settings: ReactNode }) {
  const { bench, state } = useWorkbench(build);
  const [moment, setMoment] = useState<MomentId>("top_speed");
  const [open, setOpen] = useState<PartId | null>(null);
  const close = useCallback(() => setOpen(null), []);
  const lower = useRef<HTMLDivElement>(null);
  useKeys({ bench, choose: setMoment, close });
  const [ref, width] = useSize();
  const name = state.document.name;
  useEffect(() => {
    document.title = `${name}, Young Torrent`;
  }, [name]);

  const { answer, pinned } = state;
  const [pane, setPane] = useState<PaneId>("verdicts");
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
    <div className="flex min-h-dvh flex-col sm:h-dvh sm:min-h-0">
      <Header bench={bench} state={state} settings={settings} />
      <Notices bench={bench} state={state} open={open ? sectionsOf(open, state.document) : []} />
      <main ref={ref} className="flex min-h-0 flex-1 flex-col sm:overflow-y-auto">
        {answer === null || width === 0 ? (
          <p className="p-6 text-soft">Solving</p>
        ) : (
          <>
            <InShort answer={answer} onMoment={setMoment} onVerdicts={showVerdicts} />
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
                  moment={moment}
                  pane={pane}
                  onPane={setPane}
                  onOpen={setOpen}
                />
              )}
            </div>
          </>
        )}
      </main>
    </div>
  );
}

interface WideProps {
  width: number;
  moment: MomentId;
  state: ReturnType<typeof useWorkbench>["state"];
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
  bench: ReturnType<typeof useWorkbench>["bench"];
  state: ReturnType<typeof useWorkbench>["state"];
  moment: MomentId;
  pane: PaneId;
  onPane: (pane: PaneId) => void;
  onOpen: (part: PartId) => void;
}

function Lower({ bench, state, moment, pane, onPane, onOpen }: LowerProps) {
  const [ref, width, height] = useSize();
  const met = useMetBrief(state.build.id, state.document);
  const { answer, pinned, build } = state;
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
            />
          ) : null}
        </div>
        <Pane pane={pane} onPane={onPane} bench={bench} answer={answer} met={met} onOpen={onOpen} />
      </div>
    </div>
  );
}
