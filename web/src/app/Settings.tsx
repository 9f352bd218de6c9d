import { Popover } from "radix-ui";
import { Link } from "react-router";
import { Button } from "../ui/Button";
import { turnKeys, useKeysOn } from "../ui/keys";
import { useUnits } from "../units/preferences";
import { imperialChoice, QUANTITIES, type QuantityId, unitOf } from "../units/quantities";
import { chooseTheme, useTheme } from "./theme";

/** Units and theme, wherever one is. */
export function Settings() {
  const { choice, choose } = useUnits();
  const theme = useTheme();
  const keys = useKeysOn();
  const money = choice.currency ? { currency: choice.currency } : {};
  const sign = (id: QuantityId) => unitOf(id, choice).sign;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button kind="plain">
          <span className="sr-only">Units and theme: </span>
          <span>
            {sign("speed")}
            <span className="hidden sm:inline">
              {" "}
              · {sign("torque")} · {sign("mass")}
            </span>
          </span>
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 w-72 rounded-lg border border-line bg-raised p-4 text-[13px] shadow-lg"
        >
          <div className="mb-3 flex gap-2">
            <Button onClick={() => choose(money)}>Metric</Button>
            <Button onClick={() => choose({ ...imperialChoice(), ...money })}>Imperial</Button>
          </div>
          <div className="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1.5">
            {(Object.keys(QUANTITIES) as QuantityId[]).map((id) => (
              <label key={id} className="contents">
                <span>{QUANTITIES[id].name}</span>
                <select
                  className="rounded border border-line bg-paper px-1 py-0.5"
                  value={unitOf(id, choice).id}
                  onChange={(event) => choose({ ...choice, [id]: event.target.value })}
                >
                  {QUANTITIES[id].units.map((unit) => (
                    <option key={unit.id} value={unit.id}>
                      {unit.sign}
                    </option>
                  ))}
                </select>
              </label>
            ))}
            <label className="contents">
              <span>Money</span>
              <input
                value={choice.currency ?? ""}
                maxLength={4}
                placeholder="none"
                onChange={(event) => choose({ ...choice, currency: event.target.value.trim() })}
                className="w-16 rounded border border-line bg-paper px-1 py-0.5 placeholder:text-soft"
              />
            </label>
          </div>
          <div className="mt-4 flex gap-2 border-t border-line pt-3">
            <Button onClick={() => chooseTheme("light")} aria-pressed={theme === "light"}>
              Day
            </Button>
            <Button onClick={() => chooseTheme("dark")} aria-pressed={theme === "dark"}>
              Night
            </Button>
          </div>
          <label className="mt-3 flex min-h-11 items-center gap-2 border-t border-line pt-3 sm:min-h-0">
            <input
              type="checkbox"
              checked={keys}
              onChange={(event) => turnKeys(event.target.checked)}
              className="size-4 accent-water"
            />
            Single letters and digits are keys
          </label>
          <p className="mt-3 border-t border-line pt-3">
            <Popover.Close asChild>
              <Link to="/kept" className="flex min-h-11 items-center text-water sm:min-h-6">
                What is kept, and all of it as a file
              </Link>
            </Popover.Close>
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
