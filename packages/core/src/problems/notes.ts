import { at, type Entry } from './words.js';

/** What is worth knowing beside a result: it changes neither the result nor whether it counts. */
export const NOTES = {
  // Fresh concrete
  'slump-says-little': {
    says: (p) => `A slump of ${at(p, 'slump')} says little: the test is good for ${at(p, 'least')} to ${at(p, 'most')}.`,
  },
  'no-class': { says: () => 'Below the lowest class.' },
  'worksheet-differs': { says: (p) => `With the unrounded density the yield is ${at(p, 'other')}.` },
  'no-cement': {
    says: () => 'No cementitious material on the ticket: there is no cement content.',
    next: 'Say which material is the cement.',
  },
  'no-plain-cement': {
    says: () => 'Which of the cementitious materials is the cement is not on the ticket: only the content of all of them is given.',
    next: 'Mark slag, fly ash and the like on the ticket.',
  },
  'air-free-from-design': {
    says: () => 'The air-free density is the design’s: the ticket has not all weights and specific gravities. Water on site is not in it.',
  },
  'air-free-from-ticket': {
    says: (p) => `The air-free density is of what was in the truck, water added included: ${at(p, 'theoretical')}.`,
  },
  'no-water-in-batch': {
    says: () => 'There is no water among these weights.',
    next: 'Add all of it, water added on site too: without it the yield is too low.',
  },
  'own-copy': { says: (p) => `By the lab’s own copy of ${at(p, 'variant')}: ${at(p, 'what')}.`, whenVoid: true },
  'water-after-test': {
    says: (p) => `${at(p, 'water')} of water went into the load after this test was made.`,
    next: 'This result is of the load as it was before. Test again.',
    whenVoid: true,
  },
  'unstable-flow': {
    says: (p) => `Visual stability ${at(p, 'index')}: the concrete segregates. The flow alone says little.`,
    next: 'Tell the plant; do not place it like this.',
  },
  'stated-slip': { says: (p) => `${at(p, 'stated')} comes out when ${at(p, 'slip')}. Right is ${at(p, 'right')}.` },
  'stated-unexplained': { says: (p) => `${at(p, 'stated')} does not come from these masses; they give ${at(p, 'right')}.` },
  // Aggregates
  'soaks-up-water': { says: () => 'Drier than SSD: it will soak up mixing water, so water is added.' },
  'bulk-too-small': { says: () => 'The bulk is below the least mass.', next: 'Sample again.' },
  'far-above-least': {
    says: () => 'Halving leaves far more than is needed.',
    next: 'Quarter the last reject, and add a quarter of it to what is short of the least mass.',
  },
  'moisten-first': { says: () => 'Dry fines are lost in quartering and in a stockpile.', next: 'Moisten it first.' },
  'weighed-early': {
    says: (p) => `First weighed before ${at(p, 'least')} in the oven.`,
    next: 'Leave it in longer before the first weighing.',
  },
  'film-left': { says: () => 'Absorption high and specific gravity OD low: a film of water left at SSD looks like this.' },
  'over-dried': { says: () => 'Absorption low and specific gravity OD high: an over-dried SSD looks like this.' },
  'air-in-basket': { says: () => 'All gravities low: air left in the sample looks like this, or a basket not tared under water.' },
  'grains-lost': { says: () => 'Absorption and apparent gravity high: grains lost between SSD and oven look like this.' },
  'air-in-flask': { says: () => 'All gravities low: air left in the flask looks like this.' },
  'fines-lost': { says: () => 'Absorption and apparent gravity high: fines lost while emptying the flask look like this.' },
  'above-the-mark': { says: () => 'All gravities high: water above the mark, or outside on the neck, looks like this.' },
  'source-shifted': {
    says: () => 'Or the source changed.',
    next: 'Repeat the test. If it stands, update the mixes, their air-free density and the correction factor.',
  },
  'cone-too-soon': { says: (p) => `Cover it for at least ${at(p, 'least')} after mixing in water.`, next: 'Then test again.' },
  'cone-cannot-tell': {
    says: () => 'It slumped without an earlier trial that kept its shape: SSD cannot be told from too dry.',
    next: 'Mix in a few mL of water, cover for 30 min, test again.',
  },
  'cone-over-dried': { says: () => 'Over-dried.', next: 'Mix in a few mL of water, cover for 30 min, start again.' },
  'series-has-gaps': { says: () => 'A sieve of the fineness modulus is missing between the others: there is no modulus.' },
  'outside-band': {
    says: (p) => {
      const sides = [p['above'] ? `too much passes ${at(p, 'above')} mm` : '', p['below'] ? `too little passes ${at(p, 'below')} mm` : ''];
      return `Outside the band of ${at(p, 'band')}: ${sides.filter(Boolean).join(', ')}.`;
    },
    next: 'Look at the sieves and the wash, then sieve another portion of the same sample.',
  },
  'band-sieves-missing': { says: (p) => `Not sieved, so not judged: ${at(p, 'sieves')} mm.` },
  'too-much-between': { says: (p) => `More than ${at(p, 'most')} % lies between two neighbouring sieves.` },
  // Mix and batch
  'does-not-fill': {
    says: (p) => `This recipe makes ${at(p, 'made')}, not ${at(p, 'whole')}.`,
    next: 'Its masses are for another volume: scale them.',
  },
  'no-water-to-correct': { says: () => 'No ingredient is water: the free water of the aggregates is taken from nothing.' },
  'nothing-to-fill': { says: () => 'Nothing is to be filled.', next: 'Key cylinders or vessels.' },
  'few-tests': {
    says: (p) => `A standard deviation of fewer than ${at(p, 'least')} tests is not used: the increase without data holds.`,
  },
  // Water on site
  'water-may': {
    says: (p) => `Water may be added once: at most ${at(p, 'amount')}.${at(p, 'until')}`,
    next: (p) => `Add it all at one time, at least ${at(p, 'revolutions')} revolutions at mixing speed, then test the slump again.`,
  },
  'water-unlimited': {
    says: () => 'No largest w/cm is known: how much water may be added cannot be said.',
    next: 'Ask whoever may allow it.',
  },
  'water-no-room': { says: () => 'No water: the w/cm is at or over its limit already.', next: 'Ask the plant for an admixture instead.' },
  'water-too-late': { says: (p) => `No water: the time limit of ${at(p, 'most')} has passed.`, next: 'Tell whoever may reject the load.' },
  'water-once': { says: () => 'No water: it was added once already.', next: 'Ask the plant for an admixture instead.' },
  'water-discharging': { says: () => 'No water: the discharge is well under way.', next: 'Tell the plant before the next load.' },
  'water-not-low': { says: () => 'No water: the slump is not below its limit.' },
  'water-not-allowed': { says: () => 'No water: nobody who may allow it has done so.', next: 'Ask whoever the specification names.' },
  'water-moisture-unknown': {
    says: () => 'The moisture of the aggregates is not known: their free water is not counted, so less may be added than this says.',
    next: 'Ask the plant for the moistures that it batched with.',
  },
  'companion-not-used': {
    says: (p) =>
      `The companion weighed ${at(p, 'apart')} g more or less at SSD than what went into the flask; at most ${at(p, 'most')} g. It is not used: the flask’s own dry mass counts.`,
  },
  // Strength
  'group-waits': { says: (p) => `The last group has ${at(p, 'have')} of ${at(p, 'of')} results: it waits for the others.` },
  'no-within-test': { says: () => 'Within-test scatter needs two, three or four companions in every test.' },
  'fracture-of-the-ends': {
    says: (p) => `Fracture ${at(p, 'type')}: the sides came off at an end.`,
    next: 'Look at the caps and at how it stood before you doubt the concrete.',
  },
  'trace-too-coarse': { says: () => 'Fewer than two points in the latter half: no rate can be fitted.' },
  'pairs-all-alike': { says: () => 'All 7-day strengths are the same: no line can be fitted.' },
  'beyond-the-pairs': { says: () => 'Beyond the pairs that the line was fitted to: take it with care.' },
  'expected-below': {
    says: () => 'The 28-day strength to expect is below f’c.',
    next: 'Look now, not in three weeks: curing, tickets, the 7-day break.',
  },
  'may-fall-below': { says: () => 'It may fall below f’c.' },
  'no-class-fits': { says: () => 'No class of this standard fits.' },
  'on-a-boundary': { says: () => 'Exactly on a boundary between classes: never safely inside.' },
  // In place, durability
  'rounds-to-a-boundary': {
    says: (p) =>
      `It is reported as ${at(p, 'reported')}, which is a boundary between classes: take it as uncertain, never as safely inside.`,
  },
  'signs-turned': { says: () => 'The leads were the wrong way round: every sign was turned.' },
  'total-left-out': {
    says: (p) => `The row with the total is no sieve: the masses add up to its ${at(p, 'total')} g, and it is left out.`,
  },
  'not-corrected-for-temperature': {
    says: () => 'Not corrected for temperature: the coefficient in the method is the copper electrode’s own.',
    next: 'Key the coefficient that the maker of this electrode gives.',
  },
  'grid-too-coarse': {
    says: (p) => `Neighbours differ by more than ${at(p, 'most')} mV.`,
    next: (p) => `Halve the spacing between ${at(p, 'cells')}.`,
  },
  'rebounds-all-alike': { says: () => 'All rebound numbers are the same: no line can be fitted.' },
  'estimated-only': { says: () => 'Estimated, not for acceptance.' },
  'beyond-darcy': {
    says: (p) => `At a gradient of ${at(p, 'gradient')} the flow through open concrete is turbulent: this formula does not hold.`,
  },
  'not-steady-yet': {
    says: (p) =>
      `Not steady yet: ${at(p, 'intervals')} intervals in a row must agree within ${at(p, 'within')} %; the last two are ${at(p, 'apart')} % apart.`,
    next: 'Go on collecting.',
  },
  'prism-strays': {
    says: (p) => `Prism ${at(p, 'prisms')} strays by more than ${at(p, 'most')} % from the others.`,
    next: 'Look for a loose stud, the other end up, or a fall; read it again.',
  },
  'no-reading-at-drying': { says: () => 'No set of readings has the age at which drying starts: the change from there cannot be told.' },
  'bar-moved': {
    says: (p) => `The reference bar moved by ${at(p, 'by')} % of the gauge length.`,
    next: 'The comparator or the room changed: check both.',
  },
} as const satisfies Record<string, Entry>;
