import { at, type Entry } from './words.js';

/** Cross-checks between tests, and their likely causes: offered, never a verdict. */
export const CHECKS = {
  'airs-disagree': {
    says: (p) => `Pressure and gravimetric air are ${at(p, 'apart')} points apart, more than ${at(p, 'within')}: one of the two is wrong.`,
    next: 'Look at the causes below, the likeliest first, and repeat the test that is in doubt.',
  },
  'cause-stale-theoretical': {
    says: (p) =>
      p['days'] === undefined
        ? 'The air-free density may be stale: when its specific gravities were tested is not on record.'
        : `The air-free density may be stale: its specific gravities are ${p['days']} days old.`,
  },
  'cause-design-theoretical': { says: () => 'The air-free density is the design’s, not that of what was in the truck.' },
  'cause-water-added': { says: (p) => `Water was added on site (${at(p, 'water')}): it lowers density and air-free density.` },
  'cause-no-correction': { says: () => 'The aggregate correction factor is missing.' },
  'cause-measure-volume': {
    says: (p) =>
      p['days'] === undefined
        ? 'The measure’s volume may be off: it has no calibration on record.'
        : `The measure’s volume may be off: calibrated ${p['days']} days ago.`,
  },
  'cause-meter': {
    says: (p) =>
      p['days'] === undefined
        ? 'The meter may leak: it has no calibration on record.'
        : `The meter may leak: calibrated ${p['days']} days ago.`,
  },
  'density-off-mix': {
    says: (p) =>
      `With ${at(p, 'air')} % air this concrete should weigh ${at(p, 'expected')}; it weighs ${at(p, 'apart')} ${at(p, 'side')}.`,
    next: 'Weigh the measure again, clean outside. If it stands, look at the ticket.',
  },
  'cause-extra-water': { says: () => 'Extra water: wet aggregate, wash water left in the drum, or added on site.' },
  'cause-batch-off': { says: () => 'A batch weight is off, or the design’s specific gravities are.' },
  'cause-air-wrong': { says: () => 'The measured air is wrong.' },
  'yield-off-ticket': {
    says: (p) => `The load makes ${at(p, 'ratio')} of the volume on its ticket.`,
    next: 'Check that all water is on the ticket, then the weighings.',
  },
  'cause-more-air': { says: () => 'More air than designed.' },
  'cause-less-air': { says: () => 'Less air than designed.' },
  'cause-short-weights': { says: () => 'The ticket’s weights or its volume are wrong.' },
  'gravities-do-not-fit': {
    says: (p) => `1/OD less 1/apparent is ${at(p, 'got')}, but the absorption asks for ${at(p, 'wanted')}: one of the three is mistyped.`,
    next: 'Compare them with the report that they came from.',
  },
  'specimen-light': {
    says: (p) => `The specimen is ${at(p, 'by')} % lighter than the fresh concrete: poorly consolidated.`,
    next: 'Look at it for voids, and note what you see.',
  },
  'strength-off-ratio': {
    says: (p) => `28 days over 7 days is ${at(p, 'ratio')}; this mix gives ${at(p, 'usual')}.`,
    next: 'Look at curing, handling and the 7-day break.',
  },
  'strength-off-history': {
    says: (p) => `${at(p, 'by')} standard deviations ${at(p, 'side')} this mix’s mean.`,
    next: 'Look at the fresh tests of this sample and at its ticket.',
  },
  'duplicates-apart': {
    says: (p) =>
      `The tests of this sample are ${at(p, 'apart')} apart, more than two results of one operator should be (${at(p, 'most')}).`,
    next: 'Look for the slip; then make one more on another portion of the same sample, and see which it bears out.',
  },
  'tests-apart': {
    says: (p) => `First and check test are ${at(p, 'apart')} apart, more than two results of one concrete should be (${at(p, 'most')}).`,
    next: 'Make a third test: the two that agree stand.',
  },
} as const satisfies Record<string, Entry>;
