import { memo } from "react";
import type { Answer, Band } from "../../api/types";
import { Term } from "../../ui/Term";
import type { TermId } from "../../ui/terms";
import { doubtOf } from "../../units/doubt";
import { chosen, digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { NODE_WORDS, spoken } from "./heat";
import { momentOf } from "./parts";

/** A figure with how far it may be off. */
const unsure = (text: string, band: Band | undefined): string =>
  [text, doubtOf(band)].filter(Boolean).join(" ");

interface Props {
  answer: Answer;
  onDoubt: () => void;
}

/** What stays in sight whatever the moment. */
export const Facts = memo(function Facts({ answer, onDoubt }: Props) {
  const { text, money } = useUnits();
  const cut = answer.verdicts.find((verdict) => verdict.id === "cut_off");
  const first = answer.first_limit;
  const next = answer.doubt.measure_next;
  const cruise = momentOf(answer, "cruise").state;
  const top = momentOf(answer, "top_speed");
  const share = `${chosen(answer.range_from_pct)} to ${chosen(answer.range_to_pct)} %`;
  // A load that is let down draws nothing: what counts is how far it is lifted.
  const range: [string, string] =
    cruise.range_km === null && top.state.range_km !== null
      ? [
          `Range ${top.during}, ${share}`,
          unsure(text(top.state.range_km, "distance", 2), top.bands.range_km),
        ]
      : [
          `Range, ${share}`,
          cruise.range_km === null
            ? "none"
            : unsure(text(cruise.range_km, "distance", 2), answer.doubt.figures.range_km?.band),
        ];
  const facts: [TermId, string, string][] = [
    [
      "drive_mass",
      "Drive",
      answer.drive_mass_kg === null ? "mass not known" : text(answer.drive_mass_kg, "mass"),
    ],
    ["price", "Price", answer.drive_price === null ? "not known" : money(answer.drive_price)],
    ["energy", "Pack", `${digits(answer.pack_wh)} Wh`],
    ["range", ...range],
    ["cut_off", "To cut-off", cut ? `${digits(cut.value - cut.limit, 2)} V a cell` : "not known"],
    [
      "first_limit",
      "First limit",
      first
        ? `${NODE_WORDS[first.node]} in ${spoken(first.seconds)} ${momentOf(answer, first.moment).during}`
        : "none",
    ],
    [
      "stall",
      "Stalled",
      answer.stall.seconds === null
        ? "for ever"
        : unsure(spoken(answer.stall.seconds), answer.stall.band),
    ],
  ];
  return (
    <dl className="flex flex-wrap gap-x-4 gap-y-0.5 text-[12.5px]">
      {facts.map(([id, name, value]) => (
        <div key={name} className="flex gap-1.5">
          <dt className="text-soft">
            <Term id={id}>{name}</Term>
          </dt>
          <dd className="figure">{value}</dd>
        </div>
      ))}
      {next ? (
        <div className="flex gap-1.5">
          <dt className="text-soft">Measure next</dt>
          <dd>
            <button
              type="button"
              className="font-semibold text-water hover:underline"
              onClick={onDoubt}
            >
              {next.label}
            </button>
          </dd>
        </div>
      ) : null}
    </dl>
  );
});
