import type { components, operations } from "./generated/schema";

type Schemas = components["schemas"];

export type BuildDocument = Schemas["Build"];
export type BuildAnswer = Schemas["BuildAnswer"];
export type BuildCard = Schemas["BuildCard"];
export type BuildFigures = Schemas["BuildFigures"];
export type UpkeepAnswer = Schemas["UpkeepAnswer"];
export type Policy = Schemas["PolicyRequest"];
export type ArchiveTold = Schemas["ArchiveTold"];
export type ShelfNames = Schemas["ShelfNames"];
export type RemovedCard = Schemas["RemovedCard"];
export type ArchetypeCard = Schemas["ArchetypeCard"];
export type VersionCard = Schemas["VersionCard"];
export type Change = Schemas["Change"];
export type SolveAnswer = Schemas["SolveAnswer"];
export type Answer = Schemas["Answer"];
export type MomentAnswer = Schemas["MomentAnswer"];
export type MomentId = MomentAnswer["id"];
export type StateAnswer = Schemas["StateAnswer"];
export type MapAnswer = Schemas["MapAnswer"];
export type Crossing = Schemas["Crossing"];
export type Gauge = Schemas["Gauge"];
export type Verdict = Schemas["Verdict"];
export type Lever = Schemas["Lever"];
export type PartId = Lever["part"];
export type FieldInfo = Schemas["FieldInfo"];
export type KindName = Schemas["KindName"];
export type Provenance = Schemas["Provenance"];
export type Operation =
  | Schemas["Press"]
  | Schemas["SetValues"]
  | Schemas["Describe"]
  | Schemas["Learn"]
  | Schemas["Turn"];
export type Board = Schemas["Board"];
export type BoardRow = Schemas["Row"];
export type DoubtAnswer = Schemas["DoubtAnswer"];
export type Weak = Schemas["Weak"];
export type FigureId = keyof DoubtAnswer["figures"] & string;
export type Band = MomentAnswer["bands"][string];
export type Facts = Schemas["Facts"];
export type IdentifyAnswer = Schemas["IdentifyAnswer"];
export type Identified = Schemas["Identified"];
export type ErrorAnswer = Schemas["ErrorAnswer"];
export type BriefDocument = Schemas["Brief"];
export type BriefAnswer = Schemas["BriefAnswer"];
export type BriefCard = Schemas["BriefCard"];
export type StartBrief = Schemas["StartBrief"];
export type MatchProgress = Schemas["MatchProgress"];
export type MatchAnswer = Schemas["MatchAnswer"];
export type MatchResult = Schemas["Result"];
export type Margin = Schemas["Margin"];
export type Shelf = Schemas["Shelf"];
export type PartsTable = Schemas["PartsTable"];
export type PartRow = Schemas["PartRow"];
export type PartColumn = Schemas["PartColumn"];
export type PartAnswer = Schemas["PartAnswer"];
export type PartKind = operations["look"]["parameters"]["path"]["kind"];
export type Listing = Schemas["Listing"];
export type BroughtIn = Schemas["BroughtIn"];
export type CompareAnswer = Schemas["CompareAnswer"];
export type CompareRow = Schemas["CompareRow"];
export type Candidate = Schemas["Candidate"];
export type Terms = Schemas["Terms"];
export type BaselineAnswer = Schemas["BaselineAnswer"];
export type LadderAnswer = Schemas["LadderAnswer"];
export type Rung = Schemas["Rung"];
export type RunsAnswer = Schemas["RunsAnswer"];
export type ChartAnswer = Schemas["ChartAnswer"];
export type WindingsAnswer = Schemas["WindingsAnswer"];
export type OvervoltAnswer = Schemas["OvervoltAnswer"];
export type RoadsAnswer = Schemas["RoadsAnswer"];
export type SplitAnswer = Schemas["SplitAnswer"];
export type BoostAnswer = Schemas["BoostAnswer"];
export type WhyAnswer = Schemas["WhyAnswer"];
export type MetBrief = Schemas["MetBrief"];
