import { adviseKind, settingsSheet } from "../../api/builds";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useOpened } from "../../workbench/opened";
import { Feel } from "./Feel";
import { FirstPower } from "./FirstPower";
import { Sheet } from "./Sheet";
import { WhichKind } from "./WhichKind";

/** The controller of a build: what to set, to what and why, how it feels, and which kind at all. */
export function ControllerPage() {
  const { bench, state } = useOpened();
  const { document } = state;
  const sheet = useAsked([document, "settings"], () => settingsSheet(document));
  const rolls = Boolean(document.wheel);
  const advice = useAsked([document, "advise"], () => adviseKind(document), rolls);
  const set = (values: Record<string, unknown>) => bench.act({ do: "set", values });
  return (
    <main className="flex-1 px-3 pt-3 pb-8 sm:px-6">
      {!sheet.data ? (
        <Waiting error={sheet.error} what="Working the settings out" />
      ) : (
        <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_29rem]">
          <div className="min-w-0">
            <Sheet rows={sheet.data.settings} document={document} onSet={set} />
            <FirstPower
              steps={sheet.data.first_power}
              answer={state.answer}
              buildId={state.build.id}
            />
          </div>
          <div className="min-w-0">
            <Feel answer={sheet.data} document={document} onSet={set} />
            {rolls && advice.data ? <WhichKind answer={advice.data} /> : null}
          </div>
        </div>
      )}
    </main>
  );
}
