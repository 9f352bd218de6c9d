/** Shape, colour and word of a judgement; never colour alone. */
const LOOK = {
  stop: { word: "Stop", colour: "text-stop", fill: "fill-stop", d: "M6 1h4l5 5v4l-5 5H6l-5-5V6z" },
  watch: { word: "Watch", colour: "text-watch", fill: "fill-watch", d: "M8 1.5 15 14H1z" },
  ok: {
    word: "Fine",
    colour: "text-fine",
    fill: "fill-fine",
    d: "M8 3a5 5 0 1 0 0 10A5 5 0 0 0 8 3z",
  },
} as const;

export type SeverityId = keyof typeof LOOK;

export function SeverityMark({ severity, title }: { severity: SeverityId; title?: string }) {
  const { fill, d, word } = LOOK[severity];
  return (
    <svg
      viewBox="0 0 16 16"
      className="inline size-3 shrink-0"
      role={title === "" ? "presentation" : "img"}
      aria-label={title === "" ? undefined : (title ?? word)}
    >
      <path d={d} className={fill} />
    </svg>
  );
}

export function SeverityWord({ severity }: { severity: SeverityId }) {
  return (
    <span
      className={`inline-flex items-center gap-1 text-[12.5px] font-semibold ${LOOK[severity].colour}`}
    >
      <SeverityMark severity={severity} title="" />
      {LOOK[severity].word}
    </span>
  );
}
