export { CORE_VERSION } from './version.js';
export { CATALOGUE, say, type Code, type Params } from './problems.js';
export {
  decimal,
  decimalsOf,
  exact,
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
  unitLabel,
  unitsOf,
  UNIT_IDS,
  type Dimension,
  type System,
  type UnitId,
} from './units/units.js';
export { read, type Keyed, type ReadFault } from './units/reading.js';
export type {
  Advice,
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
  Steps,
  Variant,
} from './methods/definition.js';
export type { WorkingLine } from './methods/calc.js';
export {
  clock,
  evaluate,
  otherSchools,
  variantOf,
  type Evaluation,
  type Events,
  type How,
  type School,
  type Validity,
  type ValidityState,
} from './methods/evaluate.js';
export type { Issue } from './methods/check.js';
export type { Figure, ResultValue } from './methods/result.js';
export type { Remark } from './methods/running.js';
export { METHODS, methodById } from './methods/register.js';
export { PRACTICES, PRACTICE_IDS, usualVariant, type PracticeId } from './methods/practices.js';
export { compare, comparisonStep, type Compared, type ComparisonSchool, type Side } from './limits/compare.js';
export {
  boundsOf,
  judge,
  judgeAll,
  judgePair,
  marginWords,
  worst,
  type Judged,
  type Limit,
  type PairVerdict,
  type Specification,
  type Verdict,
  type VerdictState,
} from './limits/verdict.js';
export { furtherThanD2s, oneSigma, PRECISION, type Precision } from './judgement/precision.js';
export { fuse, inOrder, left, SAMPLE_WINDOWS, truckWindow, type Fuse, type Window } from './time/fuses.js';
export { fieldAt, inputsOf, keyedFields, usualInputs, type Readings, type Sources } from './record/sources.js';
export { CALIBRATION, KIT_FOR, kitMarks, type Kit, type KitKind } from './record/kit.js';
export { answerText, answerTexts, figureText } from './record/answer.js';
export { spell, unspell, type Spelled } from './record/spelling.js';
export { FRESH_TESTS } from './record/order.js';
export {
  crossCheckAir,
  crossCheckDensity,
  crossCheckSpecimen,
  crossCheckStrength,
  crossCheckYield,
  gravitiesFit,
  type AirEvidence,
  type Cause,
  type CrossCheck,
  type StrengthEvidence,
} from './judgement/cross-checks.js';
export type { ConeState } from './methods/cone/cone.js';
export { diagnose, type Diagnosis, type Level, type Sign, type Signs } from './judgement/diagnosis.js';
export { plan, type Interval, type Plan, type PlanEvent, type PlanLink, type PlannedEvent } from './time/plan.js';
export { againstBand } from './methods/gradation/against-band.js';
export { bandOf } from './methods/gradation/bands.js';
export { statisticsOf } from './methods/acceptance/series-of.js';
export { JOBS, reachOf, type Job } from './time/jobs.js';
export { drawLoads } from './methods/sampling-plan/sampling-plan.js';
export { simulatedSeries, simulatedTrace, type Loading } from './simulation/loading.js';
