import { describe, expect, test } from "vitest";
import type { FieldInfo } from "../../api/types";
import { valueAt, withValue } from "../../ui/paths";
import { fieldsFor, known, originOf, sizesOf, sizesText } from "./draft";

const motor = { name: "Blue can", motor: { kind: "permanent_magnet", kv_rpm_per_v: 790 } };

const field = (path: string, more: Partial<FieldInfo> = {}): FieldInfo => ({
  path,
  section: path.split(".")[0] ?? "",
  group: "",
  label: path,
  unit: "",
  explain: "",
  kind: "number",
  options: [],
  required: false,
  kinds: [],
  ...more,
});

describe("a part's document as it is edited", () => {
  test("values go in by their place, and out again, without touching the one before", () => {
    const wound = withValue(motor, "motor.thermal.winding_k_per_w", 2.5);
    expect(valueAt(wound, "motor.thermal.winding_k_per_w")).toBe(2.5);
    expect(valueAt(motor, "motor.thermal")).toBeUndefined();
    expect(valueAt(withValue(wound, "motor.kv_rpm_per_v", null), "motor.kv_rpm_per_v")).toBe(
      undefined,
    );
    expect(valueAt(motor, "battery.series")).toBeUndefined();
  });

  test("how a value is known is said beside it and taken back", () => {
    const said = known(motor, "motor.kv_rpm_per_v", "measured");
    expect(originOf(said, "motor.kv_rpm_per_v")).toBe("measured");
    expect(originOf(known(said, "motor.kv_rpm_per_v", null), "motor.kv_rpm_per_v")).toBe("");
  });

  test("what is needed or said comes first, and a motor is asked only what its kind has", () => {
    const fields = [
      field("name", { kind: "text" }),
      field("motor.name", { kind: "text" }),
      field("motor.kv_rpm_per_v", { kinds: ["permanent_magnet"], required: true }),
      field("motor.base_rpm", { kinds: ["packaged"], required: true }),
      field("motor.mass_kg"),
    ];
    const [first, rest] = fieldsFor(fields, motor);
    expect(first.map((one) => one.path)).toEqual(["motor.kv_rpm_per_v"]);
    expect(rest.map((one) => one.path)).toEqual(["motor.mass_kg"]);
  });
});

describe("sizes of a range of toothed wheels", () => {
  const sizes = [
    { teeth: 11, mass_kg: 0.02, price: 3 },
    { teeth: 13, mass_kg: 0.03, price: 4 },
  ];

  test("are written as their teeth, and a size that stays keeps what is known of it", () => {
    expect(sizesText(sizes)).toBe("11 13");
    expect(sizesOf("13, 12 11 13", sizes)).toEqual([sizes[0], { teeth: 12 }, sizes[1]]);
  });

  test("are whole numbers", () => {
    expect(sizesOf("11 twelve", sizes)).toBeNull();
    expect(sizesOf("", sizes)).toEqual([]);
  });
});
