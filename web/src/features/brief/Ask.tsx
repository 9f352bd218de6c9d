import type { ReactNode } from "react";
import { Blank } from "./Blank";
import { BLANKS, type BlankPath } from "./blanks";
import type { Saying } from "./useBrief";

/** One question, answered by a sentence with blanks. */
export function Ask({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-b border-line py-2.5">
      <h2 className="text-[13px] font-semibold text-water">{title}</h2>
      <p className="text-[14.5px] leading-10 sm:leading-9">{children}</p>
    </section>
  );
}

/** What makes a blank of a place in a brief. */
export const blankOf = (saying: Saying) => (path: BlankPath) => (
  <Blank saying={saying} path={path} {...BLANKS[path]} />
);
