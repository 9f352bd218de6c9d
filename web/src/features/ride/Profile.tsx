import { scaleLinear } from "d3-scale";
import { area } from "d3-shape";
import { useRef, useState } from "react";
import { Button } from "../../ui/Button";
import { useSize } from "../../ui/useSize";
import { placesOf, withPlaceAt, withPlaceMoved, withPlaceOut } from "./places";
import type { Stretch } from "./plan";

const HEIGHT = 108;
const LEFT = 46;
const RIGHT = 14;
const TOP = 14;
const BOTTOM = 20;
/** A road of more places than this is looked at, not drawn on. */
export const MOST_DRAWN = 40;

interface Props {
  stretches: Stretch[];
  /** What is drawn: a road, a way. */
  way: string;
  onStretches: (stretches: Stretch[]) => void;
}

/** The road's height; its places are moved by hand or by the keys, and put in by a double press. */
export function Profile({ stretches, way, onStretches }: Props) {
  const [ref, width] = useSize();
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useRef<number | null>(null);
  const [moving, setMoving] = useState<Stretch[] | null>(null);
  const shown = moving ?? stretches;
  const places = placesOf(shown);
  const heights = places.map((place) => place.heightM);
  const low = Math.min(...heights, 0);
  const high = Math.max(...heights, low + 10);
  const length = places.at(-1)?.atM ?? 1;
  const x = scaleLinear([0, length], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const y = scaleLinear([low, high], [HEIGHT - BOTTOM, TOP]);
  const drawn = places.length <= MOST_DRAWN;
  const ground = area<(typeof places)[number]>(
    (place) => x(place.atM),
    HEIGHT - BOTTOM + 4,
    (place) => y(place.heightM),
  )(places);
  const at = (event: React.PointerEvent | React.MouseEvent) => {
    const box = svg.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return {
      atM: Math.round(x.invert(event.clientX - box.left) / 10) * 10,
      heightM: Math.round(y.invert(event.clientY - box.top)),
    };
  };
  const drop = () => {
    if (dragged.current === null) return;
    dragged.current = null;
    if (moving) onStretches(moving);
    setMoving(null);
  };
  const byKey = (index: number, event: React.KeyboardEvent) => {
    const place = places[index];
    if (!place) return;
    const far = event.shiftKey ? 10 : 1;
    const by: Record<string, [number, number]> = {
      ArrowUp: [0, far],
      ArrowDown: [0, -far],
      ArrowRight: [10 * far, 0],
      ArrowLeft: [-10 * far, 0],
    };
    const step = by[event.key];
    if (step)
      onStretches(withPlaceMoved(stretches, index, place.atM + step[0], place.heightM + step[1]));
    else if (event.key === "Delete" && stretches.length > 1)
      onStretches(withPlaceOut(stretches, index));
    else return;
    event.preventDefault();
  };
  return (
    <div ref={ref} className="pt-1">
      {width > 120 ? (
        <svg
          ref={svg}
          width={width}
          height={HEIGHT}
          role="group"
          aria-label={`Height of the ${way}: ${(length / 1000).toFixed(2)} km, ${Math.round(high - low)} m between its lowest and highest place`}
          onDoubleClick={(event) => drawn && onStretches(withPlaceAt(stretches, at(event)))}
          onPointerMove={(event) => {
            if (dragged.current === null) return;
            const to = at(event);
            setMoving(withPlaceMoved(moving ?? stretches, dragged.current, to.atM, to.heightM));
          }}
          onPointerUp={drop}
          onPointerLeave={drop}
        >
          <path d={ground ?? ""} className="fill-line stroke-soft" />
          <text x={LEFT - 6} y={y(high) + 4} textAnchor="end" className="fill-soft text-[11.5px]">
            {Math.round(high)} m
          </text>
          <text x={LEFT - 6} y={y(low) + 4} textAnchor="end" className="fill-soft text-[11.5px]">
            {Math.round(low)} m
          </text>
          <text
            x={width - RIGHT}
            y={HEIGHT - 3}
            textAnchor="end"
            className="fill-soft text-[11.5px]"
          >
            {(length / 1000).toFixed(2)} km
          </text>
          {drawn
            ? places.map((place, index) => (
                <circle
                  // Places have no identity but their order.
                  key={index}
                  cx={x(place.atM)}
                  cy={y(place.heightM)}
                  r={7}
                  tabIndex={0}
                  role="slider"
                  aria-label={`Place ${index + 1} of the ${way}, after ${Math.round(place.atM)} m`}
                  aria-valuemin={-1000}
                  aria-valuemax={9000}
                  aria-valuenow={tenth(place.heightM)}
                  aria-valuetext={`${tenth(place.heightM)} m high`}
                  onPointerDown={(event) => {
                    event.preventDefault();
                    dragged.current = index;
                  }}
                  onKeyDown={(event) => byKey(index, event)}
                  className="cursor-grab touch-none fill-water stroke-page stroke-2 focus-visible:stroke-ink"
                />
              ))
            : null}
        </svg>
      ) : null}
      {drawn ? (
        <div className="flex flex-wrap items-center gap-2 text-[12.5px] text-soft">
          <span className="flex-1">
            Drag a place of the {way}, or move it by the arrow keys; a double press puts one in,
            Delete takes it out.
          </span>
          <Button onClick={() => onStretches(withPlaceAt(stretches, longestMiddle(stretches)))}>
            One place more
          </Button>
        </div>
      ) : null}
    </div>
  );
}

const tenth = (metres: number) => Math.round(metres * 10) / 10;

/** The middle of the longest stretch, at its height. */
function longestMiddle(stretches: Stretch[]): { atM: number; heightM: number } {
  const places = placesOf(stretches);
  const lengths = stretches.map((one) => one.lengthM);
  const index = lengths.indexOf(Math.max(...lengths));
  const [from, to] = [places[index], places[index + 1]];
  if (!from || !to) return { atM: 0, heightM: 0 };
  return { atM: (from.atM + to.atM) / 2, heightM: (from.heightM + to.heightM) / 2 };
}
