/** How each candidate is told from the others wherever it is drawn: colour, dash and letter. */
export const MARKS = [
  { letter: "A", stroke: "stroke-water", text: "text-water", dash: undefined },
  { letter: "B", stroke: "stroke-ember", text: "text-ember", dash: "7 3" },
  { letter: "C", stroke: "stroke-ink", text: "text-ink", dash: "2 3" },
  { letter: "D", stroke: "stroke-watch", text: "text-watch", dash: "10 3 2 3" },
  { letter: "E", stroke: "stroke-fine", text: "text-fine", dash: "4 4" },
] as const;

export const markOf = (place: number) => MARKS[place % MARKS.length] ?? MARKS[0];
