import type { Answer, MomentId } from "../../api/types";
import { useValue } from "../../units/useValue";
import { spoken } from "./heat";

interface Props {
  answer: Answer;
  onMoment: (moment: MomentId) => void;
  onVerdicts: () => void;
}

/** The build as a friend would tell it, in one line; each figure in it opens what it is from. */
export function InShort({ answer, onMoment, onVerdicts }: Props) {
  const value = useValue();
  return (
    <p className="min-w-64 flex-1 text-[14.5px] leading-snug">
      {answer.in_short.map(({ words, value: figure, unit, leads }, place) => {
        const said =
          figure === null || figure === undefined
            ? words
            : unit === "s"
              ? spoken(figure)
              : value(figure, unit ?? "", 2);
        // The pieces of a line have no name but their place in it.
        const key = `${place}`;
        if (!leads) return <span key={key}>{said}</span>;
        return (
          <button
            key={key}
            type="button"
            onClick={() => (leads === "verdicts" ? onVerdicts() : onMoment(leads))}
            className={`text-left underline decoration-line decoration-1 underline-offset-3 hover:decoration-water ${figure === null || figure === undefined ? "" : "figure font-semibold"}`}
          >
            {said}
          </button>
        );
      })}
      .
    </p>
  );
}
