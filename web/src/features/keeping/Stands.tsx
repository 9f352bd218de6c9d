import type { UpkeepAnswer } from "../../api/types";

/** What is kept running, and how each stands. */
export function Stands({ told }: { told: UpkeepAnswer }) {
  return (
    <section>
      <h2 className="mb-1 text-[16px] font-semibold">How it runs</h2>
      <p className="mb-1 text-[13px] text-soft">
        Whatever of it ends is begun again; nothing that was saved is lost by it.
      </p>
      <dl className="text-[13.5px]">
        {told.stands.map(({ what, how }) => (
          <div
            key={what}
            className="grid grid-cols-[8rem_1fr] items-baseline gap-x-4 border-t border-line py-1"
          >
            <dt>{what}</dt>
            <dd className={how === "up" ? "" : "font-semibold text-watch"}>
              {how === "up" ? "runs" : how}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
