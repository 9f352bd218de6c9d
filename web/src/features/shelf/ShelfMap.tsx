import { scaleLinear, scaleLog } from "d3-scale";
import { type PointerEvent, useMemo, useRef, useState } from "react";
import type { PartColumn, PartRow, PartsTable } from "../../api/types";
import { useSize } from "../../ui/useSize";
import { chosen, digits } from "../../units/format";
import { useUnits } from "../../units/preferences";
import { toShown, type Unit, type UnitChoice } from "../../units/quantities";
import { unitOf } from "./kinds";

/** A rectangle of the map, in the shown units of both figures. */
export interface Brushed {
  x: [number, number];
  y: [number, number];
}

interface Props {
  table: PartsTable;
  across: string | null;
  up: string | null;
  onAxes: (across: string, up: string) => void;
  brushed: Brushed | null;
  onBrush: (brushed: Brushed | null) => void;
  onOpen: (id: string) => void;
  asksFit: boolean;
}

const HEIGHT = 480;
const LEFT = 56;
const RIGHT = 14;
const TOP = 24;
const BOTTOM = 40;

/** What is drawn of each kind where nobody chose. */
const USUAL: Record<string, [string, string]> = {
  motors: ["motor.kv_rpm_per_v", "strength"],
  controllers: ["controller.max_voltage_v", "controller.continuous_current_a"],
  packs: ["energy_wh", "battery.mass_kg"],
  cells: ["capacity_ah", "resistance_mohm"],
  wheels: ["wheel.rolling_circumference_mm", "mass_kg"],
  propellers: ["propeller.diameter_mm", "thrust_per_w"],
  connectors: ["current_a", "price"],
  wires: ["area_mm2", "price_per_m"],
};

/** A figure that parts can be laid out by, and each part's own. */
export interface MapFigure {
  column: PartColumn;
  unit: Unit;
  of: (row: PartRow) => number | null;
}

/** The figures that at least two parts say, and not all alike. */
export function figuresOf(table: PartsTable, choice: UnitChoice): MapFigure[] {
  const said: [PartColumn, (row: PartRow) => unknown][] = [
    ...table.columns.map((column, at): [PartColumn, (row: PartRow) => unknown] => [
      column,
      (row) => row.values[at],
    ]),
    ...table.figures.map((column, at): [PartColumn, (row: PartRow) => unknown] => [
      column,
      (row) => row.figures[at],
    ]),
  ];
  return said.flatMap(([column, raw]) => {
    const unit = unitOf(column, choice);
    const of = (row: PartRow) => {
      const value = raw(row);
      return typeof value === "number" ? toShown(value, unit) : null;
    };
    const known = new Set(table.rows.map(of).filter((value) => value !== null));
    return known.size > 1 ? [{ column, unit, of }] : [];
  });
}

export const inside = (brushed: Brushed, x: number | null, y: number | null): boolean =>
  x !== null &&
  y !== null &&
  x >= brushed.x[0] &&
  x <= brushed.x[1] &&
  y >= brushed.y[0] &&
  y <= brushed.y[1];

/** Which two figures the map shows: those chosen, else what is usual of the kind. */
export function axesOf(
  table: PartsTable,
  figures: MapFigure[],
  across: string | null,
  up: string | null,
): [MapFigure, MapFigure] | null {
  const [usualX, usualY] = USUAL[table.kind] ?? [];
  const find = (path: string | null | undefined) =>
    figures.find((figure) => figure.column.path === path);
  const x = find(across) ?? find(usualX) ?? figures[0];
  const others = [find(up), find(usualY), ...figures];
  const y = others.find((figure) => figure !== undefined && figure !== x);
  return x && y ? [x, y] : null;
}

