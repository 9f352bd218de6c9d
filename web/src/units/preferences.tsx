import { createContext, type ReactNode, useContext, useMemo, useState } from "react";
import { chosen, difference, digits, type Shown, shown } from "./format";
import { type QuantityId, type UnitChoice, unitOf } from "./quantities";

const KEPT_AS = "young-torrent.units";

interface Units {
  choice: UnitChoice;
  choose: (choice: UnitChoice) => void;
  show: (value: number, quantity: QuantityId, significant?: number) => Shown;
  text: (value: number, quantity: QuantityId, significant?: number) => string;
  /** An amount of money with the user's sign, whole above ten. */
  money: (value: number) => string;
  delta: (now: number, before: number, quantity: QuantityId, significant?: number) => string | null;
}

const Context = createContext<Units | null>(null);

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [choice, setChoice] = useState<UnitChoice>(read);
  const units = useMemo<Units>(() => {
    const show = (value: number, quantity: QuantityId, significant?: number) =>
      shown(value, quantity, choice, significant);
    return {
      choice,
      choose: (next) => {
        setChoice(next);
        localStorage.setItem(KEPT_AS, JSON.stringify(next));
      },
      show,
      text: (value, quantity, significant) => {
        const { text, sign } = show(value, quantity, significant);
        return `${text} ${sign}`;
      },
      money: (value) => {
        const sign = choice.currency ?? "";
        const said = value >= 10 ? chosen(Math.round(value), 7) : digits(value);
        return sign.length > 1 ? `${said} ${sign}` : `${sign}${said}`;
      },
      delta: (now, before, quantity, significant) =>
        difference(now, before, unitOf(quantity, choice), significant),
    };
  }, [choice]);
  return <Context.Provider value={units}>{children}</Context.Provider>;
}

function read(): UnitChoice {
  try {
    return JSON.parse(localStorage.getItem(KEPT_AS) ?? "{}") as UnitChoice;
  } catch {
    return {};
  }
}

export function useUnits(): Units {
  const units = useContext(Context);
  if (units === null) throw new Error("useUnits needs a UnitsProvider");
  return units;
}
