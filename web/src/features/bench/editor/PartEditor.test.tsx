import { cleanup, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { BuildDocument } from "../../../api/types";
import { drawn, serverAnswers } from "../../../testing";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { PartEditor } from "./PartEditor";

const NAMES = ["Rolls", "Wheel mass", "Spokes", "Rim", "Hub", "Axle", "Bearings", "Valve"];

const FIELDS = NAMES.map((label, place) => ({
  path: `wheel.value_${place}`,
  section: "wheel",
  group: "",
  label,
  explain: "",
  kind: "number",
  unit: "mm",
  required: place === 0,
  kinds: [],
  options: [],
}));

let set: (document: BuildDocument) => void;

/** The bank of a wheel of which `filled` values are said. */
function Bank({ filled }: { filled: number }) {
  const said = Object.fromEntries(NAMES.slice(0, filled).map((_, at) => [`value_${at}`, 10 + at]));
  const [document, setDocument] = useState({
    motor: { kind: "permanent_magnet" },
    vehicle: { kind: "ground" },
    wheel: said,
  } as unknown as BuildDocument);
  set = setDocument;
  const state = { document, refused: null } as unknown as BenchState;
  const bench = { act: vi.fn(), clearRefusal: vi.fn() } as unknown as Workbench;
  return <PartEditor part="wheel" bench={bench} state={state} onClose={vi.fn()} />;
}

beforeEach(() => {
  serverAnswers(() => ({ data: { fields: FIELDS } }));
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

test("what is filled in stays where the hand is, and the fold open, however much it is", async () => {
  drawn(<Bank filled={5} />);
  const fold = (await screen.findByText("3 more, not filled in")).closest("details");
  expect(fold?.open).toBe(true);
  const field = screen.getByLabelText("Axle");
  field.focus();
  const wheel = Object.fromEntries(NAMES.slice(0, 6).map((_, at) => [`value_${at}`, 10 + at]));
  set({
    motor: { kind: "permanent_magnet" },
    vehicle: { kind: "ground" },
    wheel,
  } as unknown as BuildDocument);
  expect(await screen.findByText("3 more, 1 filled in")).toBe(fold?.querySelector("summary"));
  expect(fold?.open).toBe(true);
  expect(document.activeElement).toBe(field);
  expect((field as HTMLInputElement).value).toBe("15");
});

test("opened again, what is filled in stands with the others", async () => {
  drawn(<Bank filled={6} />);
  const fold = (await screen.findByText("2 more, not filled in")).closest("details");
  expect(fold?.open).toBe(false);
  expect(fold?.contains(screen.getByLabelText("Axle"))).toBe(false);
});
