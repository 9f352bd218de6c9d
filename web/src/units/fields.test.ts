import { describe, expect, test } from "vitest";
import type { FieldInfo } from "../api/types";
import { expected, parsed, written } from "./fields";

const unit = { id: "", sign: "", factor: 1 } as never;
const field = {
  path: "controller.throttle_signal",
  kind: "choices",
  options: ["hall_5v", "resistor"],
} as unknown as FieldInfo;

describe("a field of several choices", () => {
  test("is written in words and read back from them", () => {
    expect(written(["hall_5v", "resistor"], field, unit)).toBe("hall 5v, resistor");
    expect(parsed("Resistor; hall 5V", field, unit)).toEqual(["resistor", "hall_5v"]);
  });

  test("takes nothing else, and says what it takes", () => {
    expect(parsed("rope", field, unit)).toBeUndefined();
    expect(parsed(" ", field, unit)).toBeUndefined();
    expect(expected(field)).toBe("one or more of hall 5v, resistor");
  });
});
