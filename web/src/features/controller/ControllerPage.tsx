import { settingsSheet } from "../../api/controller";
import { useAsked } from "../../ui/useAsked";
import { type View, Views } from "../../ui/Views";
import { Waiting } from "../../ui/Waiting";
import { useOpened } from "../../workbench/opened";
import { Choose } from "./Choose";
import { Feel } from "./Feel";
import { FirstPower } from "./FirstPower";
import { Sheet } from "./Sheet";
import { Shunt } from "./Shunt";
import { Trigger } from "./Trigger";
import { WhichKind } from "./WhichKind";
import { Sensor, Wires } from "./Wires";

/** The controller of a build: what to set, how it feels, which one, how it is wired. */
export function ControllerPage() {
  const { bench, state } = useOpened();
  const { document, build, answer } = state;
  const sheet = useAsked([document, "settings"], () => settingsSheet(document));
  const rolls = Boolean(document.wheel);
  const set = (values: Record<string, unknown>) => bench.act({ do: "set", values });
  const worked = (shows: (answer: NonNullable<typeof sheet.data>) => React.ReactNode) =>
    sheet.data ? (
      shows(sheet.data)
    ) : (
      <Waiting error={sheet.error} what="Working the settings out" />
    );
  const views: View[] = [
    {
      id: "settings",
      title: "Settings",
      shows: () =>
        worked((told) => (
          <div className="grid gap-x-8 gap-y-6 xl:grid-cols-[minmax(0,1fr)_25rem]">
            <Sheet answer={told} document={document} onSet={set} />
            <FirstPower steps={told.first_power} answer={answer} build={build} />
          </div>
        )),
    },
    {
      id: "feel",
      title: "Feel it",
      shows: () =>
        worked((told) => (
          <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_27rem]">
            {rolls ? (
              <Trigger document={document} />
            ) : (
              <p className="text-soft">A trigger drives what is on wheels.</p>
            )}
            <Feel answer={told} document={document} onSet={set} />
          </div>
        )),
    },
    {
      id: "which",
      title: "Which one?",
      shows: () => (
        <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
          <Choose document={document} onSet={set} />
          {rolls ? <WhichKind document={document} /> : null}
        </div>
      ),
    },
    {
      id: "wires",
      title: "Wires and sensors",
      shows: () => (
        <div className="grid gap-x-8 gap-y-6 lg:grid-cols-2">
          <Wires document={document} />
          <div className="min-w-0">
            <Sensor document={document} />
            <Shunt document={document} onSet={set} />
          </div>
        </div>
      ),
    },
  ];
  return (
    <main className="flex flex-1 flex-col pt-1">
      <Views label="Controller" views={views} />
    </main>
  );
}
