import type {
  Answer,
  BuildDocument,
  FieldInfo,
  KindName,
  MomentAnswer,
  MomentId,
  PartId,
  Verdict,
} from "../../api/types";
import { digits } from "../../units/format";

/** A part that can be opened, with the sections of the document that its bank shows. */
export interface PartInfo {
  id: PartId;
  title: string;
  sections: string[];
}

export const PARTS: PartInfo[] = [
  { id: "pack", title: "Pack", sections: ["battery"] },
  { id: "controller", title: "Controller", sections: ["controller", "wiring"] },
  { id: "motor", title: "Motor", sections: ["motor"] },
  { id: "gearing", title: "Gearing", sections: ["gearing"] },
  { id: "wheel", title: "Wheel", sections: ["wheel"] },
  { id: "vehicle", title: "Vehicle and trip", sections: ["vehicle", "conditions", "moments"] },
];

const CHEMISTRY: Record<BuildDocument["battery"]["chemistry"], string> = {
  lipo: "LiPo",
  li_ion: "Li-ion",
  lifepo4: "LiFePO₄",
  lead_acid: "lead-acid",
  nimh: "NiMH",
};

/** What a part is called, in the words of what is moved. */
export const partTitle = (part: PartId, answer: Answer | null): string =>
  answer?.load.parts[part] ?? PARTS.find((item) => item.id === part)?.title ?? "";

/** The sections of the document that a part's bank shows: what is turned has one of its own. */
export const sectionsOf = (part: PartId, document: BuildDocument): string[] =>
  part === "wheel" && document.propeller
    ? ["propeller"]
    : part === "wheel" && !document.wheel
      ? ["vehicle"]
      : (PARTS.find((item) => item.id === part)?.sections ?? []);

/** What is asked of one kind of vehicle alone. */
const MOMENTS_OF: Record<string, string> = {
  "moments.climb_angle_deg": "aircraft",
  "moments.climb_ms": "aircraft",
  "moments.climb_grade_pct": "ground",
  "moments.climb_speed_kmh": "ground",
  "moments.climb_length_m": "ground",
};

/** Whether a document's part is of a kind that has a field; a stage says for itself. */
export function isOfKind(field: FieldInfo, document: BuildDocument): boolean {
  const parts: Record<string, string> = {
    motor: document.motor.kind,
    vehicle: document.vehicle.kind,
  };
  const only = MOMENTS_OF[field.path];
  if (only && only !== document.vehicle.kind) return false;
  const kind = parts[field.section];
  return kind === undefined || field.kinds.length === 0 || field.kinds.includes(kind);
}

const INCH_MM = 25.4;

/** A propeller's size as it is printed on it. */
const sizeOf = ({ diameter_mm, pitch_mm }: { diameter_mm: number; pitch_mm: number }) =>
  `${Number((diameter_mm / INCH_MM).toFixed(1))} x ${Number((pitch_mm / INCH_MM).toFixed(1))}`;

/** What a part is, in a few words: its name if it has one. */
export function partLine(
  part: PartId,
  document: BuildDocument,
  motorKinds: KindName[],
  load: Answer["load"],
): string {
  const { battery, controller, motor, gearing, wheel, propeller } = document;
  switch (part) {
    case "pack":
      return (
        battery.name ??
        `${battery.series}S${battery.parallel ?? 1}P ${CHEMISTRY[battery.chemistry]}`
      );
    case "controller":
      return controller.name ?? "unnamed";
    case "motor":
      return motor.name ?? kindLabel(motorKinds, motor.kind);
    case "gearing":
      if (gearing.length) return gearing.map((s) => s.kind).join(", ");
      return wheel ? "hub motor, no gearing" : "straight on the shaft";
    case "wheel":
      return wheel?.name ?? (propeller ? propeller.name || sizeOf(propeller) : load.unnamed);
    case "vehicle":
      return `${digits(document.vehicle.mass_kg)} kg ${load.weighs}`;
  }
}

/** What people call a kind of motor. */
export const kindLabel = (kinds: KindName[], kind: string): string =>
  kinds.find((one) => one.kind === kind)?.label ?? "";

/** The part whose bank holds a document path. */
export const partOfPath = (path: string): PartId =>
  path.startsWith("propeller.")
    ? "wheel"
    : (PARTS.find((part) => part.sections.includes(path.split(".")[0] ?? ""))?.id ?? "vehicle");

export const momentOf = (answer: Answer, id: MomentId): MomentAnswer =>
  answer.moments.find((moment) => moment.id === id) ?? (answer.moments[0] as MomentAnswer);

export function worstSeverity(verdicts: Verdict[], part: PartId): Verdict["severity"] | null {
  const own = verdicts.filter((verdict) => verdict.part === part);
  return own.length ? (own[0] as Verdict).severity : null;
}
