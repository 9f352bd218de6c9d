import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { keepRun } from "../../api/logbook";
import type { KeepRun } from "../../api/types";
import { Outbox } from "../../workbench/outbox";

interface Waiting {
  id: string;
  body: KeepRun;
}

/**
 * Runs on their way to the logbook. Each is kept in the browser from the moment it is entered until
 * the server has it, in order, through reloads and lost connections; sent twice it is there once.
 */
export function useSending(buildId: string, onRefused: (body: KeepRun) => void) {
  const client = useQueryClient();
  const [waiting, setWaiting] = useState(0);
  const [told, setTold] = useState("");
  const refused = useRef(onRefused);
  refused.current = onRefused;
  const box = useRef<Outbox<Waiting> | null>(null);
  const outbox = useMemo(() => {
    const made: Outbox<Waiting> = new Outbox<Waiting>({
      name: "runs",
      id: buildId,
      byTab: false,
      beside: () => ({}),
      send: async ({ id, body }) => {
        try {
          await keepRun(buildId, id, body);
          setTold("Kept.");
        } catch (problem) {
          if (problem instanceof ApiError && problem.passing) throw problem;
          // What the server refuses is not tried for ever: it is said, and goes back on the form.
          refused.current(body);
          setTold(
            problem instanceof ApiError
              ? `Not kept: ${problem.where} ${problem.what}.`
              : String(problem),
          );
        }
        setWaiting(Math.max(made.length - 1, 0));
        await client.invalidateQueries({ queryKey: ["asked", buildId, "logbook"] });
        return "sent";
      },
      onWaiting: () => setTold("No connection: kept in this browser, and sent when it is back."),
    });
    return made;
  }, [buildId, client]);
  useEffect(() => {
    box.current = outbox;
    const left = outbox.takeUp();
    setWaiting(outbox.length);
    if (left) void outbox.send();
  }, [outbox]);
  return {
    waiting,
    told,
    put: (body: KeepRun) => {
      setTold("Keeping it.");
      outbox.put({ id: crypto.randomUUID(), body });
      setWaiting(outbox.length);
    },
  };
}
