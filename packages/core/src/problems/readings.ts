import { at, got, range, type Entry } from './words.js';

const LOOK = 'Read it again and key what the instrument shows.';

/** What is wrong or unlikely about what was keyed, at its field. */
export const READINGS = {
  'not-a-number': {
    says: (p) => `“${at(p, 'got')}” is not a number. Key figures like 204 or 19.5; inches may be 3 1/4.`,
    next: LOOK,
  },
  'two-ways': {
    says: (p) => `“${at(p, 'got')}” can be read two ways: the comma may be a decimal point or part thousands.`,
    next: 'Key it with a decimal point, or without the comma.',
  },
  'other-unit': {
    says: (p) => `“${at(p, 'got')}” has another unit than this reading (${at(p, 'unit')}).`,
    next: 'Choose the unit beside the reading.',
  },
  'too-long': { says: () => 'Too many figures for a reading.', next: 'Key it as the instrument shows it.' },
  'wrong-unit': {
    says: (p) => `${at(p, 'unit')} does not fit this reading. Its units are ${at(p, 'units')}.`,
    next: 'Choose one of these units.',
  },
  'not-an-option': { says: (p) => `“${at(p, 'got')}” is not one of the choices.`, next: 'Choose one of them.' },
  'not-a-time': {
    says: (p) => `“${at(p, 'got')}” is not a date and time between 1900 and 2199.`,
    next: 'Key the date and the time of day.',
  },
  'not-a-liquid': {
    says: () => 'Only water and admixtures are measured in litres or gallons.',
    next: 'Key this material as it was weighed.',
  },
  'impossible-value': { says: (p) => `${got(p)} is impossible here. It must be ${range(p)}.`, next: LOOK },
  'implausible-value': { says: (p) => `${got(p)} is unlikely. Usual is ${range(p)}.`, next: 'Check it. If it is right, give a reason.' },
  'unlikely-result': {
    says: (p) => `${at(p, 'label')} would be ${got(p)}. Usual is ${range(p)}.`,
    next: 'Check the readings. If they are right, give a reason.',
  },
  'cannot-compute': {
    says: () => 'These readings divide by zero: one of them is far too small.',
    next: 'Check each reading and its unit.',
  },
  'not-whole': { says: () => 'Whole numbers only.', next: 'Key a whole number.' },
  // A pour, its loads and their samples
  'water-over-room': {
    says: (p) => `There was room for at most ${at(p, 'most')}.`,
    next: 'Check the figure and its unit. If so much went in, say who allowed it.',
  },
  'water-against': {
    says: (p) => `Against the rule for water on site: ${at(p, 'why').replaceAll('No water: ', '')}`,
    next: 'If it went in all the same, say why, and tell whoever may reject the load.',
  },
  'other-instrument': {
    says: (p) => `This was read from ${at(p, 'read')}; the test is made with ${at(p, 'made')}.`,
    next: 'Choose for the test what it is read from, or key what the other one shows.',
  },
  'ticket-off': { says: (p) => `Look at the ticket. ${at(p, 'says')}`, next: 'If the plant batched it so, say so.' },
  'ticket-other-volume': {
    says: (p) => `Every weight is ${at(p, 'times')} times what the design wants for ${at(p, 'volume')}: they are of another volume.`,
    next: 'Look at the volume on the ticket.',
  },
  'ticket-twice': {
    says: (p) => `Ticket ${at(p, 'ticket')} is on ${at(p, 'load')} already.`,
    next: 'Look at the number on the ticket. If two have the same, say so.',
  },
  'over-planned': {
    says: (p) => `With this load ${at(p, 'sum')} of ${at(p, 'planned')} would be delivered.`,
    next: 'Look for a ticket that was keyed twice. If more was ordered, say so.',
  },
  'one-portion': {
    says: () => 'One portion is no composite: combined now, the sample is void.',
    next: 'Take another portion from the middle of the discharge first.',
  },
  // Slump
  'slump-above-mold': {
    says: (p) => `The slump cannot be more than the mold is high (${at(p, 'mold')}).`,
    next: 'Measure the slump again, or check the height of the mold.',
  },
  'heap-above-mold': {
    says: (p) => `The concrete cannot stand higher than the mold (${at(p, 'mold')}).`,
    next: 'If this is the slump, key it as the slump measured.',
  },
  'slump-and-height': { says: () => 'Key the slump or the height of the concrete, not both.', next: 'Clear one of the two.' },
  'shape-against-height': {
    says: (p) => `“${at(p, 'shape')}” was chosen, but the concrete slumped ${at(p, 'slump')}.`,
    next: 'Choose the shape that you saw, or measure again.',
  },
  // Density, yield, air
  'lighter-full': { says: () => 'The full measure cannot be as light as the empty one, or lighter.', next: 'Weigh both again.' },
  'nominal-too-large': { says: (p) => `The table ends at ${at(p, 'most')} nominal maximum size.`, next: 'Check the size and its unit.' },
  'unlikely-yield': {
    says: (p) => `The load would make ${at(p, 'ratio')} of the volume ordered.`,
    next: 'Check the ticket’s weights, all water included, the volume and its unit.',
  },
  'denser-than-air-free': {
    says: () => 'The concrete is denser than it would be without any air, which is impossible.',
    next: 'Check the weighings and the measure’s volume, then the specific gravities behind the air-free density.',
  },
  'porous-aggregate': {
    says: () => 'A pressure meter reads wrongly with lightweight, slag or other porous aggregate.',
    next: 'Measure the air by volume (roller meter) instead.',
  },
  'below-correction': {
    says: () => 'The air would be below zero: the correction is larger than the reading.',
    next: 'Read the gauge again, and check the correction factor of these aggregates.',
  },
  'rising-level': { says: () => 'The level after release cannot be above the level under pressure.', next: 'Read both levels again.' },
  'parts-exceed-whole': {
    says: () => 'What passes the sieve cannot be more than the whole mixture.',
    next: 'Check the two volumes.',
  },
  'lighter-filled': {
    says: () => 'The cylinder with concrete cannot be as light as the empty one, or lighter.',
    next: 'Weigh both again.',
  },
  'factor-above-one': {
    says: (p) => `A compaction factor of ${at(p, 'factor')} is impossible: concrete that only fell weighs less than compacted concrete.`,
    next: 'Check which mass is which. If they are right, fill and weigh again.',
  },
  'factor-below': {
    says: (p) => `A compaction factor of ${at(p, 'factor')} is below ${at(p, 'least')}, where the test says nothing.`,
    next: 'Look at the hoppers and the weighings. If they are right, give a reason.',
  },
  // Aggregates
  'dry-heavier': { says: () => 'The dry mass cannot be above the wet one.', next: 'Weigh again when it has cooled.' },
  'times-in-disorder': { says: () => 'This time is not after the one before it.', next: 'Put the rows in the order of time.' },
  'washed-heavier': {
    says: () => 'The washed mass cannot be above the one before washing.',
    next: 'Dry it to constant mass and weigh again.',
  },
  'film-on-stone': {
    says: () => 'A film of water was left on the stones: B is too high, the absorption too, and the dry gravity too low.',
    next: 'Wipe on with a damp cloth, large stones one by one, until the sheen is gone; weigh again at once.',
  },
  'stone-past-ssd': {
    says: () => 'The stones had dried past SSD: B is too low, the absorption too, and the dry gravity too high.',
    next: 'Back in the water for at least 30 min, then the towel again. Never mist them: the skin takes the water, the stone does not.',
  },
  'below-least-mass': {
    says: (p) =>
      `${at(p, 'have')} kg is less than it takes: at least ${at(p, 'least')} kg for a nominal maximum size of ${at(p, 'nominal')}.`,
    next: 'Take more of it; what is too little says nothing of the whole.',
  },
  'not-at-ssd': {
    says: () => 'The cone does not show SSD: no trial since the last wetting kept its shape first and then slumped.',
    next: 'Go on at the cone; or say why it is weighed all the same.',
  },
  'ssd-below-dry': { says: () => 'The SSD mass cannot be below the oven-dry mass.', next: 'Check both masses.' },
  'submerged-too-heavy': {
    says: () => 'The mass in water must be below the oven-dry mass in air.',
    next: 'Check that the basket was tared under water, and weigh again.',
  },
  'flask-too-heavy': {
    says: () => 'Flask, sample and water are too heavy: the sample would displace nothing.',
    next: 'Check the mark, the tare, and which mass is which.',
  },
  'companion-apart': {
    says: (p) => `The companion weighed ${at(p, 'apart')} g more or less at SSD than what went into the flask; at most ${at(p, 'most')} g.`,
    next: 'It is not used. Dry the flask’s own contents and key that mass.',
  },
  'masses-fall': {
    says: () => 'Masses that are added up from the coarsest sieve never fall.',
    next: 'Weigh it again, or say that the masses are of each sieve.',
  },
  'shares-not-whole': { says: (p) => `The shares add up to ${at(p, 'sum')} %, not to 100.`, next: 'Check the shares.' },
  'denser-than-grains': {
    says: () => 'The bulk cannot be as dense as its grains.',
    next: 'Check the specific gravity, the masses and the volume.',
  },
  'method-unfit': {
    says: (p) => `Not for this material. Use ${at(p, 'methods')}.`,
    next: 'Choose one of these.',
  },
  'no-trimming': {
    says: () => 'Never trim to an exact mass: what the last cut leaves is the test sample.',
    next: 'Clear the wished mass and take what the cuts leave.',
  },
  'bulk-too-small-for-all': {
    says: (p) => `Not enough for all of these tests: it takes at least ${at(p, 'least')}.`,
    next: 'Sample again, or leave a test out.',
  },
  'leaf-below-least': {
    says: (p) => `Below the least mass of this test (${at(p, 'least')}).`,
    next: 'Take the kept split beside it.',
  },
  'chutes-odd': { says: () => 'A splitter has an even number of equal chutes.', next: 'Count them again, or take another splitter.' },
  'chutes-few': { says: (p) => `This material takes at least ${at(p, 'least')} chutes.`, next: 'Take another splitter, or quarter it.' },
  'chutes-narrow': {
    says: (p) => `The chutes must be at least ${at(p, 'least')} wide, or the largest pieces bridge.`,
    next: 'Take a wider splitter, or quarter it.',
  },
  'chutes-for-fine': {
    says: (p) => `For dry fine aggregate passing 9.5 mm the chutes are ${at(p, 'least')} to ${at(p, 'most')} mm wide.`,
    next: 'Take a splitter for fine aggregate.',
  },
  'sieves-in-disorder': { says: () => 'Sieves stand coarsest first, each once.', next: 'Put them in order.' },
  'more-than-went-in': {
    says: (p) => `The sieves hold ${at(p, 'by')} % more than went in.`,
    next: 'Weigh each sieve again, and check that the dry mass is of this sample.',
  },
  'pan-twice': { says: () => 'The pan has two masses.', next: 'Clear one of them.' },
  'total-off': {
    says: (p) => `The masses add up to ${at(p, 'sum')} g, not to the total of ${at(p, 'total')} g that stands here.`,
    next: 'Check each mass, or clear the total.',
  },
  // Mix and batch
  'wetter-than-design': {
    says: () => 'The aggregates bring more water than the design has.',
    next: 'Weigh their moisture again, or dry them.',
  },
  // Strength
  'specimen-too-short': {
    says: (p) => `L/D is ${at(p, 'ratio')}: below 1 there is no correction, and no strength.`,
    next: 'Check the length. If it is right, take another specimen.',
  },
  'past-midspan': { says: () => 'This is past midspan.', next: 'Measure from the nearer support.' },
  'no-age-window': {
    says: (p) => `No tolerance is published for this age. There is one at ${at(p, 'ages')} days.`,
    next: 'Choose one of these ages, or agree a tolerance with the engineer.',
  },
  'broken-before-cast': { says: () => 'Broken before it was cast.', next: 'Check both times.' },
  'curing-out-of-order': {
    says: () => 'This cannot be before what comes first: molded, moved, arrived, out of the molds, into final curing.',
    next: 'Check the times and the days.',
  },
  'cold-above-warm': { says: () => 'The coldest cannot be above the warmest.', next: 'Check which of the two is which.' },
  'head-does-not-fall': { says: () => 'The head at the end must be below the one at the start.', next: 'Check which head is which.' },
  'total-falls': { says: () => 'A running total cannot fall.', next: 'Key what was collected since the start.' },
  'pressure-and-head': {
    says: (p) => `The pressure gives a head of ${at(p, 'pressure')} m, but ${at(p, 'head')} m was keyed.`,
    next: 'Clear one of the two, or mend it.',
  },
  'head-as-pressure': {
    says: (p) => `That is a head of only ${at(p, 'head')} m of water. 1 kgf/cm² is 10 m.`,
    next: 'If a head was read, key it as the head.',
  },
  'unlikely-permeability': {
    says: (p) => `Unlikely for this concrete: usual is ${at(p, 'least')} to ${at(p, 'most')} m/s.`,
    next: 'Check area, thickness, volume and time. If they are right, give a reason.',
  },
  // In place
  'swapped-leads': {
    says: () => 'A positive potential is unlikely: the leads are probably the wrong way round.',
    next: 'Positive lead to the steel, then read again. If they were swapped, key the reading with a minus.',
  },
  'swapped-map': {
    says: () => 'Every potential is positive: the leads are probably the wrong way round.',
    next: 'Check the leads; the signs of the whole map can be turned.',
  },
  'grid-too-wide': { says: (p) => `The grid may be at most ${at(p, 'most')} wide.`, next: 'Read between the points, or give a reason.' },
  'beyond-correlation': {
    says: (p) => `The pairs reach from ${at(p, 'least')} to ${at(p, 'most')}: nothing is estimated beyond them.`,
    next: 'Drill a core where the rebound is like this.',
  },
  'elements-mixed': {
    says: (p) => `Different elements or surfaces are never averaged: ${at(p, 'elements')}.`,
    next: 'Work out each by itself.',
  },
  // Sampling
  'portions-out-of-order': {
    says: () => 'The composite cannot be finished before its last portion.',
    next: 'Check the times of the portions.',
  },
  'more-than-loads': { says: (p) => `There are only ${at(p, 'loads')} loads.`, next: 'Ask for fewer samples.' },
  'discharged-before-batched': { says: () => 'The load cannot be discharged before it was batched.', next: 'Check both times.' },
  // A lab’s own copy of a variant
  'own-no-figure': { says: () => 'This is no figure.' },
  'own-whole': { says: () => 'A whole number, please.' },
  'own-significant': { says: () => 'From 1 to 9 significant figures.' },
  'own-far': { says: (p) => `In print it is ${at(p, 'printed')}: a lab’s own may be a tenth of it, or ten times as much, not more.` },
  'own-increment': { says: () => 'Results are rounded to 1, 2, 2.5 or 5, or to ten, a hundred, a tenth of these.' },
  'own-span': { says: () => 'The upper end must not be below the lower one.' },
  'own-order': { says: (p) => `It must stay ${at(p, 'side')} the row before.` },
  'own-unknown': { says: () => 'There is no such figure in print any more.' },
} as const satisfies Record<string, Entry>;
