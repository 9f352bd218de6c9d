import type { Finding, Operation } from "../../../api/types";

/** What facts told of a part, as one step on the bench: values with how they are known. */
export function learned(section: string, values: Record<string, Finding>): Operation {
  const entries = Object.entries(values).map(([name, finding]) => {
    const path = `${section}.${name}`;
    const known = {
      origin: finding.origin,
      tolerance_pct: Number((finding.tolerance * 100).toPrecision(3)),
      note: `By ${finding.route}.`,
    };
    return { path, value: Number(finding.value.toPrecision(6)), known };
  });
  return {
    do: "learn",
    values: Object.fromEntries(entries.map(({ path, value }) => [path, value])),
    known: Object.fromEntries(entries.map(({ path, known }) => [path, known])),
  };
}
