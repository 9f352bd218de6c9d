interface Props {
  value: string;
  sign: string;
  words?: string;
  delta?: string | null;
  large?: boolean;
}

/** A figure with its unit, what it is, and how it differs from the pinned state. */
export function Figure({ value, sign, words, delta, large }: Props) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-1.5 leading-tight">
      <span className={`figure ${large ? "text-[28px]" : "text-[14.5px]"}`}>
        {value}
        <span className={`ml-0.5 font-normal text-soft ${large ? "text-[15px]" : "text-[12px]"}`}>
          {sign}
        </span>
      </span>
      {delta ? (
        <span className="figure text-[12px] text-water" title="against the pinned state">
          {delta}
        </span>
      ) : null}
      {words ? <span className="text-[12px] text-soft">{words}</span> : null}
    </p>
  );
}
