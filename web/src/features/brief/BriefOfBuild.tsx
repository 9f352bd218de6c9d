import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import { writeBrief } from "../../api/matching";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/Notice";
import { MEETS } from "../../workbench/met";
import { useOpened } from "../../workbench/opened";
import { BriefBody } from "./BriefPage";

/** The brief of a build: what is wished of its vehicle, and what the shelf has for that. */
export function BriefOfBuild() {
  const { state, met } = useOpened();
  if (met?.brief_id) return <BriefBody key={met.brief_id} id={met.brief_id} />;
  return <Unwritten buildId={state.build.id} />;
}

function Unwritten({ buildId }: { buildId: string }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const write = async () => {
    setBusy(true);
    setTrouble(null);
    try {
      await writeBrief(buildId);
      await queries.invalidateQueries({ queryKey: [MEETS, buildId] });
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`No brief was written: the ${problem.where} ${problem.what}.`);
    }
    setBusy(false);
  };
  return (
    <main className="mx-auto w-full max-w-3xl flex-1 px-4 py-8 sm:px-6">
      {trouble ? <Notice tone="stop">{trouble}</Notice> : null}
      <h2 className="text-[18px] font-semibold">What is it for?</h2>
      <p className="mt-1 text-[14.5px]">
        This build has no brief yet. A brief says what is wished of the vehicle: how fast, up which
        hill, how far, for how much. With one, the bench says what is met and what is missed, the
        tooth ladder ranks by it, and the shelf is searched for drives that would do better.
      </p>
      <p className="mt-2 mb-4 text-[14.5px] text-soft">
        It begins with this vehicle without its drive, and with what it does now as wishes. Change
        what you want otherwise.
      </p>
      <Button kind="main" onClick={() => void write()} disabled={busy}>
        {busy ? "Writing" : "Write the brief of this vehicle"}
      </Button>
    </main>
  );
}
