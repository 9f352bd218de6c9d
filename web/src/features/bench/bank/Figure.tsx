import type { ReactNode } from "react";
import type { Band } from "../../../api/types";
import { doubtOf } from "../../../units/doubt";

interface Props {
  value: string;
  sign: string;
  words?: ReactNode;
  delta?: string | null;
  /** Where the figure lies four times in five. */
  band?: Band;
  large?: boolean;
}

/** A figure with its unit, how sure it is, what it is, and how it differs from the pinned state. */
export function Figure({ value, sign, words, delta, band, large }: Props) {
  const doubt = doubtOf(band);
  return (
    <p className="flex flex-wrap items-baseline gap-x-1.5 leading-tight">
      <span className={`figure ${large ? "text-[28px]" : "text-[14.5px]"}`}>
        {value}
        <span className={`ml-0.5 font-normal text-soft ${large ? "text-[15px]" : "text-[12px]"}`}>
          {sign}
        </span>
      </span>
      {doubt ? (
        <span className="text-[11.5px] text-soft" title="four times in five it lies within">
          {doubt}
        </span>
      ) : null}
      {delta ? (
        <span className="figure text-[12px] text-water" title="against the pinned state">
          {delta}
        </span>
      ) : null}
      {words ? <span className="text-[12px] text-soft">{words}</span> : null}
    </p>
  );
}
