import { composite } from './composite/composite.js';
import { consolidation } from './consolidation/consolidation.js';
import type { AnyMethod } from './definition.js';
import { density } from './density/density.js';
import { gravimetricAir } from './density/gravimetric.js';
import { leastMeasure, rodding } from './density/measures.js';
import { theoreticalDensity } from './density/theoretical.js';
import { yieldMethod } from './density/yield.js';
import { correctionFactor } from './pressure-air/correction-factor.js';
import { pressureAir } from './pressure-air/pressure-air.js';
import { slumpClass, slumpLimits } from './slump/limits.js';
import { slump } from './slump/slump.js';
import { temperature } from './temperature/temperature.js';

/** Every method, in the order of the work. A new method is a folder and a line here. */
export const METHODS: readonly AnyMethod[] = [
  composite,
  temperature,
  slump,
  slumpLimits,
  slumpClass,
  consolidation,
  density,
  yieldMethod,
  gravimetricAir,
  theoreticalDensity,
  leastMeasure,
  rodding,
  pressureAir,
  correctionFactor,
];

const byId = new Map(METHODS.map((m) => [m.id, m]));

export const methodById = (id: string): AnyMethod | undefined => byId.get(id);
