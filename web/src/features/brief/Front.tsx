import { scaleLinear } from "d3-scale";
import type { MatchAnswer } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { useUnits } from "../../units/preferences";
import { documentUnit, PRICE, toShown, unitOf } from "../../units/quantities";

interface Props {
  answer: MatchAnswer;
  marked: number | null;
  width: number;
}

const HEIGHT = 190;
const LEFT = 46;
const BOTTOM = 34;

/** Price against mass: hollow where no other is better in price, mass and room; filled: the list. */
export function Front({ answer, marked, width }: Props) {
  const { choice } = useUnits();
  const mass = unitOf("mass", choice);
  const currency = documentUnit(PRICE, choice).sign;
  const listed = answer.results.flatMap((result) => {
    const { price, added_mass_kg: kg } = result.figures;
    return price === null || price === undefined || kg === null || kg === undefined
      ? []
      : [{ rank: result.rank, price, mass: toShown(kg, mass) }];
  });
  const front = answer.front.map((point) => ({
    price: point.price,
    mass: toShown(point.added_mass_kg, mass),
  }));
  const all = [...listed, ...front];
  if (all.length === 0 || width < 120) return null;
  const most = (key: "price" | "mass") => Math.max(...all.map((point) => point[key]));
  const x = scaleLinear([0, most("price") * 1.05], [LEFT, width - 18]).nice();
  const y = scaleLinear([0, most("mass") * 1.05], [HEIGHT - BOTTOM, 10]).nice();
  return (
    <figure className="mt-3">
      <figcaption className="mb-1 text-[13px] font-semibold">
        Price against mass of the drive
      </figcaption>
      <svg width={width} height={HEIGHT} role="img" aria-label="Price against mass of the drives">
        {x.ticks(4).map((tick) => (
          <line
            key={tick}
            x1={x(tick)}
            x2={x(tick)}
            y1={10}
            y2={HEIGHT - BOTTOM}
            className="stroke-line"
          />
        ))}
        <Axes x={x} y={y} xTicks={x.ticks(4)} />
        <text x={width - 10} y={HEIGHT - 4} textAnchor="end" fontSize={11}>
          {currency ? `price in ${currency}` : "price"}
        </text>
        <text x={4} y={HEIGHT - 4} fontSize={11}>
          {mass.sign}
        </text>
        {front.map((point) => (
          <circle
            key={`${point.price} ${point.mass}`}
            cx={x(point.price)}
            cy={y(point.mass)}
            r={5}
            fill="none"
            stroke="var(--water)"
            strokeWidth={1.5}
          />
        ))}
        {listed.map((point) => (
          <circle
            key={point.rank}
            cx={x(point.price)}
            cy={y(point.mass)}
            r={point.rank === marked ? 6 : 3}
            fill={point.rank === marked ? "var(--ember)" : "var(--deep)"}
          >
            <title>{`Number ${point.rank}`}</title>
          </circle>
        ))}
      </svg>
      <p className="text-[12px] text-soft">
        Filled: the list beside. Rings: no other drive is at once cheaper, lighter and with more
        margin.
      </p>
    </figure>
  );
}
