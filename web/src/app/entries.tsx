import { type ComponentType, lazy } from "react";
import type { Answer, BuildDocument, MetBrief, Ticked } from "../api/types";
import { missed } from "../workbench/met";

/** What is known of a build when its pages are listed. */
export interface Known {
  document: BuildDocument;
  answer: Answer | null;
  met: MetBrief | undefined;
  plan: Ticked;
  /** What is done of the first time under power. */
  power: Ticked;
}

export interface Open {
  severity: "stop" | "watch";
  say: string;
}

/** One page of a build: a new page is one entry. */
export interface Entry {
  /** Its place in the address, behind the build's. */
  path: string;
  title: string;
  /** The key that goes there, a letter of its title. */
  letter: string;
  page: ComponentType;
  /** Which builds have it. */
  has: (document: BuildDocument) => boolean;
  /** What stands open there. */
  open: (known: Known) => Open | null;
  /** Whether it takes back its own changes, which are none of the build. */
  undoesItself?: boolean;
  /** Whether it fits one screen and scrolls inside. */
  fits?: boolean;
}

const several = (count: number, one: string) => `${count} ${one}`;

/** A list that was begun and not ended. */
const halfDone = ({ done, of = 0 }: Ticked, word: string): Open | null =>
  done.length > 0 && done.length < of
    ? { severity: "watch", say: `${done.length} of ${of} ${word}` }
    : null;

/** Vehicles that had an engine are heavy, or say so. */
const CONVERTED_KG = 300;

const isConversion = (document: BuildDocument): boolean => {
  if (!document.wheel || document.vehicle?.kind !== "ground") return false;
  return document.vehicle.mass_kg >= CONVERTED_KG || Boolean(document.vehicle.replaces);
};

/** In the order of the work. */
export const ENTRIES: Entry[] = [
  {
    path: "brief",
    title: "Brief",
    letter: "i",
    page: lazy(() =>
      import("../features/brief/BriefOfBuild").then((it) => ({ default: it.BriefOfBuild })),
    ),
    has: (document) => Boolean(document.wheel ?? document.propeller),
    open: ({ met }) =>
      missed(met) ? { severity: "watch", say: several(missed(met), "missed") } : null,
    undoesItself: true,
  },
  {
    path: "",
    title: "Bench",
    letter: "b",
    page: lazy(() =>
      import("../features/bench/BenchPage").then((it) => ({ default: it.BenchPage })),
    ),
    has: () => true,
    open: ({ answer }) => {
      const stops = answer?.verdicts.filter((one) => one.severity === "stop").length ?? 0;
      return stops ? { severity: "stop", say: several(stops, "stop") } : null;
    },
    fits: true,
  },
  {
    path: "gearing",
    title: "Gearing",
    letter: "g",
    page: lazy(() =>
      import("../features/gearing/GearingPage").then((it) => ({ default: it.GearingPage })),
    ),
    has: () => true,
    open: ({ plan }) => halfDone(plan, "ridden"),
  },
  {
    path: "controller",
    title: "Controller",
    letter: "o",
    page: lazy(() =>
      import("../features/controller/ControllerPage").then((it) => ({
        default: it.ControllerPage,
      })),
    ),
    has: () => true,
    open: ({ power }) => halfDone(power, "done"),
  },
  {
    path: "conversion",
    title: "Conversion",
    letter: "v",
    page: lazy(() =>
      import("../features/conversion/ConversionPage").then((it) => ({
        default: it.ConversionPage,
      })),
    ),
    has: isConversion,
    open: () => null,
  },
  {
    path: "ride",
    title: "Ride",
    letter: "r",
    page: lazy(() => import("../features/ride/RidePage").then((it) => ({ default: it.RidePage }))),
    has: (document) => Boolean(document.wheel ?? document.propeller),
    open: () => null,
  },
  {
    path: "logbook",
    title: "Logbook",
    letter: "l",
    page: lazy(() =>
      import("../features/logbook/LogbookPage").then((it) => ({ default: it.LogbookPage })),
    ),
    has: (document) => Boolean(document.wheel ?? document.propeller),
    open: () => null,
  },
];
