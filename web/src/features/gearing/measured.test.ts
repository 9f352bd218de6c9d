import { expect, test } from "vitest";
import type { MeasuredRunCard } from "../../api/types";
import { measuredRungs } from "./useMeasuredRungs";

const run = (teeth: number[][], ...observations: object[]) =>
  ({ teeth, run: { observations } }) as unknown as MeasuredRunCard;

test("a rung is marked with the last top speed that was measured on the level with its teeth", () => {
  const found = measuredRungs(
    [
      run([[16, 60]], { kind: "top_speed", speed_kmh: 33 }),
      run([[16, 60]], { kind: "top_speed", speed_kmh: 34 }, { kind: "free", motor_rpm: 3000 }),
      run([[17, 60]], { kind: "top_speed", speed_kmh: 20, grade_pct: 4 }),
      run(
        [
          [18, 60],
          [10, 44],
        ],
        { kind: "top_speed", speed_kmh: 40 },
      ),
    ],
    1,
  );
  expect(found).toEqual([{ teeth: "16 to 60", speedKmh: 34 }]);
});