/** Every part as a mark by two figures; what fits is lit, one's own is ringed, a drag narrows. */
export function ShelfMap(props: Props) {
  const { choice } = useUnits();
  const [ref, width] = useSize();
  const figures = useMemo(() => figuresOf(props.table, choice), [props.table, choice]);
  const axes = axesOf(props.table, figures, props.across, props.up);
  if (!axes) return null;
  const [x, y] = axes;
  const pick = (label: string, now: MapFigure, onPick: (path: string) => void) => (
    <label className="flex min-w-0 items-center gap-1.5 text-[12.5px]">
      <span className="text-soft">{label}</span>
      <select
        value={now.column.path}
        onChange={(event) => onPick(event.target.value)}
        className="min-h-11 min-w-0 rounded-md border border-line bg-raised px-1.5 sm:min-h-7"
      >
        {figures.map(({ column }) => (
          <option key={column.path} value={column.path}>
            {column.label}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <figure className="m-0 min-w-0">
      <figcaption className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-1">
        {pick("Up", y, (path) => props.onAxes(x.column.path, path))}
        {pick("across", x, (path) => props.onAxes(path, y.column.path))}
        {props.brushed ? (
          <button
            type="button"
            onClick={() => props.onBrush(null)}
            className="min-h-11 text-[12.5px] text-water underline sm:min-h-7"
          >
            Show all again
          </button>
        ) : (
          <span className="text-[12px] text-soft">Drag over some to narrow the list.</span>
        )}
      </figcaption>
      <div ref={ref}>{width > 200 ? <Drawn {...props} x={x} y={y} width={width} /> : null}</div>
    </figure>
  );
}

const scaled = (values: number[], range: [number, number]) => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // Parts of a tenth and ten times as much stand side by side; nought has no place there.
  if (low > 0 && high / low > 8) return scaleLog([low / 1.15, high * 1.15], range);
  const room = (high - low) * 0.06 || 1;
  return scaleLinear([low - room, high + room], range);
};

function Drawn({
  table,
  x,
  y,
  width,
  brushed,
  onBrush,
  onOpen,
  asksFit,
}: Props & { x: MapFigure; y: MapFigure; width: number }) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ from: [number, number]; to: [number, number] } | null>(null);
  const marks = table.rows.flatMap((row) => {
    const [a, b] = [x.of(row), y.of(row)];
    return a === null || b === null ? [] : [{ row, a, b }];
  });
  const left = table.rows.length - marks.length;
  if (marks.length === 0)
    return <p className="py-6 text-[13px] text-soft">No part says both of these.</p>;
  const px = scaled(
    marks.map((one) => one.a),
    [LEFT, width - RIGHT],
  );
  const py = scaled(
    marks.map((one) => one.b),
    [HEIGHT - BOTTOM, TOP],
  );
  const place = (event: PointerEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
  };
  const done = () => {
    if (!drag) return;
    setDrag(null);
    const [[x0, y0], [x1, y1]] = [drag.from, drag.to];
    if (Math.abs(x1 - x0) < 6 || Math.abs(y1 - y0) < 6) return;
    const xs = [px.invert(Math.min(x0, x1)), px.invert(Math.max(x0, x1))] as [number, number];
    const ys = [py.invert(Math.max(y0, y1)), py.invert(Math.min(y0, y1))] as [number, number];
    onBrush({ x: xs, y: ys });
  };
  const shown = drag
    ? {
        x: Math.min(drag.from[0], drag.to[0]),
        y: Math.min(drag.from[1], drag.to[1]),
        width: Math.abs(drag.to[0] - drag.from[0]),
        height: Math.abs(drag.to[1] - drag.from[1]),
      }
    : brushed
      ? {
          x: px(brushed.x[0]),
          y: py(brushed.y[1]),
          width: px(brushed.x[1]) - px(brushed.x[0]),
          height: py(brushed.y[0]) - py(brushed.y[1]),
        }
      : null;
  return (
    <>
      <svg
        ref={svg}
        width={width}
        height={HEIGHT}
        role="group"
        aria-label={`${marks.length} parts by ${y.column.label.toLowerCase()} over ${x.column.label.toLowerCase()}; the table beside has the same`}
        className="touch-pan-y cursor-crosshair select-none"
        onPointerDown={(event) => {
          if ((event.target as Element).tagName === "circle" || event.pointerType === "touch")
            return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setDrag({ from: place(event), to: place(event) });
        }}
        onPointerMove={(event) => drag && setDrag({ ...drag, to: place(event) })}
        onPointerUp={done}
        onPointerCancel={() => setDrag(null)}
      >
        {spread(px.ticks(6), px, 44).map((tick) => (
          <line
            key={tick}
            x1={px(tick)}
            x2={px(tick)}
            y1={TOP}
            y2={HEIGHT - BOTTOM}
            className="stroke-line"
          />
        ))}
        {spread(py.ticks(5), py, 16).map((tick) => (
          <line
            key={tick}
            x1={LEFT}
            x2={width - RIGHT}
            y1={py(tick)}
            y2={py(tick)}
            className="stroke-line"
          />
        ))}
        <g className="text-[11px]">
          {spread(px.ticks(6), px, 44).map((tick) => (
            <text key={tick} x={px(tick)} y={HEIGHT - BOTTOM + 15} textAnchor="middle">
              {chosen(tick)}
            </text>
          ))}
          {spread(py.ticks(5), py, 16).map((tick) => (
            <text key={tick} x={LEFT - 6} y={py(tick) + 4} textAnchor="end">
              {chosen(tick)}
            </text>
          ))}
          <text x={width - RIGHT} y={HEIGHT - 6} textAnchor="end" className="fill-soft">
            {[x.column.label, x.unit.sign].filter(Boolean).join(", ")}
          </text>
          <text x={4} y={11} className="fill-soft">
            {[y.column.label, y.unit.sign].filter(Boolean).join(", ")}
          </text>
        </g>
        {shown ? <rect {...shown} className="fill-shallow stroke-water opacity-40" /> : null}
        {marks.map(({ row, a, b }) => {
          const out = asksFit && row.unfit !== null;
          const away = brushed !== null && !inside(brushed, a, b);
          return (
            // The table opens the same part by keyboard.
            // biome-ignore lint/a11y/noStaticElementInteractions: the table beside does it by keyboard
            <circle
              key={row.id}
              cx={px(a)}
              cy={py(b)}
              r={row.own ? 6.5 : 4.5}
              onClick={() => onOpen(row.id)}
              className={`cursor-pointer ${out ? "fill-none stroke-soft" : "fill-water"} ${row.own ? "stroke-ember" : out ? "" : "stroke-paper"} ${away ? "opacity-20" : out ? "opacity-55" : "opacity-90"}`}
              strokeWidth={row.own ? 2.5 : 1}
            >
              <title>
                {`${row.name}${row.own ? " (own)" : ""}: ${x.column.label} ${digits(a)} ${x.unit.sign}, ${y.column.label} ${digits(b)} ${y.unit.sign}${out ? `; does not fit: ${row.unfit}` : ""}`}
              </title>
            </circle>
          );
        })}
      </svg>
      <p className="text-[12px] text-soft">
        {asksFit ? "Filled: it fits. Hollow: it does not. " : ""}Ringed: your own. Press one to open
        it.
        {left > 0 ? ` ${left.toLocaleString("en-GB")} do not say both.` : ""}
      </p>
    </>
  );
}

/** Ticks that leave room for their figures. */
function spread(ticks: number[], scale: (value: number) => number, room: number): number[] {
  const kept: number[] = [];
  for (const tick of ticks) {
    const last = kept.at(-1);
    if (last === undefined || Math.abs(scale(tick) - scale(last)) >= room) kept.push(tick);
  }
  return kept;
}
