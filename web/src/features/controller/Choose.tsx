import { useState } from "react";
import { useDebounce } from "use-debounce";
import { chooseController } from "../../api/controller";
import type { BuildDocument, ChooseAnswer, ControllerChoice, TasteWeights } from "../../api/types";
import { SetIt } from "../../ui/SetIt";
import { Tick } from "../../ui/Tick";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";

const COLOURS: Record<string, string> = {
  dependability: "fill-deep",
  price: "fill-water",
  ease: "fill-shallow",
  configurable: "fill-ember",
  room: "fill-soft",
  cells: "fill-fine",
};
const SHOWN = 8;

interface Props {
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** Which controller: hard gates first, then what counts for the builder, each with its share. */
export function Choose({ document, onSet }: Props) {
  // What nobody has moved counts as the engine has it.
  const [weights, setWeights] = useState<Partial<TasteWeights>>({});
  const [reverse, setReverse] = useState(false);
  const [regeneration, setRegeneration] = useState(false);
  const [all, setAll] = useState(false);
  const [counted] = useDebounce(weights, 200);
  const asked = { document, weights: counted, reverse, regeneration };
  const { data, error } = useAsked([asked, "choose"], () => chooseController(asked));
  const value = useValue();
  return (
    <section aria-label="Which controller?" className="min-w-0 text-[13px]">
      <h2 className="text-[16px] font-semibold">Which controller does?</h2>
      {!data ? (
        <Waiting error={error} what="Holding the shelf against the build" />
      ) : (
        <>
          <p className="text-soft">
            It has to stand {value(data.needs.full_v, "V")} and work down to{" "}
            {value(data.needs.empty_v, "V")}, give each motor{" "}
            {value(data.needs.long_motor_a, "A", 2)} for long ({data.needs.held_on}) and{" "}
            {value(data.needs.start_motor_a, "A", 2)} for {data.needs.started_on}.
          </p>
          <div className="no-print flex flex-wrap gap-x-4 gap-y-1 py-1">
            <Tick label="it must reverse" on={reverse} onChange={setReverse} />
            <Tick label="it must give back" on={regeneration} onChange={setRegeneration} />
          </div>
          <Weights told={data.weights} weights={weights} onWeights={setWeights} />
          <h3 className="mt-2 font-semibold">
            {data.passed.length === 0
              ? "None of the shelf does"
              : `${data.passed.length} of ${data.passed.length + data.failed.length} do`}
          </h3>
          <ol>
            {data.passed.slice(0, all ? undefined : SHOWN).map((one, at) => (
              <Passed key={one.id} one={one} place={at + 1} onSet={onSet} />
            ))}
          </ol>
          {data.passed.length > SHOWN ? (
            <button
              type="button"
              onClick={() => setAll(!all)}
              className="min-h-11 text-water underline sm:min-h-8"
            >
              {all ? "the best only" : `all ${data.passed.length}`}
            </button>
          ) : null}
          <details className="border-t border-line py-1">
            <summary className="min-h-11 cursor-pointer py-1 sm:min-h-0">
              Why not the other {data.failed.length}
            </summary>
            <ul>
              {data.failed.map((one) => (
                <li key={one.id} className="border-t border-line py-1">
                  <b>{one.name}</b>{" "}
                  {one.gates
                    .filter((gate) => gate.passed === false)
                    .map((gate) => gate.say)
                    .join("; ")}
                </li>
              ))}
            </ul>
          </details>
          {data.school ? (
            <p className="border-t border-line pt-1 text-soft">The other school. {data.school}</p>
          ) : null}
        </>
      )}
    </section>
  );
}

function Passed({
  one,
  place,
  onSet,
}: {
  one: ControllerChoice;
  place: number;
  onSet: Props["onSet"];
}) {
  const value = useValue();
  const questions = one.gates.filter((gate) => gate.passed === null);
  return (
    <li className="border-t border-line py-1">
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="min-w-0 flex-1 basis-44">
          <b>
            {place}. {one.count > 1 ? `${one.count} linked ` : ""}
            {one.name}
          </b>
          <span className="text-soft">
            {one.price === null ? "" : ` ${value(one.price, "")} in all`}
          </span>
        </span>
        <Bar one={one} />
        <span className="figure w-8 text-right">{(one.rank ?? 0).toFixed(0)}</span>
        <SetIt label={one.name} onClick={() => onSet(one.change)} />
      </div>
      <details>
        <summary className="cursor-pointer py-1 text-[12.5px] text-soft">
          {questions.length > 0
            ? `Ask the seller: ${questions.map((gate) => gate.say).join("; ")}`
            : "Why so"}
        </summary>
        <ul className="grid gap-x-6 pl-4 text-[12.5px] sm:grid-cols-2">
          {one.tastes.map((taste) => (
            <li key={taste.id}>
              {taste.label}: <span className="figure">{taste.adds.toFixed(1)}</span>{" "}
              <span className="text-soft">{taste.say}</span>
            </li>
          ))}
          {one.gates
            .filter((gate) => gate.passed)
            .map((gate) => (
              <li key={gate.id} className="text-soft">
                {gate.say}
              </li>
            ))}
        </ul>
      </details>
    </li>
  );
}

const WIDE = 150;

/** What each taste adds, one after another: a hundred is the whole bar. */
function Bar({ one }: { one: ControllerChoice }) {
  let from = 0;
  return (
    <svg
      width={WIDE}
      height={12}
      role="img"
      aria-label={one.tastes.map((taste) => `${taste.label} ${taste.adds.toFixed(0)}`).join(", ")}
    >
      <rect width={WIDE} height={12} className="fill-sunk" />
      {one.tastes.map((taste) => {
        const x = from;
        from += (taste.adds / 100) * WIDE;
        return (
          <rect
            key={taste.id}
            x={x}
            width={Math.max(from - x - 0.5, 0)}
            height={12}
            className={COLOURS[taste.id]}
          />
        );
      })}
    </svg>
  );
}

interface WeightsProps {
  told: ChooseAnswer["weights"];
  weights: Partial<TasteWeights>;
  onWeights: (weights: Partial<TasteWeights>) => void;
}

function Weights({ told, weights, onWeights }: WeightsProps) {
  return (
    <fieldset className="no-print">
      <legend className="text-soft">What counts for how much</legend>
      <div className="grid gap-x-6 sm:grid-cols-2 xl:grid-cols-3">
        {told.map(({ id, label, weight }) => {
          const now = weights[id] ?? weight;
          return (
            <label key={id} className="flex min-h-11 items-center gap-2 sm:min-h-8">
              <svg width={10} height={10} aria-hidden="true">
                <rect width={10} height={10} className={COLOURS[id]} />
              </svg>
              <span className="w-28">{label}</span>
              <input
                type="range"
                min={0}
                max={5}
                step={1}
                value={now}
                onChange={(event) => onWeights({ ...weights, [id]: Number(event.target.value) })}
                className="min-w-0 flex-1 accent-water"
              />
              <span className="figure w-3">{now}</span>
            </label>
          );
        })}
      </div>
    </fieldset>
  );
}
