import said from "../../../core/src/powertrain/terms/terms.json";

/** What things are called, the engine's own list: one wording for both. */
export const TERMS = said;

export type TermId = keyof typeof said;
