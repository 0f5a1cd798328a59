export { CORE_VERSION } from './version.js';
export { CATALOGUE, countsWords, endsTesting, nextStep, say, type Code, type Counts, type Params } from './problems.js';
export {
  decimal,
  decimalText,
  decimalsOf,
  exact,
  brief,
  fixed,
  ratio,
  reported,
  shown,
  significant,
  toStep,
  LONGEST_NUMBER,
  type Exact,
} from './numbers/exact.js';
export { spoken, stopwatch } from './numbers/spoken.js';
export {
  convert,
  convertDifference,
  dimensionOf,
  isUnit,
  offeredUnits,
  keyedText,
  unitLabel,
  unitsOf,
  UNIT_IDS,
  type Dimension,
  type System,
  type UnitId,
  unitNamed,
} from './units/units.js';
export { read, writtenDecimal, type Keyed, type Unread } from './units/reading.js';
export { STACKS, notASieve } from './units/sieves.js';
export { MOST_ROWS } from './methods/definition.js';
export { momentOf } from './time/moment.js';
export type {
  Advice,
  Exchange,
  AnyInputs,
  AnyMethod,
  Citation,
  EventId,
  Field,
  In,
  Method,
  MethodWindow,
  Offer,
  Parameters,
  PickField,
  QtyField,
  ResultField,
  RowsField,
  Shape,
  Source,
  Step,
  Increments,
  Variant,
  Gift,
  Given,
} from './methods/definition.js';
export { lineText, lineWords, type WorkingLine } from './methods/calc.js';
export {
  clock,
  evaluate,
  duration,
  otherVariants,
  variantOf,
  type Evaluation,
  type Events,
  type How,
  type OtherVariant,
  type Validity,
  type ValidityState,
} from './methods/evaluate.js';
export type { Issue } from './methods/check.js';
export { asks } from './methods/asks.js';
export { unitsFor } from './methods/slips.js';
export {
  AGAIN_WORDS,
  causeWords,
  USUAL_ACCEPTANCES,
  USUAL_CORRECTIONS,
  USUAL_EXPLANATIONS,
  USUAL_ON_SITE,
  USUAL_LEAVES,
  USUAL_USES,
  USUAL_VOIDINGS,
} from './record/reasons.js';
export { stepsFor } from './methods/steps.js';
export { FAMILIES, pictureOf, type Family, type Picture } from './methods/families.js';
export type { OnScale, Scene, Thing } from './methods/scene.js';
export type { Figure, ResultValue } from './methods/result.js';
export type { Remark } from './methods/running.js';
export { byOwnCopy, figuresIn, ownFaults, ownWords, withOwn, type OwnFigure, type OwnFigures } from './methods/own-copy.js';
export { METHODS, methodById } from './methods/register.js';
export { PRACTICES, PRACTICE_IDS, usualVariant, type PracticeId } from './methods/practices.js';
export { compare, comparisonStep, COMPARISON_IDS, COMPARISONS, type Compared, type Comparison, type Side } from './limits/compare.js';
export { AT_AN_AGE, limitFits, PROPERTIES, PROPERTY_IDS, propertyOf, type Property } from './limits/properties.js';
export {
  boundsOf,
  judge,
  judgeAll,
  limitWords,
  strictestOf,
  marginWords,
  stateWord,
  verdictOfEach,
  worst,
  type Judged,
  type Limit,
  type Specification,
  type Verdict,
  type VerdictState,
} from './limits/verdict.js';
export { designMass, ticketLines, ticketRemarks, type TicketLine, type TicketRemark } from './judgement/ticket.js';
export { doubtsOn, isDoubtedBeside, otherInstrument, pathOnRecord } from './judgement/doubts.js';
export {
  asksForAnother,
  judgeTurn,
  nextTurn,
  type NextTurn,
  pairWords,
  duplicatesApart,
  testsApart,
  type PairVerdict,
  type PairWords,
  type Tested,
  type Turn,
} from './judgement/pairs.js';
export { guidance, meantWords, offerWords, type Told } from './judgement/guidance.js';
export { standingOf, stateOfTest, type OnRecord } from './judgement/standing.js';
export { furtherThanD2s, oneSigma, PRECISION, type Precision } from './judgement/precision.js';
export { fuse, inOrder, lateWords, left, SAMPLE_WINDOWS, truckWindow, USUAL_TRUCK_MINUTES, type Fuse, type Window } from './time/fuses.js';
export { askedAs, fieldAt, inputsOf, keyedFields, takenInputs, usualInputs, type Readings, type Sources } from './record/sources.js';
export { heapOf, type Heap, type Heaped, type Split } from './record/heap.js';
export { giftsOf, ROW_TAKERS, takenBy, takersAbove, takersBelow, type Giving, type Taking } from './record/gifts.js';
export { kitField, kitFieldId, kitForm } from './record/kit-forms.js';
export {
  CALIBRATION,
  KIT_KINDS,
  KIT_VALUES,
  isWornOut,
  kitMarks,
  unsaidKit,
  unsaidRemark,
  kitOfMethod,
  READS,
  SHELVES,
  type FoundWrong,
  type Kit,
  type KitKind,
} from './record/kit.js';
export { answerText, answerTexts, figureText, powerText } from './record/answer.js';
export { spell, unspell, type Spelled } from './record/spelling.js';
export {
  assemble,
  entryPath,
  fieldOnPath,
  firstRowId,
  flatten,
  isRowPath,
  LEFT_EMPTY,
  withEmpty,
  rowIdAt,
  type EntryInForce,
  type FlatEntry,
  type RowOrder,
} from './record/entries.js';
export {
  codeOf,
  isIssued,
  issuedFrom,
  lettersOf,
  ITEM_KIND_IDS,
  headOf,
  ITEM_KINDS,
  MATERIAL_ROLES,
  PORTION_PARTS,
  mayLieIn,
  type ItemKind,
  type ItemKindDefinition,
  type Subject,
} from './record/items.js';
export { NAME, NOTES, ON, factsForm, isNote, itemShape, knownForm, newForm } from './record/item-forms.js';
export { FRESH_TESTS, testsFor, testsOn, type Asked } from './record/order.js';
export {
  crossCheckAir,
  crossCheckDensity,
  crossCheckSpecimen,
  crossCheckStrength,
  crossCheckYield,
  crossCheckGravities,
  type AirEvidence,
  type Cause,
  type CrossCheck,
  type StrengthEvidence,
} from './judgement/cross-checks.js';
export type { ConeState } from './methods/cone/cone.js';
export { diagnose, SIGN_WORDS, USUAL_WITHIN, type Diagnosis, type Level, type Sign, type Signs } from './judgement/diagnosis.js';
export {
  ageWords,
  breakWindow,
  CERTIFICATE_WORDS,
  daysOf,
  DUE_KINDS,
  dueWords,
  duesOf,
  kitDueWords,
  stepsOf,
  testDue,
  WAIT_FOR_RESULTS,
  type Due,
  type DueItem,
  type DueWords,
} from './time/dues.js';
export { DUE_GROUPS, withinSentence, type DueGroup } from './time/due-groups.js';
export { breaksOf, INSTEAD_WORDS, specimensOf, usualPlan, type AgeWindow, type PlanLine } from './time/breaks.js';
export { fitInto, type Fit } from './time/fit.js';
export { dayWords, spanWords } from './time/moment.js';
export { ageWindow } from './methods/ages/ages.js';
export { consolidation, WAY_WORDS } from './methods/consolidation/consolidation.js';
export { curing, CURING, CURING_PARAMS, initialRange } from './methods/curing/curing.js';
export { moldingsOf, MOLDS, type Mold, type Molding } from './methods/consolidation/molds.js';
export { plan, type Interval, type Plan, type PlanEvent, type PlanLink, type PlannedEvent } from './time/plan.js';
export { shiftOf, type Shift } from './judgement/shift.js';
export {
  againstHistory,
  faultMap,
  GRAVITY_METHODS,
  GRAVITY_PROPERTIES,
  type FaultMap,
  type HistoryByProperty,
} from './methods/source-history/against-history.js';
export { bandOf, type Band } from './methods/gradation/bands.js';
export { statisticsOf } from './methods/acceptance/series-of.js';
export { JOBS, reachOf, type Job, type JobBack } from './time/jobs.js';
export {
  nextRunStep,
  planOf,
  RUN_LABELS,
  runsOn,
  runById,
  runMarks,
  RUNS,
  runSteps,
  STEP_LABELS,
  trialsCountFrom,
  type RunStep,
  type StepDone,
} from './time/runs.js';
export { reduction } from './methods/reduction/reduction.js';
export { shortOf } from './methods/reduction/least-mass.js';
export { MOISTURE_HOLDS_HOURS } from './methods/mix/trial-batch.js';
export { drawLoads, randomLoads } from './methods/sampling-plan/sampling-plan.js';
export { simulatedSeries, simulatedTrace, type Loading } from './simulation/loading.js';
export {
  ACCEPTED_AT_DAYS,
  companionsAsked,
  COMPRESSIVE,
  EARLY_AT_DAYS,
  foundBy,
  NOT_COUNTING,
  strengthTestOf,
  type Broken,
  type NotCounting,
  type OfSet,
  type StrengthTest,
} from './judgement/strength-test.js';
export {
  ageOfLimit,
  FOUND_BY_BREAKING,
  judgeMean,
  strengthLimit,
  type ComparedTest,
  type MeanVerdict,
} from './judgement/strength-limit.js';
export { initialReadingAt, prismRemarks, type PrismFacts } from './methods/length-change/initial.js';
export { LENGTH_CHANGE } from './methods/length-change/length-change.js';
export { CAPS, FRACTURES, padsServe } from './methods/compression/broken.js';
export { adviseAtPress, type AtThePress, type PressAdvice } from './judgement/at-the-press.js';
export { causesOf, remarkWords, seasonOf, type ShiftCause, type Trait, type TraitKind, type Traced } from './judgement/causes.js';
export { askedNext, SCHOOL_IDS, schoolOf, SCHOOLS, type Rule, type School, type SchoolId } from './judgement/schools.js';
export { leftOutWords, movedWords, seriesHeadline, shiftCauseWords, type SeriesHead } from './judgement/series-words.js';
export { figuresOf, seriesView, type SeriesFigure, type SeriesOf, type SeriesTest, type SeriesView } from './judgement/strength-series.js';
export { foretell, foretoldSoFar, type EarlyLate, type Foretold } from './judgement/foretelling.js';
export { oddOneOut, type Seen } from './judgement/low-break.js';
export { evidenceParts } from './judgement/findings/evidence.js';
export { TOLD_OF_LOW } from './judgement/findings/low-strength.js';
export { CONTROL_GRADES } from './methods/acceptance/companions.js';
export { DECISIONS, DECISION_IDS, decisionOn, decisionWords, type Decision, type DecisionId } from './judgement/decisions.js';
export { FINDINGS, findingById, findingsOf } from './judgement/findings/register.js';
export {
  BESIDE,
  FINDING_GRADES,
  isTold,
  pressing,
  stateAt,
  type Evidence,
  type Finding,
  type FindingAcceptance,
  type FindingDefinition,
  type FindingGrade,
  type FindingState,
} from './judgement/findings/finding.js';
export { factWords } from './record/fact-words.js';
export { UNANSWERED } from './judgement/findings/unanswered.js';
export { CORRECTION_AGAIN, staleCorrection } from './judgement/findings/correction.js';
export { STRAYS } from './judgement/findings/source-strays.js';
export { factOf, type Line, type LineItem, type LineTest, type SeriesAt, type TestedWith } from './judgement/findings/line.js';
export { compositeOf } from './judgement/findings/composite.js';
export { chainsOf, speaksOf } from './judgement/findings/pair.js';
export { truckMinutes, truckUntil } from './judgement/findings/time-in-truck.js';
export { waterFor } from './judgement/findings/water-on-site.js';
export { otherSpecimen } from './judgement/findings/other-specimen.js';
export { acceptedOn, schoolOn, strengthsOn } from './judgement/findings/strength.js';
export { fieldShare } from './judgement/findings/field-share.js';
export { gainsNothing } from './judgement/findings/no-gain.js';
export { partOf, STRENGTH_FINDING, type BrokenSpecimen, type StrengthOfSet } from './judgement/strength-of-set.js';
export { acceptedAges, type AcceptedAt } from './judgement/strength-limit.js';
export { gravityDays, massOf, ticketOf, ticketSources, waterAdded, waterSince, type Ticket, type WaterAdded } from './record/ticket.js';
export { clockIn, dayIn } from './time/zone.js';
export { waitsForDecision } from './judgement/strength-test.js';
export { countsFor } from './problems.js';
