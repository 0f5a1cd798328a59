import { methodById, stepsFor } from '@keen-mortar/core';

/** The first thing that the sampling method says, for whoever stands at the chute. */
export const samplingRule = (): string => stepsFor(methodById('composite')!, {})[0]?.text ?? '';
