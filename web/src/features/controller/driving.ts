import { useEffect, useRef, useState } from "react";
import { ApiError } from "../../api/client";
import { beginDrive, framesOf, holdTrigger } from "../../api/controller";
import type { BuildDocument, TriggerFrame } from "../../api/types";

/** How many frames of the last seconds are kept for the trace. */
export const KEPT = 500;

export interface Driving {
  /** The last frames, the newest at the end. */
  frames: TriggerFrame[];
  hold: (trigger: number, gradePct: number) => void;
  trouble: string | null;
}

/**
 * A drive by hand that goes on while it is wanted. It begins anew, at rest, with every change of
 * the build: nobody changes a tooth while riding.
 */
export function useDriving(document: BuildDocument, wanted: boolean): Driving {
  const [frames, setFrames] = useState<TriggerFrame[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const held = useRef({ trigger: 0, gradePct: 0 });
  const send = useRef<() => void>(() => {});
  const [again, setAgain] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: counting up begins it again.
  useEffect(() => {
    if (!wanted) return;
    let stream: EventSource | null = null;
    let over = false;
    const fail = (what: string) => {
      if (over) return;
      setTrouble(what);
      setTimeout(() => !over && setAgain((count) => count + 1), 2000);
    };
    const begin = async () => {
      try {
        const { id } = await beginDrive(document, held.current.gradePct);
        if (over) return;
        send.current = sender(id, held, fail);
        send.current();
        stream = new EventSource(framesOf(id));
        stream.onmessage = (event) => {
          setTrouble(null);
          setFrames((before) => [
            ...before.slice(-KEPT + 1),
            JSON.parse(event.data as string) as TriggerFrame,
          ]);
        };
        stream.onerror = () => {
          stream?.close();
          fail("The drive was broken off; beginning again.");
        };
      } catch (problem) {
        if (!(problem instanceof ApiError)) throw problem;
        fail(`The ${problem.where} ${problem.what}.`);
      }
    };
    setFrames([]);
    void begin();
    return () => {
      over = true;
      send.current = () => {};
      stream?.close();
    };
  }, [document, wanted, again]);
  return {
    frames,
    trouble,
    hold: (trigger, gradePct) => {
      held.current = { trigger, gradePct };
      send.current();
    },
  };
}

/** Sends how the trigger is held, one request at a time, and the last of what came meanwhile. */
function sender(
  id: string,
  held: { current: { trigger: number; gradePct: number } },
  fail: (what: string) => void,
) {
  let busy = false;
  let sent: object | null = null;
  const send = async () => {
    if (busy) return;
    busy = true;
    try {
      while (sent !== held.current) {
        const now = held.current;
        await holdTrigger(id, now.trigger, now.gradePct);
        sent = now;
      }
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      fail(`The ${problem.where} ${problem.what}.`);
    } finally {
      busy = false;
    }
  };
  return () => void send();
}
