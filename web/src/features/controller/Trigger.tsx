import { useRef, useState } from "react";
import { useDebounce } from "use-debounce";
import { tracedPull } from "../../api/controller";
import type { BuildDocument, TriggerFrame } from "../../api/types";
import type { StateWatts } from "../../stream/flow";
import { LIMIT_WORDS } from "../../stream/limits";
import { MiniStream } from "../../stream/MiniStream";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { useStill } from "../../ui/useStill";
import { Waiting } from "../../ui/Waiting";
import { useValue } from "../../units/useValue";
import { useDriving } from "./driving";
import { Trace } from "./Trace";

const SPAN_S = 20;
const SLOPES = [-20, -12, -5, 0, 5, 12, 20];

/** A trigger to hold: the build drives off as its controller is set, or falls short of it. */
export function Trigger({ document }: { document: BuildDocument }) {
  const still = useStill();
  const [grade, setGrade] = useState(0);
  return (
    <section aria-label="Trigger" className="min-w-0 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-4">
        <h2 className="flex-1 text-[16px] font-semibold">Hold the trigger</h2>
        <label className="flex items-center gap-2">
          on
          <select
            value={grade}
            onChange={(event) => setGrade(Number(event.target.value))}
            aria-label="Slope"
            className="min-h-11 rounded-md border border-line bg-raised px-1 sm:min-h-8"
          >
            {SLOPES.map((slope) => (
              <option key={slope} value={slope}>
                {slope === 0 ? "the level" : `${Math.abs(slope)} % ${slope < 0 ? "down" : "up"}`}
              </option>
            ))}
          </select>
        </label>
      </div>
      {still ? (
        <Pulled document={document} grade={grade} />
      ) : (
        <Live document={document} grade={grade} />
      )}
    </section>
  );
}

function Live({ document, grade }: { document: BuildDocument; grade: number }) {
  const [wanted, setWanted] = useState(false);
  const [pull, setPull] = useState(0);
  const [stays, setStays] = useState(false);
  const { frames, hold, trouble } = useDriving(document, wanted);
  const slope = useRef(grade);
  if (slope.current !== grade) {
    slope.current = grade;
    hold(pull / 100, grade);
  }
  const pulled = (to: number) => {
    setPull(to);
    setWanted(true);
    hold(to / 100, grade);
  };
  const letGo = () => stays || pulled(0);
  const held = (to: number) => ({
    onPointerDown: () => pulled(to),
    onPointerUp: () => pulled(0),
    onPointerLeave: () => pull === to && pulled(0),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key !== " " && event.key !== "Enter") return;
      event.preventDefault();
      if (!event.repeat) pulled(to);
    },
    onKeyUp: () => pulled(0),
    onBlur: () => pull === to && pulled(0),
  });
  const now = frames.at(-1);
  return (
    <>
      <label className="mt-1 block">
        <span className="flex justify-between pb-1 text-soft">
          <span>brake</span>
          <span className="figure text-ink">
            {pull < 0 ? `brake ${-pull} %` : `trigger ${pull} %`}
          </span>
          <span>full</span>
        </span>
        <input
          type="range"
          min={-100}
          max={100}
          step={1}
          value={pull}
          aria-label="Trigger"
          aria-valuetext={pull < 0 ? `brake ${-pull} %` : `${pull} %`}
          onChange={(event) => pulled(Number(event.target.value))}
          onPointerUp={letGo}
          onPointerCancel={letGo}
          className="h-11 w-full touch-none accent-water"
        />
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <Button {...held(100)}>Hold full</Button>
        <Button {...held(50)}>Hold half</Button>
        <Button {...held(-100)}>Hold the brake</Button>
        <label className="flex min-h-11 items-center gap-1.5 sm:min-h-8">
          <input
            type="checkbox"
            checked={stays}
            onChange={(event) => setStays(event.target.checked)}
            className="size-4 accent-water"
          />
          stays where it is put
        </label>
        <span className="flex-1" />
        {wanted ? (
          <Button
            kind="plain"
            onClick={() => {
              setWanted(false);
              setPull(0);
              hold(0, grade);
            }}
          >
            Stop
          </Button>
        ) : null}
      </div>
      {trouble ? (
        <p role="status" className="pt-1 text-watch">
          {trouble}
        </p>
      ) : null}
      {now ? (
        <Now frame={now} most={mostOf(frames)} motors={document.motor.count ?? 1} />
      ) : (
        <p className="border-y border-line py-5 text-soft">
          {wanted
            ? "Getting ready"
            : "Pull it, or hold a button or the space bar: the build drives off from rest, through its curve, steps, ramp and drag brake as they are set."}
        </p>
      )}
      {now ? <Trace frames={frames} spanS={SPAN_S} label="The last seconds" /> : null}
    </>
  );
}

