import { memo } from "react";
import type { Answer } from "../../api/types";
import { chosen, digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { momentOf } from "./parts";

/** What stays in sight whatever the moment. */
export const Facts = memo(function Facts({ answer }: { answer: Answer }) {
  const { text } = useUnits();
  const cut = answer.verdicts.find((verdict) => verdict.id === "cut_off");
  const cruise = momentOf(answer, "cruise").state;
  const facts: [string, string][] = [
    [
      "Drive",
      answer.drive_mass_kg === null ? "mass not known" : text(answer.drive_mass_kg, "mass"),
    ],
    [
      "Price",
      answer.drive_price === null ? "not known" : chosen(Math.round(answer.drive_price), 6),
    ],
    ["Pack", `${digits(answer.pack_wh)} Wh`],
    [
      "Range at cruise, nine tenths used",
      cruise.range_km === null ? "none" : text(cruise.range_km, "distance", 2),
    ],
    ["Above cut-off at worst", cut ? `${digits(cut.value - cut.limit, 2)} V a cell` : "not known"],
  ];
  return (
    <dl className="flex flex-wrap gap-x-5 gap-y-0.5 text-[12.5px]">
      {facts.map(([name, value]) => (
        <div key={name} className="flex gap-1.5">
          <dt className="text-soft">{name}</dt>
          <dd className="figure">{value}</dd>
        </div>
      ))}
    </dl>
  );
});
