import { DropdownMenu } from "radix-ui";
import { Link } from "react-router";
import { createBuild, readBuild, removeBuild } from "../../api/builds";
import { ApiError } from "../../api/client";
import type { BuildCard, BuildFigures } from "../../api/types";
import { MiniStream } from "../../stream/MiniStream";
import { Button } from "../../ui/Button";
import { SeverityWord } from "../../ui/Severity";
import { digits } from "../../units/format";
import { useUnits } from "../../units/preferences";

interface Props {
  card: BuildCard;
  onChanged: () => void;
  onTrouble: (what: string | null) => void;
}

export function BuildRow({ card, onChanged, onTrouble }: Props) {
  return (
    <li className="group relative grid items-center gap-x-6 gap-y-1 border-t border-line py-2.5 hover:bg-raised sm:grid-cols-[15rem_1fr_13rem_auto] sm:px-2">
      <div className="min-w-0">
        {card.problem ? (
          <span className="text-[17px] font-semibold">{card.name}</span>
        ) : (
          <Link
            to={`/builds/${card.id}`}
            className="text-[17px] font-semibold after:absolute after:inset-0"
          >
            {card.name}
          </Link>
        )}
        <p className="text-[12.5px] text-soft">{card.figures?.drive}</p>
        {card.demo ? <p className="text-[12.5px] text-soft">Quillmere workshop</p> : null}
      </div>
      {card.figures ? (
        <>
          <div className="max-w-xl">
            <MiniStream
              state={card.figures.state}
              motors={card.figures.motors}
              label={streamLabel(card.name, card.figures)}
            />
          </div>
          <Figures figures={card.figures} />
        </>
      ) : (
        <Without card={card} />
      )}
      <RowMenu card={card} onChanged={onChanged} onTrouble={onTrouble} />
    </li>
  );
}

export const severityOf = (figures: BuildFigures) =>
  figures.stops ? "stop" : figures.watches ? "watch" : "ok";

/** A build's stream in words. */
export const streamLabel = (name: string, { state, titles }: BuildFigures) =>
  `${name}, ${titles.cruise}: ${digits(state.cells_w)} W from the cells, ${digits(state.road_w)} W on the road`;

/** What a build does, in four lines. */
export function Figures({ figures }: { figures: BuildFigures }) {
  const { text } = useUnits();
  return (
    <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-[13px]">
      <Row name={figures.titles.cruise ?? ""} value={text(figures.cruise_mps, "speed")} />
      <Row name={figures.titles.top_speed ?? ""} value={text(figures.top_speed_mps, "speed")} />
      <Row
        name={figures.titles.climb ?? ""}
        value={
          figures.climb_speed_mps > 0
            ? text(figures.climb_speed_mps, "speed")
            : figures.climb_met
              ? "held"
              : "can't start"
        }
      />
      <dt className="text-soft">verdicts</dt>
      <dd>
        <SeverityWord severity={severityOf(figures)} />
      </dd>
    </dl>
  );
}

/** A build that is still worked out, or whose document this program can't read. */
function Without({ card: { id, problem } }: { card: BuildCard }) {
  if (!problem)
    return (
      <p className="min-h-14 text-[13px] text-soft sm:col-span-2" aria-busy="true">
        Being worked out
      </p>
    );
  return (
    <p className="relative z-1 max-w-xl text-[13px] sm:col-span-2">
      Its document can't be read any more: <strong>{problem.where}</strong> {problem.what}. Nothing
      of it is lost:{" "}
      <a href={`/api/builds/${id}/document`} className="text-water underline">
        open it as text
      </a>
      .
    </p>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className="figure">{value}</dd>
    </>
  );
}

export function RowMenu({ card, onChanged, onTrouble }: Props) {
  const act = async (what: () => Promise<unknown>) => {
    onTrouble(null);
    try {
      await what();
      onChanged();
    } catch (problem) {
      const why =
        problem instanceof ApiError ? `${problem.where} ${problem.what}` : String(problem);
      onTrouble(`Not done: ${why}.`);
    }
  };
  const copy = async () => {
    const { document } = await readBuild(card.id);
    await createBuild({ ...document, name: `${document.name} (copy)` }, crypto.randomUUID());
  };
  const item = "block cursor-pointer rounded px-3 py-2 outline-none data-[highlighted]:bg-sunk";
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button
          kind="plain"
          className="relative z-1 justify-self-start"
          aria-label={`More for ${card.name}`}
        >
          More
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-20 min-w-44 rounded-lg border border-line bg-raised p-1 text-[13.5px] shadow-lg"
        >
          <DropdownMenu.Item className={item} onSelect={() => void act(copy)}>
            Copy
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <Link to={`/compare?with=build:${card.id}`}>Compare with another</Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <a href={`/api/builds/${card.id}/document`} download>
              Save as a file
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void act(() => removeBuild(card.id))}>
            Take out of the list
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