const mostOf = (frames: TriggerFrame[]) =>
  Math.max(20, ...frames.map((one) => Math.max(Math.abs(one.cells_w), Math.abs(one.road_w))));

function Now({ frame, most, motors }: { frame: TriggerFrame; most: number; motors: number }) {
  const value = useValue();
  const watts: StateWatts = { ...frame, stage_losses_w: [frame.gearing_heat_w], takes: {} };
  return (
    <div className="mt-1 border-t border-line pt-1">
      <dl className="flex flex-wrap gap-x-6 gap-y-1">
        <Figure name="Speed" big say={value(frame.speed_kmh, "km/h")} />
        <Figure name="Motor" say={value(frame.motor_rpm, "rpm", 3)} />
        <Figure
          name={motors > 1 ? "Each motor's amps" : "Motor amps"}
          say={value(frame.motor_current_a, "A", 2)}
        />
        <Figure name="Pack" say={value(frame.battery_current_a, "A", 2)} />
        <Figure name="Volts" say={value(frame.battery_voltage_v, "V", 3)} />
        <Figure name="Winding" say={value(frame.winding_c, "C", 2)} />
      </dl>
      <p className="min-h-5 text-[12.5px] text-soft">
        {frame.limited_by ? LIMIT_WORDS[frame.limited_by] : ""}
      </p>
      <div className="max-w-2xl">
        <MiniStream
          state={watts}
          motors={motors}
          most={most}
          label={`Stream of power: ${Math.round(frame.cells_w)} W from the cells`}
        />
      </div>
    </div>
  );
}

function Figure({ name, say, big }: { name: string; say: string; big?: boolean }) {
  return (
    <div className="min-w-20">
      <dt className="text-[12px] text-soft">{name}</dt>
      <dd className={`figure ${big ? "text-[22px]" : "text-[15px]"}`}>{say}</dd>
    </div>
  );
}

/** Where nothing shall move by itself: a pull that was written down, held and let go. */
function Pulled({ document, grade }: { document: BuildDocument; grade: number }) {
  const [pull, setPull] = useState(100);
  const [asked] = useDebounce(pull, 150);
  const { data, error } = useAsked([document, asked, grade, "pulled"], () =>
    tracedPull(document, asked / 100, grade),
  );
  const frames = data?.frames ?? [];
  return (
    <>
      <label className="flex items-center gap-3">
        Pulled to
        <input
          type="range"
          min={1}
          max={100}
          value={pull}
          onChange={(event) => setPull(Number(event.target.value))}
          className="h-11 flex-1 accent-water"
        />
        <span className="figure w-12 text-right">{pull} %</span>
      </label>
      {data ? (
        <>
          <p className="text-soft">
            From rest: pulled after {data.pull_s} s, let go after {data.let_go_s} s.
          </p>
          <Trace frames={frames} spanS={frames.at(-1)?.t_s ?? SPAN_S} label="One pull" />
        </>
      ) : (
        <Waiting error={error} what="Driving it" />
      )}
    </>
  );
}
