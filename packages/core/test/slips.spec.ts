import { evaluate, guidance, methodById, unspell, type Evaluation, type Shape, type Spelled } from '../src/index.js';

interface How {
  readonly variant?: string;
  readonly system?: 'si' | 'us';
}

const under = (id: string, spelled: Spelled, how: How = {}): Evaluation => {
  const m = methodById(id)!;
  return evaluate(m, unspell(m.fields as Shape, spelled), {
    variant: how.variant ?? Object.keys(m.variants)[0]!,
    system: how.system ?? 'si',
  });
};

/** What is offered in one press, as its button says it. */
const offers = (id: string, spelled: Spelled, how?: How): string[] =>
  guidance(methodById(id)!, under(id, spelled, how)).flatMap((t) => (t.offers === undefined ? [] : [`${t.path ?? ''}: ${t.offers}`]));
const codes = (id: string, spelled: Spelled, how?: How): string[] => under(id, spelled, how).issues.map((i) => `${i.path} ${i.code}`);
const given = (e: Evaluation, id: string): string | null => e.results.find((r) => r.id === id && r.state === 'given')?.reported ?? null;

describe('slips', () => {
  const cases: [string, Spelled, string[], How?][] = [
    // Seen only in what they make together.
    ['moisture', { wet: '1050.9 g', dry: '100 g' }, ['dry: Meant 1000 g']],
    ['cylinder', { d1: '100 mm', d2: '100 mm', length: '200 mm', load: '33 kN' }, ['load: Meant 330 kN']],
    ['gravimetric-air', { theoretical: '2400 kg/m3', density: '140 kg/m3' }, ['density: Meant 140 lb/ft³']],
    // Of units.
    ['least-mass', { test: 'c136', nominal: '0.75 mm' }, ['nominal: Meant 0.75 in']],
    ['frustum', { base: '200 mm', top: '100 mm', height: '30 mm' }, ['height: Meant 30 cm']],
    ['aci-acceptance', { specified: '28 MPa', tests: [{ strength: '2390 MPa' }] }, ['tests.0.strength: Meant 23.9 MPa']],
    ['cube', { a: '15 mm', b: '150 mm', load: '675 kN' }, ['a: Meant 15 cm']],
    ['cylinder', { d1: '6 in', d2: '6 in', length: '12 in', load: '114.2 lbf' }, ['load: Meant 114.2 kip'], { system: 'us' }],
    ['fine-gravity', { ssd: '0.5 g', flaskWater: '661.8 g', flaskSample: '971.6 g', dry: '494 g' }, ['ssd: Meant 0.5 kg']],
    // Of one unit in several readings: one press.
    ['density', { full: '18600 kg', empty: '3210 kg', volume: '7.043 L' }, ['full: Meant 18.6 kg and 3210 g']],
    ['cylinder', { d1: '4.01 mm', d2: '4.00 mm', length: '8.01 mm', load: '74.2 kN' }, ['d1: Meant 4.01, 4.00 and 8.01 in']],
    ['coarse-gravity', { dry: '3.168 g', ssd: '3.2 g', inWater: '2.003 g' }, ['dry: Meant 3.168, 3.2 and 2.003 kg']],
    // Of place: the right pair is named.
    [
      'fine-gravity',
      { ssd: '500 g', flaskWater: '971.6 g', flaskSample: '661.8 g', dry: '494 g' },
      ['flaskWater: Exchange flask and water to the mark and flask, sample and water to the mark'],
    ],
    // Also where one of the two is unlikely by itself: what is offered there would be the wrong mend.
    ['density', { full: '3.21 kg', empty: '19.31 kg', volume: '7.043 L' }, ['full: Exchange measure full and measure empty, damp']],
    ['coarse-gravity', { dry: '3168 g', ssd: '2003 g', inWater: '3200 g' }, ['ssd: Exchange SSD mass in air and apparent mass in water']],
    ['coarse-gravity', { dry: '3200 g', ssd: '3168 g', inWater: '2003 g' }, ['dry: Exchange oven-dry mass in air and SSD mass in air']],
    [
      'compaction-factor',
      { empty: '8 kg', partial: '20.5 kg', full: '19 kg', stated: '1.09' },
      ['partial: Exchange cylinder with concrete that fell and cylinder, fully compacted'],
    ],
    // A lead the wrong way round, not a tenth of it.
    ['half-cell', { potential: '285 mV', electrode: 'cse', temperature: '22 C' }, ['potential: Meant -285 mV']],
  ];
  for (const [id, spelled, wanted, how] of cases) it(`${id}: ${wanted.join(', ')}`, () => expect(offers(id, spelled, how)).toEqual(wanted));

  it('what is offered makes the whole usual, and right readings are offered nothing', () => {
    expect(offers('cylinder', { d1: '100 mm', d2: '100 mm', length: '200 mm', load: '330 kN' })).toEqual([]);
    expect(offers('coarse-gravity', { dry: '3168 g', ssd: '3200 g', inWater: '2003 g' })).toEqual([]);
    expect(codes('moisture', { wet: '105.09 g', dry: '100 g' })).toEqual([]);
  });

  it('an unlikely result needs a reason, also where no single slip explains it', () => {
    expect(codes('density', { full: '193.1 kg', empty: '32.1 kg', volume: '7.043 L' })).toEqual(['full unlikely-result']);
    expect(codes('density', { full: '19.31 kg', empty: '3.21 kg', volume: '7.043 L' })).toEqual([]);
    const factor = { bowl: '7 L', batch: '1 m3', fine: '700 kg', coarse: '1000 kg', removed: '0 mL' };
    expect(codes('aggregate-correction', { ...factor, reading: '4.9 %' })).toEqual(['reading unlikely-result']);
    expect(codes('aggregate-correction', { ...factor, reading: '0.4 %' })).toEqual([]);
    expect(codes('splitting', { diameters: [{ d: '150 mm' }], lengths: [{ l: '300 mm' }], load: '2310 kN' })).toContain(
      'load implausible-value',
    );
  });

  it('sand with 0.051 % of moisture is asked about; dry sand is not', () => {
    const sand = (moisture: string) => ({ water: '160 kg', aggregates: [{ name: 'Sand', ssd: '700 kg', moisture, absorption: '1.2 %' }] });
    expect(codes('moisture-correction', sand('0.051 %'))).toEqual(['aggregates.0.moisture implausible-value']);
    expect([codes('moisture-correction', sand('0 %')), codes('moisture-correction', sand('5.1 %'))]).toEqual([[], []]);
  });

  it('limits in a sentence are in the unit that was keyed, to four figures, and on their own side of it', () => {
    const load = under('cylinder', { d1: '6 in', d2: '6 in', length: '12 in', load: '114.2 lbf' }, { system: 'us' });
    expect(load.issues[0]?.params).toEqual(jasmine.objectContaining({ least: '1124', most: '1349000', unit: 'lbf' }));
    const cold = under('temperature', { temperature: '-6 C' }).issues[0];
    expect(guidance(methodById('temperature')!, under('temperature', { temperature: '-6 C' }))[0]?.says).toContain(
      'must be above -5 and at most 100 °C',
    );
    expect(cold?.params['unit']).toBe('°C');
  });

  it('a choice that there is not is refused, and nothing is computed with it', () => {
    expect(codes('consolidation', { use: 'bucket', slump: '50 mm' })).toEqual(['use not-an-option']);
    const frame = { dry: '500 g', frame: 'square', sieves: [{ opening: '4.75 mm', retained: '500 g' }], pan: '0 g' };
    expect(codes('gradation', frame)).toEqual(['frame not-an-option']);
  });
});

