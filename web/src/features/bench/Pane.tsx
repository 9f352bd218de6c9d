import { Tabs } from "radix-ui";
import type { Answer, FigureId, MetBrief, PartId } from "../../api/types";
import { missed } from "../../workbench/met";
import type { Workbench } from "../../workbench/workbench";
import { HowSure } from "./doubt/HowSure";
import { LeverBoard } from "./levers/LeverBoard";
import { MeetsBrief } from "./MeetsBrief";
import { Verdicts } from "./Verdicts";

export type PaneId = "verdicts" | "levers" | "doubt" | "brief";

interface Props {
  pane: PaneId;
  /** What somebody came here to have mended. */
  complaint: FigureId | null;
  onPane: (pane: PaneId) => void;
  bench: Workbench;
  answer: Answer;
  met: MetBrief | undefined;
  buildId: string;
  onOpen: (part: PartId) => void;
}

const TITLES: Record<PaneId, string> = {
  verdicts: "Verdicts",
  levers: "What would help",
  doubt: "How sure",
  brief: "Brief",
};

/** What the bench says beside the map: its verdicts, what each change would do, how sure it is. */
export function Pane({ pane, complaint, onPane, bench, answer, met, buildId, onOpen }: Props) {
  const stops = answer.verdicts.filter((verdict) => verdict.severity === "stop").length;
  return (
    <Tabs.Root
      value={pane}
      onValueChange={(value) => onPane(value as PaneId)}
      className="flex min-h-0 min-w-0 flex-col"
    >
      <Tabs.List aria-label="Beside the map" className="flex gap-1 border-b border-line">
        {(Object.keys(TITLES) as PaneId[])
          .filter((id) => id !== "brief" || met)
          .map((id) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="-mb-px min-h-11 border-b-2 border-transparent px-2.5 text-[13.5px] text-soft hover:text-ink data-[state=active]:border-water data-[state=active]:font-semibold data-[state=active]:text-ink sm:min-h-8"
            >
              {TITLES[id]}
              {id === "verdicts" && stops ? (
                <span className="ml-1 text-stop"> {stops} stop</span>
              ) : null}
              {id === "brief" && missed(met) ? (
                <span className="ml-1 text-stop"> {missed(met)} missed</span>
              ) : null}
            </Tabs.Trigger>
          ))}
      </Tabs.List>
      <Tabs.Content value="verdicts" className="flex min-h-0 flex-1 flex-col pt-1">
        <Verdicts bench={bench} answer={answer} onOpen={onOpen} />
      </Tabs.Content>
      <Tabs.Content value="levers" className="flex min-h-0 flex-1 flex-col pt-1">
        <LeverBoard
          bench={bench}
          board={answer.board}
          complaint={complaint}
          climbS={climbSeconds(answer)}
        />
      </Tabs.Content>
      <Tabs.Content value="doubt" className="flex min-h-0 flex-1 flex-col pt-1">
        <HowSure doubt={answer.doubt} loadFactor={answer.load_factor} onOpen={onOpen} />
      </Tabs.Content>
      {met ? (
        <Tabs.Content value="brief" className="flex min-h-0 flex-1 flex-col pt-1">
          <MeetsBrief met={met} buildId={buildId} />
        </Tabs.Content>
      ) : null}
    </Tabs.Root>
  );
}

const climbSeconds = (answer: Answer): number =>
  answer.moments.find((moment) => moment.id === "climb")?.lasts_s ?? 60;
