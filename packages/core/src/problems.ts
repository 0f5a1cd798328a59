/** Numbers and names that a sentence needs, as text. */
export type Params = Readonly<Record<string, string>>;

type Words = (p: Params) => string;

const range = (p: Params): string => {
  const unit = p['unit'] ? ` ${p['unit']}` : '';
  const [low, high] = [p['least'] ?? p['above'], p['most']];
  if (low !== undefined && high !== undefined) return `between ${low} and ${high}${unit}`;
  if (p['above'] !== undefined) return `above ${p['above']}${unit}`;
  return low !== undefined ? `at least ${low}${unit}` : `at most ${high ?? ''}${unit}`;
};
const got = (p: Params): string => `${p['got'] ?? ''}${p['gotUnit'] ? ` ${p['gotUnit']}` : ''}`;
const at = (p: Params, key: string): string => p[key] ?? '';

/**
 * The one catalogue of what can be wrong or worth saying: codes travel, words are chosen last.
 * Each sentence says what is wrong and what would be right.
 */
export const CATALOGUE = {
  // Readings
  'not-a-number': (p) => `“${at(p, 'got')}” is not a number. Key digits with a point, like 204 or 19.5; inches may be 3 1/4.`,
  'too-long': () => 'Too many digits for a reading. Key it as the instrument shows it.',
  'wrong-unit': (p) => `${at(p, 'unit')} does not fit here. Units for this reading: ${at(p, 'units')}.`,
  'not-an-option': (p) => `“${at(p, 'got')}” is not one of the choices.`,
  'impossible-value': (p) => `${got(p)} cannot be. It must be ${range(p)}.`,
  'implausible-value': (p) => `${got(p)} is unlikely. Usual is ${range(p)}.`,
  // Slump
  'slump-above-mold': (p) => `The drop cannot be more than the mold is high (${at(p, 'mold')}).`,
  'heap-above-mold': (p) => `The concrete cannot stand higher than the mold (${at(p, 'mold')}). Was the drop keyed instead?`,
  'drop-and-height': () => 'Key the height of the concrete or the drop, not both.',
  'mold-height': (p) => `The mold is ${at(p, 'least')} to ${at(p, 'most')} high. Check which mold was used.`,
  'zero-with-drop': (p) => `“No slump” was picked, but the heights give a drop of ${at(p, 'drop')}.`,
  'shape-shear': () => 'A side sheared off. Void: test again on another portion of the same sample.',
  'shape-collapse': () => 'The heap collapsed. Void: repeat once on a fresh sample.',
  'lift-time': (p) =>
    `The lift took ${at(p, 'got')} s; it must take ${at(p, 'least')} to ${at(p, 'most')} s. Void: test again on another portion.`,
  'total-time': (p) => `${at(p, 'got')} from the first scoop to mold off; at most ${at(p, 'most')}. Void: test again on another portion.`,
  'mold-twisted': () => 'The mold was twisted or knocked on lifting. Void: test again on another portion.',
  'not-sieved': (p) => `Aggregate above ${at(p, 'most')} must be wet-sieved out first. Void: sieve the sample and test again.`,
  'lacks-cohesion': () =>
    'Sheared twice running: this concrete lacks the cohesion for the slump test. Record that; do not report a number.',
  'slump-says-little': (p) => `A slump of ${at(p, 'slump')} says little: this test speaks between ${at(p, 'least')} and ${at(p, 'most')}.`,
  'no-class': () => 'Below the lowest class.',
  // Temperature
  'not-steady': (p) => `The sensor must stay in at least ${at(p, 'least')} min and until steady. It was in for ${at(p, 'got')}.`,
  // Density, yield
  'lighter-full': () => 'The full measure cannot be lighter than the empty one. Were the two swapped?',
  'unlikely-density': (p) => `That would be a density of ${at(p, 'density')}; concrete is ${at(p, 'least')} to ${at(p, 'most')}.`,
  'measure-too-small': (p) =>
    `For aggregate of ${at(p, 'nominal')} nominal maximum the measure must hold at least ${at(p, 'least')}; this one holds ${at(p, 'got')}.`,
  'nominal-too-large': (p) => `The table ends at ${at(p, 'most')} nominal maximum.`,
  'unlikely-yield': (p) => `That would be ${at(p, 'ratio')} of the volume ordered. Check the ticket's weights, the volume and its unit.`,
  'no-cement': () => 'No cementitious material on the ticket: cement content cannot be computed.',
  'dense-without-air': () =>
    'The density is above the air-free density, which cannot be: the air-free density is stale, or a mass is wrong.',
  'worksheet-differs': (p) => `Worked from the unrounded density the yield is ${at(p, 'other')}.`,
  // Air
  'porous-aggregate': () => 'Pressure meters read wrongly with lightweight, slag or other porous aggregate. Use the volumetric method.',
  'below-correction': () => 'The air would be below zero: the correction is larger than the reading.',
  'rising-level': () => 'The level after release cannot be above the level under pressure.',
  'meter-leaks': () => 'The gauge did not hold or settle: the meter leaks. Void: clean the seals, test again on a new portion.',
  'petcock-open': () => 'The main valve was opened with a petcock open. Void: test again on a new portion.',
  'water-in-chamber': () => 'Water was drawn into the air chamber. Void: dry it, recheck the meter, test again.',
  'read-early': () => 'Read before the petcocks were closed. Void: test again on a new portion.',
  'out-of-calibration': (p) => `${at(p, 'name')} was last calibrated ${at(p, 'at')}; that ran out ${at(p, 'until')}. The result is marked.`,
  // Fresh concrete, further methods
  'unstable-flow': (p) => `Visual stability ${at(p, 'index')}: the mixture segregates. The flow alone says little.`,
  'diameters-apart': (p) => `The two diameters are ${at(p, 'apart')} apart, at most ${at(p, 'most')}. Test again.`,
  'rollings-apart': (p) => `The last two rollings are ${at(p, 'apart')} % apart, at most ${at(p, 'most')} %. Roll again.`,
  'parts-exceed-whole': () => 'The part that passes the sieve cannot be more than the whole mixture.',
  'lighter-filled': () => 'The cylinder with concrete cannot be lighter than the empty one.',
  'factor-swapped': (p) =>
    `${at(p, 'factor')} cannot be: partly compacted concrete weighs less than fully compacted. Were the two masses exchanged?`,
  'factor-below': (p) =>
    `${at(p, 'factor')} is below ${at(p, 'least')}: the test says nothing there. Look at the hoppers and the weighings.`,
  'stated-slip': (p) => `${at(p, 'stated')} comes out when ${at(p, 'slip')}. It is ${at(p, 'right')}.`,
  'stated-unexplained': (p) => `${at(p, 'stated')} does not come from these masses; they give ${at(p, 'right')}.`,
  // Aggregates
  'dry-heavier': () => 'The dry mass cannot be above the wet one. Were the two exchanged?',
  'soaks-up-water': () => 'Drier than SSD: it will soak up mixing water, so water is added.',
  'times-in-disorder': () => 'This weighing is not after the one before it.',
  'mass-went-up': (p) =>
    `The mass went up by ${at(p, 'gain')} g: cooled otherwise, water dripped in, or the balance drifts. Find out before going on.`,
  'washed-heavier': () => 'The washed mass cannot be above the one before washing. Was it dry?',
  'ssd-below-dry': () => 'The SSD mass cannot be below the oven-dry mass. Were the two exchanged?',
  'submerged-too-heavy': () => 'The mass in water must be below the oven-dry mass in air. Was the basket tared submerged?',
  'flask-too-heavy': () => 'Flask, sample and water are too heavy: the sample would displace nothing. Check the mark and the tare.',
  'unlikely-gravity': (p) => `A specific gravity of ${at(p, 'gravity')} is unlikely: aggregates are 2.2 to 3.2.`,
  'unlikely-absorption': (p) => `An absorption of ${at(p, 'absorption')} % is unlikely: usual is up to 8 %.`,
  'companion-apart': (p) =>
    `The companion was ${at(p, 'apart')} g off at SSD, at most ${at(p, 'most')} g. The result is marked: dry the flask’s contents.`,
  'flask-temperature': (p) => `The water was at ${at(p, 'got')} °C; this variant wants ${at(p, 'target')} ± ${at(p, 'tolerance')} °C.`,
  'shares-not-whole': (p) => `The shares add up to ${at(p, 'sum')} %, not to 100.`,
  'denser-than-grains': () => 'The bulk cannot be denser than its grains. Check gravity and volume.',
  'method-unfit': (p) => `Not for this material. Fit are: ${at(p, 'methods')}.`,
  'bulk-too-small': () => 'The bulk is below the least mass: sample again.',
  'far-above-least': () =>
    'Halving leaves far more than is needed: quarter the last reject and combine a quarter of it with what is short of the least mass.',
  // Mix and batch
  'does-not-fill': (p) => `This recipe makes ${at(p, 'made')}, not ${at(p, 'whole')}: its masses are for another volume.`,
  'wetter-than-design': () => 'The aggregates bring more water than the design has. Dry them, or weigh their moisture again.',
  'no-water-to-correct': () => 'No ingredient is water: the free water of the aggregates is taken from nothing.',
  'no-room-for-water': () => 'No water may be added: the w/cm is over its limit already.',
  // Strength
  'diameters-differ': (p) =>
    `The two diameters differ by ${at(p, 'apart')} %, at most ${at(p, 'most')} %. Void: the specimen is not tested.`,
  'specimen-too-long': (p) => `L/D is ${at(p, 'ratio')}, at most ${at(p, 'most')}: trim it.`,
  'specimen-too-short': (p) => `L/D is ${at(p, 'ratio')}: below 1 there is no correction.`,
  'cubes-scatter': (p) =>
    `A cube is further than ${at(p, 'within')} % from the mean of ${at(p, 'mean')} MPa. Void: the set gives no strength.`,
  'past-midspan': () => 'Measure from the nearer support: this is past midspan.',
  'broke-outside': (p) => `It broke ${at(p, 'by')} % of the span outside the middle third, at most ${at(p, 'most')} %. Void.`,
  'no-age-window': (p) => `No window is published for this age. There is one at ${at(p, 'ages')} days.`,
  'broken-before-cast': () => 'Broken before it was cast.',
  'outside-age-window': (p) =>
    `Outside ${at(p, 'days')} d ± ${at(p, 'hours')} h: reported, marked, not for acceptance unless the engineer agrees.`,
  'no-within-test': () => 'Within-test scatter needs two, three or four companions in every test.',
  // Gradation, in place, durability
  'sieves-in-disorder': () => 'Sieves stand coarsest first, each opening once.',
  'series-has-gaps': () => 'A sieve of the fineness modulus is missing between the others: there is no modulus.',
  'sieve-overloaded': (p) => `Overloaded: ${at(p, 'sieves')} mm. Split what is on it and shake again.`,
  'more-than-went-in': (p) => `The sieves hold ${at(p, 'by')} % more than went in: a mass is wrong, or the dry mass is another sample’s.`,
  'sieving-loss': (p) => `${at(p, 'loss')} % was lost in sieving, at most ${at(p, 'most')} %: not for acceptance.`,
  'swapped-leads': () => 'A positive potential is unlikely: are the leads swapped?',
  'swapped-map': () => 'Every potential is positive: the leads are swapped. The signs can be turned.',
  'signs-turned': () => 'The leads were swapped: every sign was turned.',
  'grid-too-wide': (p) => `The grid may be ${at(p, 'most')} wide at most.`,
  'grid-too-coarse': (p) => `Neighbours differ by more than ${at(p, 'most')} mV: halve the spacing between ${at(p, 'cells')}.`,
  'rebounds-all-alike': () => 'All rebound numbers are the same: no line can be fitted.',
  'beyond-correlation': (p) => `The pairs reach from ${at(p, 'least')} to ${at(p, 'most')}: nothing is estimated beyond them.`,
  'estimated-only': () => 'Estimated, not for acceptance.',
  'elements-mixed': (p) => `Different elements or surfaces are never averaged: ${at(p, 'elements')}.`,
  'rebound-scatter': (p) => `${at(p, 'count')} of ${at(p, 'of')} readings are too far off. Void: the whole area is discarded.`,
  'head-as-pressure': (p) => `That is a head of ${at(p, 'head')} m of water: was a head keyed as a pressure? 1 kgf/cm² is 10 m.`,
  'beyond-darcy': (p) => `A gradient of ${at(p, 'gradient')} is outside Darcy’s range for open concrete: the flow is turbulent.`,
  'total-falls': () => 'A running total cannot fall.',
  'not-steady-yet': (p) =>
    `Not steady yet: ${at(p, 'intervals')} intervals in a row must agree within ${at(p, 'within')} %; the last two are ${at(p, 'apart')} % apart.`,
  'flows-disagree': (p) =>
    `Inflow and outflow are ${at(p, 'apart')} % apart, at most ${at(p, 'within')} %: not steady. The result is marked.`,
  'unlikely-permeability': (p) => `Unlikely for this concrete: usual is ${at(p, 'least')} to ${at(p, 'most')} m/s.`,
  'prism-strays': (p) =>
    `Prism ${at(p, 'prisms')} strays by more than ${at(p, 'most')} % from the others: a loose stud, the other end up, dropped?`,
  'no-reading-at-drying': () => 'No set of readings has the age at which drying starts: the change from there cannot be told.',
  'bar-moved': (p) => `The reference bar moved by ${at(p, 'by')} % of the gauge length: the comparator or the room changed.`,
  'bar-not-repeated': () => 'The bar read again after the prisms is not what it was: read the set again. The result is marked.',
  'not-a-time': (p) => `“${at(p, 'got')}” is not a moment.`,
  'head-does-not-fall': () => 'The head at the end must be below the one at the start.',
  'moisten-first': () => 'Dry fines are moistened first: quartering and stockpiles lose them otherwise.',
  'bulk-too-small-for-all': (p) => `Not enough for all of these tests: at least ${at(p, 'least')}, or sample again.`,
  'leaf-below-least': (p) => `Below the least mass of this test (${at(p, 'least')}): take the kept split beside it.`,
  'chutes-odd': () => 'A splitter has an even number of equal chutes.',
  'chutes-few': (p) => `At least ${at(p, 'least')} chutes for this material.`,
  'chutes-narrow': (p) => `The chutes must be at least ${at(p, 'least')} wide: the largest particles bridge.`,
  'chutes-for-fine': (p) => `For dry fine passing 9.5 mm the chutes are ${at(p, 'least')} to ${at(p, 'most')} mm wide.`,
  'weighed-early': (p) => `First weighed before ${at(p, 'least')} in the oven.`,
  'film-left': () => 'This is what a film of water left at SSD looks like: absorption high, specific gravity OD low.',
  'over-dried': () => 'This is what an over-dried SSD looks like: absorption low, specific gravity OD high.',
  'air-in-basket': () => 'This is what air left in the sample looks like, or a basket not tared submerged: all gravities low.',
  'grains-lost': () => 'This is what grains lost between SSD and oven look like: absorption and apparent gravity high.',
  'air-in-flask': () => 'This is what air left in the flask looks like: all gravities low.',
  'fines-lost': () => 'This is what fines lost while emptying the flask look like: absorption and apparent gravity high.',
  'above-the-mark': () => 'This is what water above the mark, or on the outside of the neck, looks like: all gravities high.',
  'source-shifted': () => 'Or the source changed. Repeat; if it stands, update the mixes, the air-free density and the correction factor.',
  'no-trimming': () => 'Never trim to an exact mass: what the last cut leaves is the test sample.',
  'cone-too-soon': (p) => `Cover it for at least ${at(p, 'least')} after mixing in water, then test again.`,
  'cone-cannot-tell': () =>
    'It slumped without an earlier trial that kept its shape: SSD cannot be told from too dry. Mix in a few mL of water, cover, test again.',
  'cone-over-dried': () => 'Over-dried: mix in a few mL of water, cover, start again.',
  'cone-overridden': () => 'Taken as SSD against the trials: the result is marked.',
  'band-sieves-missing': (p) => `Not sieved, so not judged: ${at(p, 'sieves')} mm.`,
  'too-much-between': (p) => `More than ${at(p, 'most')} % lies between two neighbouring sieves.`,
  'trace-too-coarse': () => 'Fewer than two points in the latter half: no rate can be fitted.',
  'rate-outside': (p) =>
    `The latter half ran at ${at(p, 'rate')} ${at(p, 'unit')}; ${at(p, 'target')} ± ${at(p, 'tolerance')} is asked. The result is marked.`,
  'not-whole': () => 'Whole numbers only.',
  'more-than-loads': (p) => `There are only ${at(p, 'loads')} loads.`,
  'no-class-fits': () => 'No class of this school fits.',
  'on-a-boundary': () => 'Exactly on a boundary of a class: never safely inside.',
  'nothing-to-fill': () => 'Nothing is to be filled: key cylinders or vessels.',
  'pairs-all-alike': () => 'All 7-day strengths are the same: no line can be fitted.',
  'beyond-the-pairs': () => 'Beyond the pairs that the line was fitted to: take it with care.',
  'expected-below': () => 'The 28-day strength to expect is below f’c: look now, not in three weeks.',
  'may-fall-below': () => 'It may fall below f’c.',
  'companions-apart': (p) =>
    `The companions range over ${at(p, 'range')} %, at most ${at(p, 'most')} %. Look for a cause; none is dropped by arithmetic alone.`,
  // Cross-checks
  'airs-disagree': (p) =>
    `Pressure and gravimetric air are ${at(p, 'apart')} points apart, more than ${at(p, 'within')}: one of the two is wrong.`,
  'cause-stale-theoretical': (p) => `The air-free density may be stale (gravities ${at(p, 'days')} days old).`,
  'cause-no-correction': () => 'The aggregate correction factor is missing or old.',
  'cause-measure-volume': (p) => `The measure’s volume may be off (calibrated ${at(p, 'days')} days ago).`,
  'cause-meter': (p) => `The meter may leak (calibrated ${at(p, 'days')} days ago).`,
  'density-off-mix': (p) =>
    `With ${at(p, 'air')} % air this mix should weigh ${at(p, 'expected')}; it weighs ${at(p, 'apart')} ${at(p, 'side')}.`,
  'cause-extra-water': () => 'Extra water: wet aggregate, wash water left in the drum, or added on site.',
  'cause-batch-off': () => 'A batch weight is off, or the design’s specific gravities are.',
  'cause-air-wrong': () => 'The measured air is wrong.',
  'yield-off-ticket': (p) => `The load makes ${at(p, 'ratio')} of the volume on its ticket.`,
  'cause-more-air': () => 'More air than designed.',
  'cause-less-air': () => 'Less air than designed.',
  'cause-short-weights': () => 'The ticket’s weights or its volume are wrong.',
  'specimen-light': (p) => `The specimen is ${at(p, 'by')} % lighter than the fresh concrete: poorly consolidated.`,
  'strength-off-ratio': (p) =>
    `28 days over 7 days is ${at(p, 'ratio')}; this mix gives ${at(p, 'usual')}. Look at curing, handling and the 7-day break.`,
  'strength-off-history': (p) => `${at(p, 'by')} standard deviations ${at(p, 'side')} this mix’s mean.`,
  // Sampling
  'one-grab': () => 'One portion is not a composite: take a second one from the middle of the discharge.',
  'portions-apart': (p) => `First to last portion took ${at(p, 'took')}; at most ${at(p, 'most')}. Void: sample again.`,
  'portion-at-end': () => 'A portion came from the first or the last tenth of the batch: none may.',
  'portions-out-of-order': () => 'The composite cannot be finished before its last portion.',
  'sample-too-small': (p) => `At least ${at(p, 'least')} when strength specimens will be made.`,
  // Clocks
  late: (p) => `${at(p, 'what')}: ${at(p, 'took')}, at most ${at(p, 'most')}. The result stands, marked.`,
} as const satisfies Record<string, Words>;

export type Code = keyof typeof CATALOGUE;

/** The sentence for a code. */
export const say = (code: Code, params: Params = {}): string => CATALOGUE[code](params);
