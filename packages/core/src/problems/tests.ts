import { at, type Entry, type Params } from './words.js';

const ANOTHER_PORTION = 'Test again on another portion of the same sample.';
const NEW_AIR = 'Test again on a new portion.';

/** Why equipment was used all the same. */
const used = (p: Params): string => (p['used'] === undefined ? '' : ` Used all the same: ${p['used']}.`);

/** What makes a test void, and what marks it. */
export const TESTS = {
  // Slump
  'shape-shear': { says: () => 'A side sheared off. The test is void.', next: ANOTHER_PORTION },
  'sheared-twice': {
    says: () => 'Sheared twice running: this concrete lacks the cohesion for the slump test.',
    next: 'Make no third slump. Report that it lacks cohesion, without a number, and tell the engineer.',
    ends: true,
  },
  'shape-collapse': { says: () => 'The concrete collapsed. The test is void.', next: 'Repeat it once on a fresh sample.' },
  'collapsed-twice': {
    says: () => 'Collapsed twice running: this concrete is too fluid for the slump test.',
    next: 'Make no third slump. If the mix is meant to flow, measure the slump flow; otherwise tell the plant that it is too wet.',
    ends: true,
  },
  'collapse-read': {
    says: () => 'It collapsed: the slump says little. Either the concrete is too wet, or it is meant to flow.',
    next: 'If it is meant to flow, measure the slump flow. Otherwise make a check test.',
    counts: 'ask',
    by: 'EN 12350-2 (2019)',
  },
  'lift-time': {
    says: (p) => `The lift took ${at(p, 'got')} s; it must take ${at(p, 'least')} to ${at(p, 'most')} s. The test is void.`,
    next: ANOTHER_PORTION,
  },
  'total-time': {
    says: (p) => `It took ${at(p, 'got')} from the start of filling until the mold was off; at most ${at(p, 'most')}. The test is void.`,
    next: ANOTHER_PORTION,
  },
  'mold-moved': {
    says: (p) => `${at(p, 'what')}. The test is void.`,
    next: 'Put it right, then test again on another portion of the same sample.',
  },
  'not-sieved': {
    says: (p) => `Pieces above ${at(p, 'most')} must be taken out first. The test is void.`,
    next: 'Wet-sieve the sample and test again.',
  },
  'mold-height': {
    says: (p) => `The mold must be ${at(p, 'least')} to ${at(p, 'most')} high.`,
    next: 'Check the height keyed; put this mold aside if it is right.',
    counts: 'ask',
    by: 'ASTM C143/C143M (2020)',
  },
  // Temperature, density, air
  'not-steady': {
    says: (p) => `The sensor was in for ${at(p, 'got')}; at least ${at(p, 'least')} min and until steady.`,
    next: 'Put it back until it is steady, and read again.',
    counts: 'ask',
    by: 'ASTM C1064/C1064M (2023)',
  },
  'measure-too-small': {
    says: (p) =>
      `For aggregate of ${at(p, 'nominal')} nominal maximum size the measure must hold at least ${at(p, 'least')}; this one holds ${at(p, 'got')}.`,
    next: 'Fill a larger measure.',
    counts: 'ask',
    by: 'ASTM C138/C138M (2023)',
  },
  'meter-leaks': {
    says: () => 'The gauge did not hold or settle: the meter leaks. The test is void.',
    next: 'Clean the seals. Test again on a new portion.',
  },
  'petcock-open': { says: () => 'The main valve was opened with a petcock open. The test is void.', next: NEW_AIR },
  'water-in-chamber': {
    says: () => 'Water got into the air chamber. The test is void.',
    next: 'Dry the chamber, check the meter, then test again on a new portion.',
  },
  'read-early': { says: () => 'It was read before the petcocks were closed. The test is void.', next: NEW_AIR },
  'rollings-apart': {
    says: (p) => `The last two readings are ${at(p, 'apart')} % apart; at most ${at(p, 'most')} %.`,
    next: 'Roll again and read again, until two agree.',
    counts: 'no',
    by: 'ASTM C173/C173M (2016)',
  },
  'diameters-apart': {
    says: (p) => `The two diameters are ${at(p, 'apart')} apart; at most ${at(p, 'most')}.`,
    next: 'Level the board and test again.',
    counts: 'no',
    by: 'ASTM C1611/C1611M (2021)',
  },
  'out-of-calibration': {
    says: (p) => `${at(p, 'name')} was last calibrated on ${at(p, 'at')}; that was good until ${at(p, 'until')}.${used(p)}`,
    next: 'Take another one. If there is none, say why this one was used, and have it calibrated.',
    counts: 'ask',
    by: 'ISO/IEC 17025 (2017), 6.4',
  },
  'found-wrong': {
    says: (p) => `${at(p, 'name')} was found wrong on ${at(p, 'at')}: ${at(p, 'why')}.${used(p)}`,
    next: 'Test again with another one where the sample still can be; the engineer says whether this result counts.',
    counts: 'ask',
    by: 'ISO/IEC 17025 (2017), 6.4',
  },
  'never-calibrated': {
    says: (p) => `${at(p, 'name')} has no calibration.${used(p)}`,
    next: 'Take another one. If there is none, say why this one was used, and have it calibrated.',
    counts: 'ask',
    by: 'ISO/IEC 17025 (2017), 6.4',
  },
  'instrument-not-said': {
    says: (p) => `Nobody said with which ${at(p, 'kind')} it was made${p['why'] === undefined ? '.' : `: ${p['why']}.`}`,
    next: 'Say which one. If it is not on record, say why.',
    counts: 'ask',
    by: 'ISO/IEC 17025 (2017), 6.4',
  },
  // Aggregates
  'mass-went-up': {
    says: (p) => `The mass went up by ${at(p, 'gain')} g since the weighing before: it is not constant.`,
    next: 'Let it cool as before, dry the pan, check the balance. Then back into the oven and weigh again.',
    counts: 'no',
    by: 'ASTM C566 (2019)',
  },
  'flask-temperature': {
    says: (p) => `The water was at ${at(p, 'got')} °C; it must be ${at(p, 'target')} ± ${at(p, 'tolerance')} °C. The test is void.`,
    next: 'Bring the flask to temperature in the bath, fill to the mark, and weigh again.',
  },
  'step-early': {
    says: (p) => `At the bench: ${at(p, 'step')} was ${at(p, 'by')} too early (${at(p, 'why')}).`,
    next: 'Go back to that step and give it its time; what was weighed since is weighed again.',
    counts: 'ask',
    by: 'ASTM C128 (2022)',
  },
  'step-late': {
    says: (p) => `At the bench: ${at(p, 'step')} was ${at(p, 'by')} too late (${at(p, 'why')}).`,
    next: 'It counts as it is marked; where it matters, take another portion through.',
    counts: 'ask',
    by: 'ASTM C128 (2022)',
  },
  'tested-too-little': {
    says: (p) => `${at(p, 'have')} kg were tested; at least ${at(p, 'least')} kg belong to a nominal maximum size of ${at(p, 'nominal')}.`,
    next: 'Test more of the sample: so little says less of the whole.',
    counts: 'ask',
    by: 'ASTM C136/C136M (2019)',
  },
  'no-cone-trial': {
    says: () => 'No trial at the cone is on record: nothing shows that the sand was at SSD.',
    next: 'Make the cone trials beside it, from the wet side.',
    counts: 'ask',
    by: 'ASTM C128 (2022)',
  },
  'cone-overridden': {
    says: () => 'Taken as SSD although the trials do not show it.',
    next: 'Mix in a few mL of water, cover for 30 min, and come down from the wet side.',
    counts: 'ask',
    by: 'ASTM C128 (2022)',
  },
  'sieve-overloaded': {
    says: (p) => `Overloaded: ${at(p, 'sieves')} mm.`,
    next: 'Split what is on that sieve, shake each part again, and add the masses.',
    counts: 'no',
    by: 'ASTM C136/C136M (2019)',
  },
  'sieving-loss': {
    says: (p) => `${at(p, 'loss')} % was lost in sieving; at most ${at(p, 'most')} %.`,
    next: 'Look for what was lost or left in a sieve. If it is gone, sieve the other portion.',
    counts: 'no',
    by: 'ASTM C136/C136M (2019)',
  },
  'sieving-gain': {
    says: (p) => `${at(p, 'loss')} % was gained in sieving; at most ${at(p, 'most')} %.`,
    next: 'Clean sieves and pan, check the balance, and weigh again. Otherwise sieve the other portion.',
    counts: 'no',
    by: 'ASTM C136/C136M (2019)',
  },
  // Strength
  'diameters-differ': {
    says: (p) => `The two diameters differ by ${at(p, 'apart')} %; at most ${at(p, 'most')} %. Void: the specimen is not tested.`,
    next: 'Measure once more. If it is so, break the spare, and note what became of this one.',
  },
  'specimen-too-long': {
    says: (p) => `L/D is ${at(p, 'ratio')}; at most ${at(p, 'most')}.`,
    next: 'Trim it before it is broken.',
    counts: 'ask',
    by: 'ASTM C42/C42M (2020)',
  },
  'core-sawn-short': {
    says: (p) => `Before it was capped the core was ${at(p, 'ratio')} of its diameter long; at least ${at(p, 'least')}.`,
    next: 'Ask the engineer whether the core counts.',
    counts: 'ask',
    by: 'ASTM C42/C42M (2020)',
  },
  'pads-worn': {
    says: (p) => `${at(p, 'uses')} specimens were broken on these pads; at most ${at(p, 'most')}.`,
    next: 'Put in new pads before the next one. Doubt a low result before you doubt the concrete.',
    counts: 'ask',
    by: 'ASTM C1231/C1231M (2023)',
  },
  'pads-hardness': {
    says: (p) => `Pads of hardness ${at(p, 'hardness')} are not for ${at(p, 'strength')}; right for it: ${at(p, 'right')}.`,
    next: 'Put in pads of the right hardness before the next one.',
    counts: 'ask',
    by: 'ASTM C1231/C1231M (2023)',
  },
  'cube-broke-oddly': {
    says: () => 'The faces of the cube did not crack alike.',
    next: 'Look whether the faces are flat and the cube stood in the middle.',
    counts: 'ask',
    by: 'EN 12390-3 (2019)',
  },
  'strips-used': {
    says: () => 'The bearing strips had been used before; they are used once.',
    next: 'Take new strips for the next one.',
    counts: 'ask',
    by: 'ASTM C496/C496M (2017)',
  },
  'split-otherwise': {
    says: () => 'It did not split along the loaded diameter.',
    next: 'Look whether it was lined up, and note how it broke.',
    counts: 'ask',
    by: 'ASTM C496/C496M (2017)',
  },
  'cubes-scatter': {
    says: (p) => `A cube is further than ${at(p, 'within')} % from the mean of ${at(p, 'mean')} MPa. Void: the set gives no strength.`,
    next: 'Break the spare set of the same age, and look at caps, faces and loading of these.',
  },
  'broke-outside': {
    says: (p) => `It broke ${at(p, 'by')} % of the span outside the middle third; at most ${at(p, 'most')} %. The test is void.`,
    next: 'Break another beam of the set. Without one, report that this age has no flexural strength.',
  },
  'outside-age-window': {
    says: (p) => `Broken outside ${at(p, 'days')} d ± ${at(p, 'hours')} h.`,
    next: 'Tell the engineer; if there is a spare, break it at the next age.',
    counts: 'ask',
    by: 'ASTM C39/C39M (2024)',
  },
  'field-cured': {
    says: () => 'Cured with the structure: it says when forms may go, not whether the concrete is accepted.',
    next: 'Judge the concrete by a set that was cured as the method asks.',
    counts: 'no',
    by: 'ASTM C31/C31M (2024)',
  },
  'mold-too-small': {
    says: (p) => `The mold is narrower than ${at(p, 'times')} times the nominal maximum size of ${at(p, 'nominal')} mm.`,
    next: 'Use a larger mold, or wet-sieve the sample as the method says.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'initial-cure-cold': {
    says: (p) =>
      `In the first two days it was ${at(p, 'got')} ${at(p, 'unit')} beside the specimens; ${at(p, 'least')} to ${at(p, 'most')} is asked.`,
    next: 'Warm and cover the next set; the strength may read low.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'initial-cure-warm': {
    says: (p) =>
      `In the first two days it was ${at(p, 'got')} ${at(p, 'unit')} beside the specimens; ${at(p, 'least')} to ${at(p, 'most')} is asked.`,
    next: 'Shade and cool the next set; the strength at 28 days may read low.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'initial-cure-long': {
    says: (p) => `Initial curing lasted ${at(p, 'got')}; at most ${at(p, 'most')} h.`,
    next: 'Fetch the next set within two days.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'moved-early': {
    says: (p) => `Moved ${at(p, 'got')} after molding; not before ${at(p, 'least')} h after final set.`,
    next: 'Let the next set stand until it is hard. Look for damage on these.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'ride-long': {
    says: (p) => `On the road for ${at(p, 'got')}; at most ${at(p, 'most')} h.`,
    next: 'Plan a shorter way, or cure the next set on the site for longer.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'final-cure-late': {
    says: (p) => `From the mold to final curing it took ${at(p, 'got')}; at most ${at(p, 'most')} min.`,
    next: 'Demold the next set only when its place in the tank is ready.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'storage-outside': {
    says: (p) => `It is ${at(p, 'got')} ${at(p, 'unit')} where the specimens lie; ${at(p, 'least')} to ${at(p, 'most')} is asked.`,
    next: 'Set it right, read again within the hour, and note how long it was so: what lies there may read low or high.',
    counts: 'ask',
    by: 'ASTM C511 (2021)',
  },
  'not-wet-all-over': {
    says: () => 'Not every face of the specimens is wet.',
    next: 'Wet them at once, and look at the spray or the level of the water.',
    counts: 'ask',
    by: 'ASTM C511 (2021)',
  },
  'no-lime-left': {
    says: () => 'There is no lime left on the bottom of the tank.',
    next: 'Add hydrated lime and stir. Gloves and goggles.',
    counts: 'ask',
    by: 'ASTM C511 (2021)',
  },
  'rate-outside': {
    says: (p) => `The latter half was loaded at ${at(p, 'rate')} ${at(p, 'unit')}; ${at(p, 'target')} ± ${at(p, 'tolerance')} is asked.`,
    next: 'Set the machine before the next specimen.',
    counts: 'ask',
    by: 'ASTM C39/C39M (2024)',
  },
  'other-size': {
    says: (p) => `It measures ${at(p, 'got')}; its set is of ${at(p, 'set')}.`,
    next: 'Look at the label: it may be of another set. Keep it with a reason only where it is of this one.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'other-shape': {
    says: (p) => `Its set is of ${at(p, 'set')}: they are not tested for “${at(p, 'tested')}”.`,
    next: 'Look at the label: it may be of another set.',
    counts: 'ask',
    by: 'ASTM C31/C31M (2024)',
  },
  'companions-apart': {
    says: (p) => `The companions are ${at(p, 'range')} % of their mean apart; at most ${at(p, 'most')} %.`,
    next: 'Look for a cause: caps, alignment, damage. None is dropped by arithmetic alone. Break a spare if there is one.',
    counts: 'ask',
    by: 'ASTM C39/C39M (2024)',
  },
  // In place, durability
  'rebound-scatter': {
    says: (p) => `${at(p, 'count')} of ${at(p, 'of')} readings are too far off. Void: the whole area is thrown out.`,
    next: 'Take another area, at least 150 mm (6 in) across, and note this one.',
  },
  'flows-disagree': {
    says: (p) => `Inflow and outflow are ${at(p, 'apart')} % apart; at most ${at(p, 'within')} %: the flow is not steady.`,
    next: 'Look for a leak, wait until the two agree, and collect again.',
    counts: 'no',
    by: 'IS 3085 (1965)',
  },
  'bar-not-repeated': {
    says: () => 'The reference bar read again after the prisms is not what it was.',
    next: 'Read the whole set again, bar first.',
    counts: 'no',
    by: 'ASTM C157/C157M (2017)',
  },
  'initial-reading-off': {
    says: (p) => `The prisms were read for the first time after ${at(p, 'took')}; it belongs at ${at(p, 'belongs')}. The set is void.`,
    next: 'Cast another set. What this one shows is no length change by the method.',
    ends: true,
    whenVoid: true,
  },
  'prisms-demolded-off': {
    says: (p) => `The prisms were demolded after ${at(p, 'took')}; it belongs at ${at(p, 'belongs')}.`,
    next: 'Say so with every change of the set.',
    counts: 'no',
    by: 'ASTM C157/C157M (2017)',
  },
  // Sampling, clocks
  'one-grab': {
    says: () => 'One portion is not a composite.',
    next: 'Sample again: two or more portions from the middle of the discharge.',
  },
  'not-combined': {
    says: () => 'The portions were not combined.',
    next: 'Sample again, combine the portions and turn them.',
  },
  'portions-apart': {
    says: (p) => `First to last portion took ${at(p, 'took')}; at most ${at(p, 'most')}.`,
    next: 'Sample again.',
  },
  'sample-void': {
    says: (p) => `The sample is void, and so is every test and specimen of it: ${at(p, 'why')}`,
    next: 'Take the sample again and test that.',
    ends: true,
    whenVoid: true,
  },
  'portion-at-end': {
    says: () => 'A portion came from the first or the last tenth of the batch.',
    next: 'Take it from the middle next time; sample again where it matters.',
    counts: 'ask',
    by: 'ASTM C172/C172M (2017)',
  },
  'sample-too-small': {
    says: (p) => `At least ${at(p, 'least')} when strength specimens will be made.`,
    next: 'Take another portion while the truck is here.',
    counts: 'ask',
    by: 'ASTM C172/C172M (2017)',
  },
  'before-last-portion': {
    says: () => 'Started before the last portion was taken: not on the whole composite.',
    next: 'Test again on the composite.',
    counts: 'ask',
    by: 'ASTM C172/C172M (2017)',
  },
  late: {
    says: (p) => `${at(p, 'what')} after ${at(p, 'took')}; at most ${at(p, 'most')}.`,
    next: 'Repeat it on a new sample where it matters.',
    counts: 'ask',
    by: 'ASTM C172/C172M (2017)',
  },
} as const satisfies Record<string, Entry>;
