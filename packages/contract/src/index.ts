export { DEMONSTRATION } from './demonstration.js';
export { computeBody, inputsSchema, moment } from './inputs.js';
export { fault, problem, type Fault, type Problem } from './problem.js';
export {
  keep,
  keptReading,
  keying,
  newLoad,
  newPour,
  newSample,
  newSampleEvent,
  newTest,
  newWater,
  newFile,
  LONGEST_TEXT,
  type FileInfo,
  type SentTest,
  type Around,
  type GivenTo,
  type HistoryPoint,
  type Keep,
  type KeepAnswer,
  type Kept,
  type Load,
  type Mark,
  type NewLoad,
  type NewPour,
  type NewSample,
  type NewSampleEvent,
  type NewTest,
  type Person,
  type Pour,
  type PourDetail,
  type Reading,
  type Sample,
  type Sheet,
  type SampleEvent,
  type SampleEventKind,
  type SampleSummary,
  type SourceSheet,
  type Trend,
  type TrendPoint,
  type Test,
  type WaterAddition,
} from './resources.js';
export {
  isStale,
  newAcceptance,
  newLook,
  newMeeting,
  newMix,
  newProject,
  newRevision,
  newSpecification,
  type Accepted,
  type FoundBy,
  type Ingredient,
  type Look,
  type MaterialRole,
  type Mix,
  type MixHead,
  type MixesPage,
  type MixSheet,
  type NewIngredient,
  type NewAcceptance,
  type NewLook,
  type NewMeeting,
  type NewMix,
  type NewRevision,
  type NewSpecification,
  type Project,
  type SourceNow,
  type Revision,
  type Specification,
} from './office.js';
export {
  newCalibration,
  newEquipment,
  newKitFinding,
  type Calibration,
  type Equipment,
  type KitFinding,
  type KitSheet,
  type KitTest,
  type NewKitFinding,
  type WorkedValue,
} from './kit.js';
export { newOwnCopy, ownCopyAt, type NewOwnCopy, type OwnCopy, type OwnOfTest } from './own-copies.js';
export { type Amount } from './quantities.js';
export { airFreeOf, designOf, type Recipe } from './design.js';
export { acceptanceBy, acceptancesBy, givenBy, givenByMix, happenedOn, loadView, strengthAsked, type Acceptance } from './views.js';
export { dayIn } from './zone.js';
export { day, name, type Page } from './parts.js';
export { newItem, voiding, type Item, type NewItem, type Voiding } from './items.js';
export { doubtsOfLoad, loadOnLine } from './loads.js';
export { batchOf, recipeOf, type FoundOfSource, revisionAt } from './batch.js';
export { samplingRule } from './composite.js';
export {
  decisionTried,
  type DecisionTried,
  type DecisionEffect,
  type SeriesChange,
  decisionView,
  findingView,
  newDecision,
  newWithdrawal,
  type DecisionsPage,
  type DecisionView,
  type FindingView,
  type NewDecision,
  type SeriesCourse,
} from './findings.js';
export { fillingOf, type Filling } from './filling.js';
export {
  askedOf,
  entriesOf,
  eventsOf,
  inForce,
  lastOf,
  situation,
  sourcesFor,
  type Entry,
  type InForce,
  type Situation,
} from './situation.js';
export {
  LEDGER_COUNTED,
  ledgerFilter,
  ledgerQuery,
  newView,
  removal,
  type LedgerCounts,
  type LedgerFilter,
  type LedgerPage,
  type LedgerQuery,
  type LedgerRow,
  type LedgerView,
  type NewView,
  type TestTurn,
} from './ledger.js';
export { newReport, reportCode, reportScope, type NewReport, type Report, type ReportScope } from './reports.js';
export {
  IMPORT_IDS,
  importTable,
  MOST_LINES,
  newImport,
  type ImportAnswer,
  type ImportColumn,
  type ImportTable,
  type ImportWhat,
  type NewImport,
  type RecordTaken,
} from './imports.js';
export {
  BENCH_AHEAD_DAYS,
  newHours,
  newPlanned,
  newSet,
  USUAL_WEEK,
  type BenchRun,
  type BenchView,
  type DayThing,
  type DayView,
  type Hours,
  type NewHours,
  type NewPlanned,
  type NewSet,
} from './day.js';
export {
  instrumentCommand,
  type Instrument,
  type InstrumentAnswer,
  type InstrumentCommand,
  type InstrumentReading,
  type TracePoint,
} from './instruments.js';
export { liveMessage, type LiveMessage } from './live.js';
export { newCertificate, newDevice, newPerson, type Certificate, type DeviceCodes, type NewCertificate } from './people.js';
export type { StrengthTestView } from './strengths.js';
export type { BreakBeside, BreakDue, BreaksView, BrokeToday, Companion, CuringPlace, StrengthPair } from './breaks.js';
export type { FieldCured, MixSeries, SeriesLine, StillToBreak, WholeSeries } from './series.js';
export { adviceOf, isForAcceptance, oddOf } from './telling.js';
