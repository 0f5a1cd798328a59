import { composite } from './composite/composite.js';
import { consolidation } from './consolidation/consolidation.js';
import type { AnyMethod } from './definition.js';
import { density } from './density/density.js';
import { gravimetricAir } from './density/gravimetric.js';
import { leastMeasure, rodding } from './density/measures.js';
import { theoreticalDensity } from './density/theoretical.js';
import { yieldMethod } from './density/yield.js';
import { aciAcceptance, coreAcceptance, enAcceptance, isAcceptance } from './acceptance/acceptance.js';
import { isRequiredAverage } from './acceptance/is-required-average.js';
import { requiredAverage } from './acceptance/required-average.js';
import { strengthStatistics } from './acceptance/statistics.js';
import { companions, controlGrade } from './acceptance/companions.js';
import { ageWindow, soakStart } from './ages/ages.js';
import { cube, cubeSet, cylinder } from './compression/compression.js';
import { curing } from './curing/curing.js';
import { storage } from './curing/storage.js';
import { earlyWarning } from './early-warning/early-warning.js';
import { flexure } from './flexure/flexure.js';
import { gradingBand } from './gradation/grading-band.js';
import { combinedGrading } from './gradation/combined-grading.js';
import { gradation } from './gradation/gradation.js';
import { halfCell } from './half-cell/half-cell.js';
import { halfCellMap } from './half-cell/half-cell-map.js';
import { lengthChange } from './length-change/length-change.js';
import { lengthSeries } from './length-change/series.js';
import { lengthSchedule } from './length-change/schedule.js';
import { absoluteVolume } from './mix/absolute-volume.js';
import { actualWcm } from './mix/actual-wcm.js';
import { timeInTruck } from './mix/time-in-truck.js';
import { waterOnSite } from './mix/water-on-site.js';
import { moistureCorrection } from './mix/moisture-correction.js';
import { proportions } from './mix/proportions.js';
import { trialBatch } from './mix/trial-batch.js';
import { constantHead } from './permeability/constant-head.js';
import { fallingHead } from './permeability/falling-head.js';
import { reboundStrength } from './rebound/correlation.js';
import { rebound } from './rebound/rebound.js';
import { reboundUniformity } from './rebound/uniformity.js';
import { loadingRate } from './loading-rate/loading-rate.js';
import { randomLoads, samplingFrequency } from './sampling-plan/sampling-plan.js';
import { sourceHistory } from './source-history/source-history.js';
import { machineRate, splitting } from './splitting/splitting.js';
import { bulkDensity, measureCalibration } from './bulk-density/bulk-density.js';
import { coarseGravity, combinedGravity } from './coarse-gravity/coarse-gravity.js';
import { cone } from './cone/cone.js';
import { constantMass } from './moisture/constant-mass.js';
import { fineGravity, flaskCorrection } from './fine-gravity/fine-gravity.js';
import { leastMass } from './reduction/least-mass.js';
import { reduction } from './reduction/reduction.js';
import { splitter } from './reduction/splitter.js';
import { reductionTree } from './reduction/tree.js';
import { moisture } from './moisture/moisture.js';
import { workability } from './workability/workability.js';
import { wash } from './wash/wash.js';
import { compactionFactor } from './compaction-factor/compaction-factor.js';
import { correctionFactor } from './pressure-air/correction-factor.js';
import { pressureAir } from './pressure-air/pressure-air.js';
import { wetSievedAir } from './pressure-air/wet-sieved.js';
import { slumpFlow } from './slump-flow/slump-flow.js';
import { frustum, waterDensityMethod } from './volumes/volumes.js';
import { volumetricAir } from './volumetric-air/volumetric-air.js';
import { slumpClass, slumpLimits } from './slump/limits.js';
import { slump } from './slump/slump.js';
import { temperature } from './temperature/temperature.js';

/** Every method, in the order of the work. A new method is a folder and a line here. */
export const METHODS: readonly AnyMethod[] = [
  samplingFrequency,
  randomLoads,
  composite,
  timeInTruck,
  temperature,
  slump,
  slumpLimits,
  slumpClass,
  workability,
  slumpFlow,
  compactionFactor,
  consolidation,
  density,
  yieldMethod,
  gravimetricAir,
  theoreticalDensity,
  leastMeasure,
  rodding,
  pressureAir,
  correctionFactor,
  wetSievedAir,
  volumetricAir,
  frustum,
  waterDensityMethod,
  leastMass,
  reduction,
  reductionTree,
  splitter,
  constantMass,
  moisture,
  wash,
  coarseGravity,
  cone,
  fineGravity,
  flaskCorrection,
  combinedGravity,
  sourceHistory,
  bulkDensity,
  measureCalibration,
  gradation,
  gradingBand,
  combinedGrading,
  absoluteVolume,
  proportions,
  moistureCorrection,
  actualWcm,
  waterOnSite,
  trialBatch,
  curing,
  storage,
  ageWindow,
  soakStart,
  cylinder,
  cube,
  cubeSet,
  loadingRate,
  splitting,
  machineRate,
  flexure,
  aciAcceptance,
  coreAcceptance,
  enAcceptance,
  isAcceptance,
  requiredAverage,
  isRequiredAverage,
  strengthStatistics,
  companions,
  controlGrade,
  earlyWarning,
  rebound,
  reboundStrength,
  reboundUniformity,
  halfCell,
  halfCellMap,
  lengthChange,
  lengthSeries,
  lengthSchedule,
  constantHead,
  fallingHead,
];

const byId = new Map(METHODS.map((m) => [m.id, m]));

export const methodById = (id: string): AnyMethod | undefined => byId.get(id);
