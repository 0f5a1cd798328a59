/** Tests of fresh concrete in the order of the work: temperature and slump first, density and air from one bowl. */
export const FRESH_TESTS: readonly string[] = ['temperature', 'slump', 'yield', 'pressure-air'];
