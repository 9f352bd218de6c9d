import { expect, test } from "vitest";
import type { Answer } from "../../api/types";
import { warm, warmthsOf } from "./heat";

const moment = (id: string, winding: object) => ({
  id,
  during: id === "climb" ? "climbing" : id,
  heat: { winding: { to_limit_s: null, ...winding }, case: { after_c: 40, to_limit_s: null } },
  bands: {},
});

const ANSWER = {
  heat_limits: { winding: { value_c: 105 }, case: { value_c: 65 } },
  moments: [
    moment("climb", { after_c: null, burnt_after_s: 12, to_limit_s: 4 }),
    moment("cruise", { after_c: 60, burnt_after_s: null }),
    moment("top_speed", { after_c: 90, burnt_after_s: null }),
  ],
} as unknown as Answer;

test("copper that burns has no temperature, and that moment is the worst", () => {
  const [winding] = warmthsOf(ANSWER, "motor", "climb", 20);
  expect(winding).toMatchObject({ nowC: null, burntS: 12, worst: "climbing", worstC: null });
  expect(winding?.worstShare).toBe(Number.POSITIVE_INFINITY);
  expect(warmthsOf(ANSWER, "motor", "cruise", 20)[0]).toMatchObject({ nowC: 60, burntS: null });
});

test("a temperature is said in degrees, what is burnt by when", () => {
  const degrees = (c: number) => `${c} \u00b0C`;
  expect(warm(60, null, degrees)).toBe("60 \u00b0C");
  expect(warm(null, 12, degrees)).toBe("burnt after 12 s");
});
