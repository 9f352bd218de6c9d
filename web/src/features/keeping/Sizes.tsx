import type { UpkeepAnswer } from "../../api/types";

/** Bytes as people say them. */
export function bytesInWords(bytes: number): string {
  const [unit, size] = (
    [
      ["GB", 1e9],
      ["MB", 1e6],
      ["kB", 1e3],
    ] as const
  ).find(([, size]) => bytes >= size) ?? ["B", 1];
  const value = bytes / size;
  return `${value < 10 && size > 1 ? value.toFixed(1) : Math.round(value)} ${unit}`;
}

/** How many there are of everything, and what room that takes. */
export function Sizes({ told }: { told: UpkeepAnswer }) {
  return (
    <section>
      <h2 className="mb-1 text-[16px] font-semibold">How large it is</h2>
      <table className="w-full text-[13.5px]">
        <thead className="text-left text-[12.5px] text-soft">
          <tr>
            <th className="py-1 font-normal">kept</th>
            <th className="py-1 text-right font-normal">how many</th>
            <th className="py-1 text-right font-normal">on the disk</th>
          </tr>
        </thead>
        <tbody>
          {told.sizes.map((size) => (
            <tr key={size.what} className="border-t border-line">
              <td className="py-1">{size.what}</td>
              <td className="figure py-1 text-right">{size.count.toLocaleString("en-GB")}</td>
              <td className="figure py-1 text-right">{bytesInWords(size.bytes)}</td>
            </tr>
          ))}
          <tr className="border-t border-line font-semibold">
            <td className="py-1">the whole database</td>
            <td />
            <td className="figure py-1 text-right">{bytesInWords(told.database_bytes)}</td>
          </tr>
        </tbody>
      </table>
      {told.free_bytes === null ? null : (
        <p className="mt-1 text-[13px] text-soft">
          The disk has room for {bytesInWords(told.free_bytes)} more.
        </p>
      )}
    </section>
  );
}