describe('what is true of a result', () => {
  it('fine gravity: a companion outside its tolerance is not used; the flask’s own dry mass counts', () => {
    const e = under('fine-gravity', {
      ssd: '500.0 g',
      flaskWater: '661.8 g',
      flaskSample: '971.6 g',
      dry: '490.0 g',
      companionSsd: '505.0 g',
      companionDry: '499.0 g',
    });
    expect([given(e, 'absorption'), e.results.find((r) => r.id === 'companion')?.words]).toEqual(['2.0', ['no']]);
    expect(e.notes.map((n) => n.code)).toEqual(['companion-not-used']);
  });

  it('pressure air: below 8 % no division of the dial is asked for; above it is, and its text is never a step that throws', () => {
    const air = (gauge: string, more = {}) => under('pressure-air', { gauge, correction: '0.4 %', ...more });
    expect([given(air('6.0 %'), 'air'), air('6.0 %').missing]).toEqual(['5.6', []]);
    expect([given(air('8.4 %'), 'air'), air('8.4 %').missing]).toEqual([null, ['division']]);
    expect(given(air('8.4 %', { division: '0.5 %' }), 'air')).toBe('8.00');
    expect(() => air('8.4 %', { division: '0.1234567890123456789012 %' })).not.toThrow();
  });

  it('gravimetric air: denser than without air is refused a silent pass, and so is 94 %', () => {
    expect(codes('gravimetric-air', { theoretical: '2400 kg/m3', density: '2475 kg/m3' })).toEqual([
      'theoretical denser-than-air-free',
      'theoretical unlikely-result',
    ]);
    expect(codes('gravimetric-air', { theoretical: '2400 kg/m3', density: '140 kg/m3' })).toEqual(['density unlikely-result']);
  });

  it('constant mass, overnight: a gain is not constant', () => {
    const track = (later: string) => ({
      track: [
        { minute: '0 min', mass: '500 g' },
        { minute: '960 min', mass: later },
      ],
    });
    const state = (later: string) =>
      under('constant-mass', track(later), { variant: 'overnight' }).results.find((r) => r.id === 'state')?.words;
    expect(state('500.0 g')).toEqual(['constant']);
    expect(state('500.4 g')).not.toEqual(['constant']);
  });

  it('permeability: three significant figures, and pressure and head that contradict each other are refused', () => {
    const e = (more: Spelled) =>
      under('constant-head', {
        volume: '50 mL',
        time: '3600 s',
        area: '176 cm2',
        thickness: '150 mm',
        temperature: '27 C',
        water: '1000 kg/m3',
        ...more,
      });
    expect(e({ pressure: '0.5 MPa', head: '10 m' }).issues.map((i) => i.code)).toEqual(['pressure-and-head']);
    expect(e({ pressure: '0.5 MPa' }).issues).toEqual([]);
    expect(given(e({ pressure: '0.5 MPa' }), 'measured')?.replace(/^0\.0*/, '').length).toBe(3);
  });

  it('half-cell: the class is of the potential as it is; on a boundary, or rounded to one, that is said', () => {
    const read = (potential: string) => {
      const e = under('half-cell', { potential, electrode: 'cse', temperature: '22.2 C' });
      return [given(e, 'cse'), e.results.find((r) => r.id === 'class')?.words?.[0], e.notes.map((n) => n.code)];
    };
    expect(read('-190 mV')).toEqual(['-190', 'no_corrosion', []]);
    expect(read('-199 mV')).toEqual(['-200', 'no_corrosion', ['rounds-to-a-boundary']]);
    expect(read('-200 mV')).toEqual(['-200', 'uncertain', ['on-a-boundary']]);
    // Before the leads are changed there is no class.
    expect(read('285 mV')[1]).toBeUndefined();
  });

  it('compaction factor: above one is refused; what was stated is compared to its own places', () => {
    const masses = { empty: '8 kg', partial: '19 kg', full: '20.5 kg' };
    expect(given(under('compaction-factor', { empty: '8 kg', partial: '22 kg', full: '20.5 kg' }), 'factor')).toBeNull();
    const stated = (text: string) => under('compaction-factor', { ...masses, stated: text }).results.find((r) => r.id === 'finding')?.words;
    expect([stated('0.88'), stated('0.880'), stated('0.885')]).toEqual([['agrees'], ['agrees'], ['unexplained']]);
    expect(under('compaction-factor', { stated: '-0.08' }).results.find((r) => r.id === 'finding')?.words).toEqual([
      'numerator_between_full_masses',
    ]);
  });

  it('a gain in sieving is a gain; a standard deviation of too few tests is not dropped without a word', () => {
    const sieved = {
      dry: '500 g',
      sieves: [
        { opening: '4.75 mm', retained: '100 g' },
        { opening: '2.36 mm', retained: '100 g' },
      ],
      pan: '325 g',
    };
    expect(under('gradation', sieved).validity.reasons.map((r) => r.code)).toEqual(['sieving-gain']);
    expect(under('required-average', { specified: '28 MPa', tests: '10', deviation: '3 MPa' }).notes.map((n) => n.code)).toContain(
      'few-tests',
    );
  });

  it('sieves have names, and a pan and a total among the rows are what they say', () => {
    const named = under('gradation', {
      dry: '500 g',
      sieves: [
        { opening: '3/8 in mm', retained: '0 g' },
        { opening: 'No. 4 mm', retained: '12 g' },
        { opening: '2360 µm mm', retained: '63 g' },
        { opening: 'Pan mm', retained: '425 g' },
        { opening: 'Total mm', retained: '500 g' },
      ],
    });
    expect([named.issues, named.missing]).toEqual([[], []]);
    expect(
      named.results
        .find((r) => r.id === 'passing')
        ?.series?.slice(0, 3)
        .map((f) => Number(f.unrounded)),
    ).toEqual([100, 97.6, 85]);
  });

  it('a beam that broke outside has no strength under either loading, and a variant answers only from its own readings', () => {
    const beam = { load: '30 kN', span: '450 mm', widths: [{ b: '150 mm' }], depths: [{ d: '150 mm' }] };
    const e = under('flexure', { ...beam, at: '100 mm' });
    expect([e.validity.state, given(e, 'modulus')]).toEqual(['void', null]);
    expect(guidance(methodById('flexure')!, e)[0]?.next).toEqual([
      'Break another beam of the set. Without one, report that this age has no flexural strength.',
    ]);
    // A slump measured to the centre is none to the highest point.
    expect(given(under('slump', { shape: 'true', mold: '300 mm', drop: '100 mm' }, { variant: 'en' }), 'slump')).toBeNull();
    expect(given(under('slump', { shape: 'true', mold: '300 mm', dropHighest: '100 mm' }, { variant: 'en' }), 'slump')).toBe('100');
  });

  it('a specimen is not consolidated like a measure, and either way is said to be either', () => {
    const how = (spelled: Spelled) => under('consolidation', spelled).results;
    const words = (spelled: Spelled, id: string) => how(spelled).find((r) => r.id === id)?.words ?? [];
    expect(words({ use: 'measure', slump: '50 mm' }, 'choice')).toEqual(['either']);
    expect(words({ use: 'specimen', size: 'c100', slump: '50 mm' }, 'how')).not.toEqual(words({ use: 'measure', slump: '50 mm' }, 'how'));
  });
});

describe('a void test', () => {
  const void_ = (spelled: Spelled) => under('cylinder', spelled);

  it('still says why: the spread of the diameters, but no strength', () => {
    const e = void_({ d1: '100 mm', d2: '103 mm', length: '200 mm', load: '300 kN' });
    expect([e.validity.state, given(e, 'diameter'), given(e, 'apart'), given(e, 'strength')]).toEqual(['void', '101.50', '3.0', null]);
    expect(e.validity.reasons.map((r) => r.code)).toEqual(['diameters-differ']);
  });

  it('has no remark and no words that read as if it stood', () => {
    for (const spelled of [
      { shape: 'shear', mold: '296 mm', drop: '100 mm', lift: '9 s' },
      { shape: 'collapse', mold: '296 mm', drop: '240 mm' },
    ]) {
      const e = under('slump', spelled, { variant: spelled.shape === 'collapse' ? 'four_layer' : 'us' });
      if (e.validity.state !== 'void') continue;
      for (const t of guidance(methodById('slump')!, e)) {
        expect(t.kind).not.toBe('mark');
        expect(t.counts).toBeUndefined();
      }
      expect(e.results.filter((r) => r.state === 'given').map((r) => r.id)).toEqual([]);
    }
  });
});
