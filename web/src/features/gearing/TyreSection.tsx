import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";

interface Props {
  /** Across, unloaded; nothing where only the rolled way is known. */
  diameterMm: number | null;
  rollsMm: number;
  lowMm: number | null;
  highMm: number | null;
}

const SIZE = 320;

/** A tyre from the side: its free edge, where it is flattened, and the radius that it rolls. */
export function TyreSection({ diameterMm, rollsMm, lowMm, highMm }: Props) {
  const { choice } = useUnits();
  const unit = documentUnit("mm", choice);
  const shown = (mm: number) =>
    `${toShown(mm, unit).toLocaleString("en-GB", { maximumFractionDigits: unit.id === "mm" ? 0 : 1 })} ${unit.sign}`;
  const rolling = rollsMm / (2 * Math.PI);
  const free = diameterMm === null ? rolling * 1.03 : diameterMm / 2;
  const scale = (SIZE / 2 - 42) / free;
  const [cx, cy] = [SIZE / 2, SIZE / 2 - 8];
  const r = free * scale;
  // A tyre on the ground sinks about three times what its rolling radius loses; drawn no more.
  const sunk = Math.min(3 * (free - rolling), 0.25 * free) * scale;
  const half = Math.sqrt(Math.max(r * r - (r - sunk) ** 2, 0));
  const ground = cy + r - sunk;
  const radius = (mm: number) => (mm / (2 * Math.PI)) * scale;
  return (
    <svg
      viewBox={`0 0 ${SIZE + 150} ${SIZE}`}
      className="w-full max-w-xl"
      role="img"
      aria-label={`The tyre from the side: it rolls ${shown(rollsMm)} in a turn, as a wheel of ${shown(rolling)} radius would`}
    >
      <path
        d={`M${cx - half},${ground}A${r},${r} 0 1 1 ${cx + half},${ground}Z`}
        className="fill-sunk stroke-ink"
        strokeWidth={2}
      />
      <circle cx={cx} cy={cy} r={r * 0.74} className="fill-paper stroke-soft" />
      {lowMm !== null && highMm !== null ? (
        <circle
          cx={cx}
          cy={cy}
          r={(radius(lowMm) + radius(highMm)) / 2}
          className="fill-none stroke-shallow opacity-80"
          strokeWidth={Math.max(radius(highMm) - radius(lowMm), 2)}
        />
      ) : null}
      <circle
        cx={cx}
        cy={cy}
        r={radius(rollsMm)}
        className="fill-none stroke-water"
        strokeWidth={1.5}
        strokeDasharray="6 4"
      />
      <line
        x1={12}
        x2={SIZE + 138}
        y1={ground}
        y2={ground}
        className="stroke-ink"
        strokeWidth={2}
      />
      <line
        x1={cx}
        x2={cx}
        y1={cy}
        y2={cy + radius(rollsMm)}
        className="stroke-water"
        strokeWidth={2}
      />
      <circle cx={cx} cy={cy} r={3.5} className="fill-ink" />
      <text x={cx + 7} y={cy + r * 0.4} className="text-[12px]">
        {shown(rolling)}
      </text>
      <text x={cx + r + 14} y={cy - 14} className="text-[12.5px] font-semibold">
        rolls {shown(rollsMm)}
      </text>
      {lowMm !== null && highMm !== null ? (
        <text x={cx + r + 14} y={cy + 4} className="fill-soft text-[11.5px]">
          {shown(lowMm)} to {shown(highMm)}
        </text>
      ) : null}
      {diameterMm === null ? null : (
        <text x={cx} y={cy - r - 8} textAnchor="middle" className="fill-soft text-[11.5px]">
          {shown(diameterMm)} across, in the air
        </text>
      )}
      <text x={cx} y={ground + 18} textAnchor="middle" className="fill-soft text-[11.5px]">
        sinks under its load
      </text>
    </svg>
  );
}
