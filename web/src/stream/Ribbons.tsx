import type { Drawing } from "./geometry";

/** The drawn stream, without words. The ghost is the pinned state's lower edge. */
export function Ribbons({ drawing, ghost }: { drawing: Drawing; ghost?: string }) {
  return (
    <g className="flows">
      {drawing.spills.map((spill) => (
        <path
          key={spill.loss.id}
          d={spill.path}
          className={spill.loss.label ? "fill-water opacity-50" : "fill-ember"}
        />
      ))}
      {drawing.lanes.map((lane, i) => (
        // Lanes have no identity but their place.
        <path key={i} d={lane} className="fill-shallow stroke-shallow" strokeWidth={0.5} />
      ))}
      {drawing.lines.map((line, i) => (
        <path
          key={i}
          d={line}
          className="drift fill-none stroke-water opacity-35"
          strokeDasharray="34 16"
          strokeDashoffset={(i * 37) % 50}
          style={{ animationDelay: `${((i * 37) % 50) * -0.032}s` }}
        />
      ))}
      <path d={drawing.bottom} className="fill-none stroke-water" strokeWidth={1.5} />
      {drawing.ends.map((end) => (
        <path
          key={end.id}
          d={end.path}
          className={end.id === "tyres" ? "fill-deep" : "fill-water"}
          opacity={end.id === "speed" ? 0.6 : end.id === "climb" ? 0.8 : 1}
        />
      ))}
      {ghost ? (
        <path d={ghost} className="fill-none stroke-ink" strokeWidth={1} strokeDasharray="3 3" />
      ) : null}
    </g>
  );
}
