import { conversion } from "../../api/conversion";
import { useAsked } from "../../ui/useAsked";
import { type View, Views } from "../../ui/Views";
import { Waiting } from "../../ui/Waiting";
import { useOpened } from "../../workbench/opened";
import { Passing } from "../gearing/common";
import { Along } from "./Along";
import type { PartProps } from "./common";
import { Fit } from "./Fit";
import { Gears } from "./Gears";
import { HighVolts } from "./HighVolts";
import { OtherVolts } from "./OtherVolts";

/** An engine comes out, a motor goes in: gears, fit, volts, what runs along, the whole price. */
export function ConversionPage() {
  const { bench, state } = useOpened();
  const { document } = state;
  const { data, error } = useAsked([document, "conversion"], () => conversion(document));
  const shown = (shows: (props: PartProps) => React.ReactNode) =>
    data ? (
      <>
        <Passing error={error} />
        {shows({
          bench,
          state,
          document,
          told: data,
          onSet: (values) => bench.act({ do: "set", values }),
        })}
      </>
    ) : (
      <Waiting error={error} what="Working the conversion out" />
    );
  const views: View[] = [
    {
      id: "gears",
      title: "Instead of the engine",
      shows: () => shown((props) => <Gears {...props} />),
    },
    { id: "fit", title: "Does it fit?", shows: () => shown((props) => <Fit {...props} />) },
    {
      id: "volts",
      title: "Other volts, other field",
      shows: () => shown((props) => <OtherVolts {...props} />),
    },
    {
      id: "high",
      title: "Switching it on",
      shows: () => shown((props) => <HighVolts {...props} />),
    },
    {
      id: "along",
      title: "What runs along, and the price",
      shows: () => shown((props) => <Along {...props} />),
    },
  ];
  return (
    <main className="flex flex-1 flex-col pt-1">
      <Views label="Conversion" views={views} />
    </main>
  );
}
