import {
  compare,
  COMPARISON_IDS,
  convert,
  convertDifference,
  decimal,
  evaluate,
  exact,
  fieldShare,
  gainsNothing,
  isUnit,
  methodById,
  reported,
  significant,
  strengthTestOf,
  type AnyInputs,
  type Comparison,
  type Evaluation,
  type Exact,
  type Keyed,
  type System,
  type UnitId,
} from '../src/index.js';

/** One case of a vectors file: names as in its key list, numbers as decimal text. */
export interface Case {
  readonly method: string;
  readonly case: number;
  readonly note: string;
  readonly inputs: Readonly<Record<string, unknown>>;
  readonly expect: Readonly<Record<string, unknown>>;
}

type Inputs = Case['inputs'];
type Answer = Record<string, unknown>;

const text = (i: Inputs, key: string): string => String(i[key]);

/** Endings of the keys, longest first, and the units that they mean. */
const ENDINGS: readonly (readonly [string, UnitId])[] = [
  ['_lb_ft3', 'lb/ft3'],
  ['_kgf_cm2', 'kgf/cm2'],
  ['_psi_min', 'psi/min'],
  ['_MPa_min', 'MPa/min'],
  ['_MPa_s', 'MPa/s'],
  ['_cm2', 'cm2'],
  ['_lbf', 'lbf'],
  ['_kPa', 'kPa'],
  ['_MPa', 'MPa'],
  ['_bar', 'bar'],
  ['_psi', 'psi'],
  ['_kN', 'kN'],
  ['_mV', 'mV'],
  ['_m2', 'm2'],
  ['_cm', 'cm'],
  ['_m', 'm'],
  ['_kg_m3', 'kg/m3'],
  ['_ft3', 'ft3'],
  ['_yd3', 'yd3'],
  ['_pct', '%'],
  ['_pt', 'pt'],
  ['_m3', 'm3'],
  ['_mL', 'mL'],
  ['_mm', 'mm'],
  ['_in', 'in'],
  ['_lb', 'lb'],
  ['_kg', 'kg'],
  ['_g', 'g'],
  ['_L', 'L'],
  ['_F', 'F'],
  ['_C', 'C'],
  ['_s', 's'],
];

/** The quantity under `stem` with whatever unit its key ends in. */
function keyed(i: Inputs, stem: string): Keyed | null {
  for (const [ending, unit] of ENDINGS) {
    const value = i[stem + ending];
    if (typeof value === 'string') return { text: value, unit };
  }
  return null;
}

const US = /_(in|lb|ft3|yd3|F|lb_ft3)$/;

/** The test's system: that of its keys; a case in neither is SI. */
const systemOf = (i: Inputs): System => (Object.keys(i).some((key) => US.test(key)) ? 'us' : 'si');

function run(id: string, variant: string, input: object, system: System): Evaluation {
  const m = methodById(id);
  if (!m) throw new Error(`no method ${id}`);
  return evaluate(m, input as AnyInputs, { variant, system });
}

const result = (e: Evaluation, id: string) => e.results.find((r) => r.id === id);

/** `key` unrounded and `key_reported`, under the ending of the case's own system. */
function both(e: Evaluation, id: string, key: string): Answer {
  const r = result(e, id);
  return { [key]: r?.unrounded ?? null, [`${key}_reported`]: r?.reported ?? null };
}

/** Codes of the core under the words of the vectors. */
const SLUMP_REASONS: Readonly<Record<string, string>> = {
  'shape-collapse': 'collapse',
  'shape-shear': 'shear',
  'sheared-twice': 'shear',
  'collapsed-twice': 'collapse',
  'lift-time': 'lift_time',
  'total-time': 'total_time',
};

type Door = (i: Inputs) => Answer;

const rows = (i: Inputs, stem: string): Keyed[] => {
  for (const [ending, unit] of ENDINGS) {
    const list = i[stem + ending];
    if (Array.isArray(list)) return list.map((value) => ({ text: String(value), unit }));
  }
  return [];
};

/** A thin door for each name: it renames, and does no arithmetic of its own. */
const DOORS: Readonly<Record<string, Door>> = {
  'round.step': (i) => ({ value_reported: reported(exact(text(i, 'value')), text(i, 'step')) }),
  'e29.compare': (i) => {
    const ends = (['lower', 'upper'] as const).filter((side) => i[side] !== undefined);
    const under = (comparison: 'rounded' | 'absolute') =>
      ends.map((side) => compare({ value: exact(text(i, 'value')) }, text(i, side), side, comparison));
    const [rounded, absolute] = [under('rounded'), under('absolute')];
    const inside = [rounded.every((c) => c.inside), absolute.every((c) => c.inside)];
    return {
      ...Object.fromEntries(ends.map((side, k) => [`compared_${side}`, rounded[k]?.text])),
      inside_rounded: inside[0],
      inside_absolute: inside[1],
      schools_differ: inside[0] !== inside[1],
    };
  },
  'limit.reported': (i) => {
    const ends = (['lower', 'upper'] as const).filter((side) => i[side] !== undefined);
    const under = (comparison: Comparison) =>
      ends.map((side) => compare({ value: exact(text(i, 'value')), step: text(i, 'step') }, text(i, side), side, comparison));
    const inside = (comparison: Comparison): boolean => under(comparison).every((c) => c.inside);
    const all = COMPARISON_IDS.map(inside);
    return {
      compared: under('reported')[0]?.text,
      ...Object.fromEntries(COMPARISON_IDS.map((id, k) => [`inside_${id}`, all[k]])),
      schools_differ: new Set(all).size > 1,
    };
  },
  'units.convert': (i) => {
    const [from, to] = [text(i, 'from'), text(i, 'to')];
    const value = decimal(text(i, 'value'));
    if (!value || !isUnit(from) || !isUnit(to)) throw new Error('unknown unit');
    return {
      value: significant(i['kind'] === 'temperature_difference' ? convertDifference(value, from, to) : convert(value, from, to), 12),
    };
  },
  'slump.result': (i) => {
    const height = keyed(i, 'concrete_height');
    const e = run(
      'slump',
      text(i, 'variant'),
      {
        mold: keyed(i, 'mold_height'),
        [i['variant'] === 'us' ? 'centre' : 'highest']: height,
        shape: i['shape'],
        lift: keyed(i, 'lift'),
        total: keyed(i, 'total'),
        previous: i['previous_shape'] ?? null,
      },
      systemOf(i),
    );
    const isVoid = e.validity.state === 'void';
    return {
      void: isVoid,
      // A remark on a result that stands is no reason for anything to be void.
      reasons: isVoid ? e.validity.reasons.map((reason) => SLUMP_REASONS[reason.code] ?? reason.code) : [],
      lacks_cohesion: e.validity.reasons.some((reason) => reason.code === 'sheared-twice'),
      ...both(e, 'slump', systemOf(i) === 'us' ? 'slump_in' : 'slump_mm'),
      low_meaning: isVoid ? null : e.notes.some((note) => note.code === 'slump-says-little'),
    };
  },
  'slump.c94_limits': (i) => {
    const e = run('slump-limits', 'c94', { form: i['form'], value: keyed(i, 'value') }, systemOf(i));
    const unit = systemOf(i) === 'us' ? 'in' : 'mm';
    return { [`lower_${unit}`]: result(e, 'lower')?.unrounded, [`upper_${unit}`]: result(e, 'upper')?.unrounded };
  },
  'slump.en_class': (i) => {
    const e = run('slump-class', 'en206', { slump: keyed(i, 'slump') }, 'si');
    return { slump_mm_reported: result(e, 'slump')?.reported, class: result(e, 'class')?.words?.[0] ?? null };
  },
  'temperature.report': (i) => {
    const e = run('temperature', 'c1064', { temperature: keyed(i, 'temperature') }, systemOf(i));
    return { [`temperature_${systemOf(i) === 'us' ? 'F' : 'C'}_reported`]: result(e, 'temperature')?.reported };
  },
  'fresh.consolidation': (i) => ({
    allowed: result(run('consolidation', 'astm', { use: i['use'], slump: keyed(i, 'slump') }, systemOf(i)), 'allowed')?.words,
  }),
  'density.fresh': (i) => {
    const us = systemOf(i) === 'us';
    const e = run('density', i['variant'] === 'en' ? 'en' : 'astm', densityInputs(i), systemOf(i));
    return both(e, 'density', us ? 'density_lb_ft3' : 'density_kg_m3');
  },
  'density.least_measure': (i) => {
    const e = run('least-measure', 'c138', { nominal: keyed(i, 'nominal_max') }, systemOf(i));
    return { [`least_capacity_${systemOf(i) === 'us' ? 'ft3' : 'L'}`]: result(e, 'capacity')?.unrounded };
  },
  'density.strokes': (i) => {
    const us = systemOf(i) === 'us';
    const e = run('rodding', 'c138', { capacity: keyed(i, 'capacity'), diameter: keyed(i, 'diameter') }, systemOf(i));
    return {
      strokes_per_layer: Number(result(e, 'strokes')?.reported),
      surface_strokes: result(e, 'surface')?.unrounded ?? null,
      [us ? 'mallet_lb' : 'mallet_kg']: result(e, 'mallet')?.reported,
    };
  },
  'density.theoretical': (i) => {
    const us = systemOf(i) === 'us';
    const ingredients = (i['ingredients'] as Inputs[]).map((row) => ({
      name: row['name'],
      mass: keyed(row, 'mass'),
      sg: { text: text(row, 'sg'), unit: '1' },
    }));
    const e = run('theoretical-density', 'c138', { ingredients, water: keyed(i, 'water_density') }, systemOf(i));
    return {
      [us ? 'absolute_volume_ft3' : 'absolute_volume_m3']: result(e, 'absolute')?.unrounded,
      [us ? 'theoretical_lb_ft3' : 'theoretical_kg_m3']: result(e, 'theoretical')?.unrounded,
    };
  },
  'yield.batch': (i) => {
    const us = systemOf(i) === 'us';
    const e = run(
      'yield',
      text(i, 'variant'),
      {
        ...densityInputs(i),
        batch: rows(i, 'batch').map((mass) => ({ name: null, role: null, mass })),
        design: keyed(i, 'design'),
        cement: keyed(i, 'cement'),
      },
      systemOf(i),
    );
    return {
      [us ? 'density_used_lb_ft3' : 'density_used_kg_m3']: result(e, 'densityUsed')?.unrounded,
      ...(us ? { yield_ft3: result(e, 'yieldFt3')?.unrounded, ft3_per_design_yd3: result(e, 'perDesign')?.unrounded } : {}),
      ...both(e, 'yield', us ? 'yield_yd3' : 'yield_m3'),
      ...both(e, 'relative', 'relative_yield'),
      ...both(e, 'cementContent', us ? 'cement_lb_yd3' : 'cement_kg_m3'),
    };
  },
  'air.pressure_a': (i) => {
    const e = run('pressure-air', 'type-a', { h1: keyed(i, 'h1'), h2: keyed(i, 'h2'), ...meter(i) }, 'si');
    return { apparent_pct: result(e, 'apparent')?.unrounded, ...both(e, 'air', 'air_pct') };
  },
  'air.pressure_b': (i) => both(run('pressure-air', 'type-b', { gauge: keyed(i, 'gauge'), ...meter(i) }, 'si'), 'air', 'air_pct'),
  'air.correction_factor': (i) => {
    const us = systemOf(i) === 'us';
    const e = run(
      'aggregate-correction',
      'c231',
      {
        bowl: keyed(i, 'bowl'),
        batch: keyed(i, 'batch'),
        fine: keyed(i, 'fine_batch'),
        coarse: keyed(i, 'coarse_batch'),
        reading: keyed(i, 'reading'),
        removed: keyed(i, 'water_removed'),
      },
      systemOf(i),
    );
    return {
      [us ? 'fine_lb' : 'fine_kg']: result(e, 'fine')?.unrounded,
      [us ? 'coarse_lb' : 'coarse_kg']: result(e, 'coarse')?.unrounded,
      correction_pct: result(e, 'correction')?.unrounded,
    };
  },
  'slump.flow': (i) => {
    const e = run('slump-flow', 'c1611', { d1: keyed(i, 'd1'), d2: keyed(i, 'd2') }, systemOf(i));
    return { ...both(e, 'flow', systemOf(i) === 'us' ? 'flow_in' : 'flow_mm'), agree: yes(e, 'agree') };
  },
  'air.volumetric': (i) => {
    const cups = { text: text(i, 'water_cups'), unit: '1' };
    const input = {
      previous: keyed(i, 'reading_previous'),
      final: keyed(i, 'reading_final'),
      alcohol: keyed(i, 'alcohol'),
      correction: keyed(i, 'correction'),
      cups,
    };
    const e = run('volumetric-air', 'c173', input, systemOf(i));
    return { ...both(e, 'air', 'air_pct'), rollings_agree: yes(e, 'agree') };
  },
  'air.wet_sieved': (i) => {
    const e = run(
      'wet-sieved-air',
      'c231',
      { sieved: keyed(i, 'sieved_air'), passing: keyed(i, 'vc'), total: keyed(i, 'vt'), over: keyed(i, 'va') },
      systemOf(i),
    );
    return both(e, 'air', 'air_pct');
  },
  compaction_factor: (i) => {
    const e = run('compaction-factor', 'is', factorInputs(i), 'si');
    return {
      ...both(e, result(e, 'factor')?.state === 'given' ? 'factor' : 'asKeyed', 'cf'),
      finding: result(e, 'finding')?.words?.[0],
      cf_if_swapped: result(e, 'swapped')?.unrounded ?? null,
    };
  },
  'compaction_factor.stated': (i) => {
    const e = run('compaction-factor', 'is', { ...factorInputs(i), stated: { text: text(i, 'stated'), unit: '1' } }, 'si');
    return { ...both(e, 'factor', 'cf'), finding: result(e, 'finding')?.words?.[0] };
  },
  'volume.frustum': (i) => {
    const e = run('frustum', 'exact', { base: keyed(i, 'base'), top: keyed(i, 'top'), height: keyed(i, 'height') }, systemOf(i));
    return {
      volume_m3: result(e, 'cubicMetres')?.unrounded,
      volume_L: result(e, 'litres')?.unrounded,
      volume_ft3: result(e, 'cubicFeet')?.unrounded,
    };
  },
  'water.density': (i) => {
    const e = run('water-density', 'formula', { temperature: keyed(i, 'temperature') }, systemOf(i));
    return { density_kg_m3: result(e, 'density')?.unrounded, density_lb_ft3: result(e, 'pounds')?.unrounded };
  },
  'aggregate.least_mass': (i) => {
    const e = run('least-mass', 'astm', { test: i['test'], nominal: keyed(i, 'nominal_max') }, 'si');
    return { least_kg: result(e, 'least')?.unrounded };
  },
  'reduction.plan': (i) => {
    const input = {
      bulk: keyed(i, 'bulk'),
      least: keyed(i, 'least'),
      material: i['material'],
      wet: i['wetter_than_ssd'] === true ? 'yes' : 'no',
    };
    const e = run('reduction', 'c702', input, 'si');
    const cuts = result(e, 'cuts')?.reported;
    return {
      refused: yes(e, 'refused'),
      cuts: typeof cuts === 'string' ? Number(cuts) : null,
      left_kg: result(e, 'left')?.unrounded ?? null,
      methods: result(e, 'methods')?.words,
    };
  },
  constant_mass: (i) => {
    const track = (i['track'] as Inputs[]).map((row) => ({ minute: { text: text(row, 'minute'), unit: 'min' }, mass: keyed(row, 'mass') }));
    const e = run('constant-mass', text(i, 'variant'), { track }, 'si');
    const next = result(e, 'next')?.exact;
    return {
      state: result(e, 'state')?.words?.[0],
      loss_g: result(e, 'loss')?.unrounded ?? null,
      loss_pct: result(e, 'lossShare')?.unrounded ?? null,
      next_minute: typeof next === 'string' ? significant(exact(next), 12) : null,
    };
  },
  'moisture.total': (i) => {
    const e = run('moisture', 'c566', { wet: keyed(i, 'wet'), dry: keyed(i, 'dry'), absorption: keyed(i, 'absorption') }, 'si');
    return { ...both(e, 'moisture', 'moisture_pct'), surface_pct: result(e, 'surface')?.unrounded ?? null };
  },
  'wash.finer75': (i) => both(run('wash', 'a', { before: keyed(i, 'before'), after: keyed(i, 'after') }, 'si'), 'finer', 'finer_pct'),
  'sg.coarse': (i) => {
    const e = run('coarse-gravity', schoolOf(i), { dry: keyed(i, 'dry'), ssd: keyed(i, 'ssd'), inWater: keyed(i, 'in_water') }, 'si');
    return { ...gravities(e), density_od_kg_m3: result(e, 'densityOd')?.unrounded, density_ssd_kg_m3: result(e, 'densitySsd')?.unrounded };
  },
  'sg.fine': (i) => {
    const input = {
      ssd: keyed(i, 'ssd'),
      flaskWater: keyed(i, 'flask_water'),
      flaskSample: keyed(i, 'flask_sample_water'),
      dry: keyed(i, 'dry'),
      companionSsd: keyed(i, 'companion_ssd'),
      companionDry: keyed(i, 'companion_dry'),
    };
    const e = run('fine-gravity', schoolOf(i), input, 'si');
    const companion = result(e, 'companion')?.words?.[0];
    return {
      ...gravities(e),
      dry_used_g: result(e, 'dryUsed')?.unrounded,
      companion_ok: companion === undefined ? null : companion === 'yes',
    };
  },
  'sg.flask_correction': (i) => {
    const tolerance = { text: text(i, 'tolerance_C'), unit: 'dC' };
    const input = {
      empty: keyed(i, 'flask_empty'),
      water: keyed(i, 'flask_water'),
      calibratedAt: keyed(i, 'calibration'),
      testedAt: keyed(i, 'test'),
      target: keyed(i, 'target'),
      tolerance,
    };
    const e = run('flask-correction', 'astm', input, 'si');
    return {
      flask_volume_mL: result(e, 'volume')?.unrounded,
      flask_water_corrected_g: result(e, 'corrected')?.unrounded,
      shift_g: result(e, 'shift')?.unrounded,
      temperature_ok: yes(e, 'fits'),
    };
  },
  'sg.combine': (i) => {
    const fractions = (i['fractions'] as Inputs[]).map((row) => ({
      share: keyed(row, 'share'),
      sg: { text: text(row, 'sg'), unit: '1' },
      absorption: keyed(row, 'absorption'),
    }));
    const e = run('combined-gravity', schoolOf(i), { fractions }, 'si');
    return { ...both(e, 'gravity', 'sg'), ...both(e, 'absorption', 'absorption_pct') };
  },
  bulk_density: (i) => {
    const us = systemOf(i) === 'us';
    const e = run(
      'bulk-density',
      'c29',
      { ...densityInputs(i), water: keyed(i, 'water_density'), gravity: { text: text(i, 'sg_od'), unit: '1' } },
      systemOf(i),
    );
    return {
      [us ? 'bulk_density_lb_ft3' : 'bulk_density_kg_m3']: result(e, 'density')?.unrounded,
      voids_pct: result(e, 'voids')?.unrounded,
    };
  },
  'measure.calibration': (i) => {
    const system = i['filled_lb'] === undefined ? 'si' : 'us';
    const e = run(
      'measure-calibration',
      'c29',
      { filled: keyed(i, 'filled'), empty: keyed(i, 'empty'), temperature: keyed(i, 'temperature') },
      system,
    );
    return both(e, 'volume', system === 'us' ? 'volume_ft3' : 'volume_L');
  },
  'mix.absolute_volume': (i) => {
    const us = systemOf(i) === 'us';
    const ingredients = (i['ingredients'] as Inputs[]).map((row) => ({
      name: row['name'],
      role: row['role'],
      mass: keyed(row, 'mass'),
      sg: { text: text(row, 'sg'), unit: '1' },
    }));
    const e = run('absolute-volume', 'volume', { ingredients, air: keyed(i, 'air'), water: keyed(i, 'water_density') }, systemOf(i));
    const v = us ? 'ft3' : 'm3';
    return {
      [`volumes_${v}`]: list(e, 'volumes'),
      [`air_volume_${v}`]: result(e, 'airVolume')?.unrounded,
      [`design_yield_${v}`]: result(e, 'yield')?.unrounded,
      [`miss_${v}`]: result(e, 'miss')?.unrounded,
      wcm: result(e, 'wcm')?.unrounded,
      [us ? 'theoretical_lb_ft3' : 'theoretical_kg_m3']: result(e, 'theoretical')?.unrounded,
    };
  },
  'mix.proportions': (i) => {
    const us = i['water_density_lb_ft3'] !== undefined;
    const one = (key: string) => ({ text: text(i, key), unit: '1' });
    const input = {
      fineParts: one('fine_parts'),
      coarseParts: one('coarse_parts'),
      wc: one('wc'),
      sgCement: one('sg_cement'),
      sgFine: one('sg_fine'),
      sgCoarse: one('sg_coarse'),
      air: keyed(i, 'air'),
      water: keyed(i, 'water_density'),
    };
    const e = run('proportions', 'mass', input, us ? 'us' : 'si');
    const m = us ? 'lb' : 'kg';
    const masses = ['cement', 'fine', 'coarse', 'water'].map((id) => [`${id}_${m}`, result(e, id)?.unrounded]);
    return { ...(Object.fromEntries(masses) as Answer), [us ? 'density_lb_ft3' : 'density_kg_m3']: result(e, 'density')?.unrounded };
  },
  'mix.moisture_correction': (i) => {
    const aggregates = (i['aggregates'] as Inputs[]).map((row) => ({
      name: row['name'],
      ssd: keyed(row, 'ssd'),
      moisture: keyed(row, 'moisture'),
      absorption: keyed(row, 'absorption'),
    }));
    const system = i['water_lb'] === undefined ? 'si' : 'us';
    const e = run('moisture-correction', 'dry', { water: keyed(i, 'water'), aggregates }, system);
    const m = system === 'us' ? 'lb' : 'kg';
    return {
      [`oven_dry_${m}`]: list(e, 'ovenDry'),
      [`batch_${m}`]: list(e, 'batch'),
      [`free_water_${m}`]: list(e, 'free'),
      [`water_to_weigh_${m}`]: result(e, 'toWeigh')?.unrounded,
    };
  },
  'mix.actual_wcm': (i) => {
    const aggregates = (i['aggregates'] as Inputs[]).map((row) => ({
      name: row['name'],
      batched: keyed(row, 'batched'),
      moisture: keyed(row, 'moisture'),
      absorption: keyed(row, 'absorption'),
    }));
    const input = {
      cementitious: keyed(i, 'cementitious'),
      batched: keyed(i, 'water_batched'),
      added: keyed(i, 'water_added'),
      aggregates,
    };
    const system = i['cementitious_lb'] === undefined ? 'si' : 'us';
    const e = run('actual-wcm', 'ticket', input, system);
    return { [system === 'us' ? 'free_water_lb' : 'free_water_kg']: result(e, 'free')?.unrounded, wcm: result(e, 'wcm')?.unrounded };
  },
  'age.window': (i) => {
    const e = run('age-window', 'c39', { age: { text: String(i['age_d']), unit: 'd' }, cast: i['cast'], broken: i['broken'] }, 'si');
    const word = (id: string) => result(e, id)?.words?.[0];
    return {
      due_utc: word('due'),
      window_start_utc: word('from'),
      window_end_utc: word('to'),
      off_h: result(e, 'off')?.unrounded,
      in_window: yes(e, 'inWindow'),
    };
  },
  'time.soak_start': (i) => {
    const e = run('soak-start', text(i, 'variant'), { end: i['soak_end'] }, 'si');
    return { earliest_start_utc: result(e, 'earliest')?.words?.[0], latest_start_utc: result(e, 'latest')?.words?.[0] };
  },
  'compression.cylinder': (i) => {
    const us = systemOf(i) === 'us' || i['load_lbf'] !== undefined;
    const e = run(
      'cylinder',
      'c39',
      { d1: keyed(i, 'd1'), d2: keyed(i, 'd2'), length: keyed(i, 'length'), load: keyed(i, 'load') },
      us ? 'us' : 'si',
    );
    const isVoid = e.validity.state === 'void';
    const l = us ? 'in' : 'mm';
    return {
      void: isVoid,
      ...both(e, 'diameter', `mean_diameter_${l}`),
      ld_ratio: result(e, 'ratio')?.unrounded ?? null,
      ld_factor: result(e, 'factor')?.unrounded ?? null,
      ...both(e, 'strength', us ? 'strength_psi' : 'strength_MPa'),
    };
  },
  'compression.cube': (i) =>
    both(run('cube', 'en', { a: keyed(i, 'side_a'), b: keyed(i, 'side_b'), load: keyed(i, 'load') }, 'si'), 'strength', 'strength_MPa'),
  'compression.cube_set_is': (i) => {
    const e = run('cube-set', 'is', { cubes: rows(i, 'strengths').map((strength) => ({ strength })) }, 'si');
    return { mean_MPa: result(e, 'mean')?.unrounded, void: e.validity.state === 'void' };
  },
  splitting: (i) => {
    const us = i['load_lbf'] !== undefined;
    const e = run(
      'splitting',
      'c496',
      { diameters: rows(i, 'diameters').map((d) => ({ d })), lengths: rows(i, 'lengths').map((l) => ({ l })), load: keyed(i, 'load') },
      us ? 'us' : 'si',
    );
    const l = us ? 'in' : 'mm';
    return {
      [`mean_diameter_${l}`]: result(e, 'diameter')?.unrounded,
      [`mean_length_${l}`]: result(e, 'length')?.unrounded,
      ...both(e, 'strength', us ? 'strength_psi' : 'strength_MPa'),
    };
  },
  'splitting.machine_rate': (i) => {
    const us = i['rate_psi_min'] !== undefined;
    const e = run(
      'splitting-rate',
      'c496',
      { diameter: keyed(i, 'diameter'), length: keyed(i, 'length'), rate: keyed(i, 'rate') },
      us ? 'us' : 'si',
    );
    return { [us ? 'load_rate_lbf_min' : 'load_rate_kN_s']: result(e, 'rate')?.unrounded };
  },
  'flexure.third_point': (i) => {
    const e = run('flexure', 'third-point', { ...beam(i), at: keyed(i, 'break_from_support') }, i['load_lbf'] === undefined ? 'si' : 'us');
    return {
      zone: result(e, 'zone')?.words?.[0],
      void: e.validity.state === 'void',
      ...both(e, 'modulus', i['load_lbf'] === undefined ? 'modulus_MPa' : 'modulus_psi'),
    };
  },
  'flexure.centre_point': (i) =>
    both(
      run('flexure', 'centre-point', beam(i), i['load_lbf'] === undefined ? 'si' : 'us'),
      'modulus',
      i['load_lbf'] === undefined ? 'modulus_MPa' : 'modulus_psi',
    ),
  'accept.aci': (i) => {
    const us = i['fc_psi'] !== undefined;
    const e = run('aci-acceptance', 'aci318', { specified: keyed(i, 'fc'), tests: strengths(i, 'tests') }, us ? 'us' : 'si');
    const s = us ? 'psi' : 'MPa';
    return {
      [`running_means_${s}`]: list(e, 'runs'),
      rule_a_fails: positions(e, 'ruleA'),
      rule_b_fails: positions(e, 'ruleB'),
      acceptable: yes(e, 'acceptable'),
      [`next_at_least_${s}`]: result(e, 'next')?.unrounded,
      [`single_floor_${s}`]: result(e, 'floor')?.unrounded,
    };
  },
  'accept.cores': (i) => {
    const us = i['fc_psi'] !== undefined;
    const e = run('core-acceptance', 'aci318', { specified: keyed(i, 'fc'), cores: strengths(i, 'cores') }, us ? 'us' : 'si');
    return { [us ? 'mean_psi' : 'mean_MPa']: result(e, 'mean')?.unrounded, ...conformity(e) };
  },
  'accept.en206': (i) => {
    const e = run(
      'en-acceptance',
      text(i, 'stage'),
      { specified: keyed(i, 'fck'), sigma: keyed(i, 'sigma'), results: strengths(i, 'results') },
      'si',
    );
    return {
      mean_MPa: result(e, 'mean')?.unrounded,
      mean_limit_MPa: result(e, 'meanLimit')?.unrounded,
      single_limit_MPa: result(e, 'floor')?.unrounded,
      ...conformity(e),
    };
  },
  'accept.en206_initial': (i) => {
    const e = run('en-acceptance', 'initial', { specified: keyed(i, 'fck'), results: strengths(i, 'results') }, 'si');
    return {
      group_means_MPa: list(e, 'groups'),
      group_fails: positions(e, 'groupFails'),
      single_fails: positions(e, 'singles'),
      acceptable: yes(e, 'acceptable'),
    };
  },
  'accept.is456': (i) => {
    const e = run(
      'is-acceptance',
      'is456',
      { specified: keyed(i, 'fck'), deviation: keyed(i, 's'), results: strengths(i, 'results') },
      'si',
    );
    return {
      margin_MPa: result(e, 'margin')?.unrounded,
      mean_limit_MPa: result(e, 'meanLimit')?.unrounded,
      group_means_MPa: list(e, 'groups'),
      group_fails: positions(e, 'groupFails'),
      single_fails: positions(e, 'singles'),
      acceptable: yes(e, 'acceptable'),
    };
  },
  'accept.required_average': (i) => {
    const us = i['fc_psi'] !== undefined;
    const e = run(
      'required-average',
      'aci301',
      { specified: keyed(i, 'fc'), tests: { text: String(i['n_tests']), unit: '1' }, deviation: keyed(i, 's') },
      us ? 'us' : 'si',
    );
    return { k: result(e, 'k')?.unrounded ?? null, [us ? 'fcr_psi' : 'fcr_MPa']: result(e, 'required')?.unrounded };
  },
  'accept.aci_ages': (i) => {
    const s = i['fc_28_psi'] === undefined ? 'MPa' : 'psi';
    const sets = i['sets'] as readonly Readonly<Record<string, string>>[];
    return Object.assign(
      {},
      ...[28, 56].map((age) => {
        // A set without a result at an age is skipped there; what fails is named by the number of its set.
        const at = sets.flatMap((set, n) => (set[`d${age}_${s}`] === undefined ? [] : [{ n: n + 1, text: set[`d${age}_${s}`]! }]));
        const tests = at.map(({ text: value }) => ({ strength: { text: value, unit: s } }));
        const e = run('aci-acceptance', 'aci318', { specified: keyed(i, `fc_${age}`), tests }, s === 'psi' ? 'us' : 'si');
        const named = (id: string) => positions(e, id).map((k) => at[k - 1]!.n);
        return {
          [`running_means_${age}_${s}`]: list(e, 'runs'),
          [`rule_a_fails_${age}`]: named('ruleA'),
          [`rule_b_fails_${age}`]: named('ruleB'),
          [`single_floor_${age}_${s}`]: result(e, 'floor')?.unrounded,
          [`acceptable_${age}`]: yes(e, 'acceptable'),
        };
      }),
    ) as Answer;
  },
  'strength.required_average_is': (i) => {
    const e = run('is-required-average', 'is10262', { specified: keyed(i, 'fck'), deviation: keyed(i, 's') }, 'si');
    const of = (id: string) => result(e, id)?.unrounded;
    return { s_used_MPa: of('used'), x_MPa: of('margin'), fcr_MPa: of('required') };
  },
  'strength.field_share': (i) => {
    const s = i['fc_psi'] === undefined ? 'MPa' : 'psi';
    const { share, beyond, by } = fieldShare(
      keyed(i, 'field_mean')!,
      keyed(i, 'standard_mean')!,
      keyed(i, 'fc')!,
      s === 'psi' ? 'us' : 'si',
    );
    return { share_pct: significant(share, 12), [`fc_plus_${s}`]: significant(beyond, 12), adequate: by.length > 0, by };
  },
  'strength.no_gain': (i) => {
    const s = i['companions_7_psi'] === undefined ? 'MPa' : 'psi';
    const mean = (age: number): string =>
      strengthTestOf(
        { shape: 'cylinder', width: 100, cured: 'standard', laboratory: false, system: s === 'psi' ? 'us' : 'si' },
        (i[`companions_${age}_${s}`] as string[]).map((value) => ({
          property: 'strength',
          value: { text: value, unit: s },
          void: false,
          remarks: [],
          left: null,
        })),
      ).mean!;
    const [early, late] = [mean(7), mean(28)];
    return {
      [`mean_7_${s}`]: significant(exact(early), 12),
      [`mean_28_${s}`]: significant(exact(late), 12),
      [`gain_${s}`]: significant(exact(late).sub(exact(early)), 12),
      no_gain: gainsNothing({ mean: early, unit: s }, { mean: late, unit: s }),
    };
  },
  'stats.series': (i) => {
    const us = i['companions_psi'] !== undefined;
    const s = us ? 'psi' : 'MPa';
    const sets = i[`companions_${s}`] as string[][];
    const e = run(
      'strength-statistics',
      'aci214',
      { tests: sets.map((set) => ({ companions: set.map((x) => ({ strength: { text: x, unit: s } })) })) },
      us ? 'us' : 'si',
    );
    return {
      [`tests_${s}`]: list(e, 'tests'),
      [`mean_${s}`]: result(e, 'mean')?.unrounded,
      [`s_${s}`]: result(e, 'deviation')?.unrounded,
      v_pct: result(e, 'variation')?.unrounded,
      [`running_means_${s}`]: list(e, 'runs'),
      [`mean_range_${s}`]: result(e, 'meanRange')?.unrounded,
      [`s1_${s}`]: result(e, 'within')?.unrounded,
      v1_pct: result(e, 'withinVariation')?.unrounded,
    };
  },
  gradation: (i) => {
    const sieves = (i['sieves'] as Inputs[]).map((row) => ({ opening: keyed(row, 'opening'), retained: keyed(row, 'retained') }));
    const e = run(
      'gradation',
      'c136',
      { dry: keyed(i, 'dry_mass'), area: keyed(i, 'sieve_area'), washed: keyed(i, 'washed_mass'), sieves, pan: keyed(i, 'pan') },
      'si',
    );
    const over = new Set((result(e, 'overloaded')?.words ?? []).map((o) => significant(exact(o), 6)));
    return {
      retained_pct: list(e, 'retained'),
      cumulative_pct: list(e, 'cumulative'),
      passing_pct: list(e, 'passing'),
      passing_pct_reported: result(e, 'reported')?.words,
      ...both(e, 'fineness', 'fineness_modulus'),
      loss_pct: result(e, 'loss')?.unrounded,
      loss_ok: yes(e, 'lossOk'),
      overload_limit_kg: list(e, 'limits'),
      overloaded_mm: (i['sieves'] as Inputs[]).map((row) => text(row, 'opening_mm')).filter((o) => over.has(significant(exact(o), 6))),
    };
  },
  halfcell: (i) => {
    const e = run(
      'half-cell',
      'c876',
      { potential: keyed(i, 'potential'), electrode: i['electrode'], temperature: keyed(i, 'temperature') },
      systemOf(i),
    );
    return {
      temperature_correction_mV: result(e, 'correction')?.unrounded,
      potential_cse_mV: result(e, 'cse')?.unrounded,
      class: result(e, 'class')?.words?.[0],
    };
  },
  rebound: (i) => {
    const e = run(
      'rebound',
      text(i, 'variant'),
      { readings: (i['readings'] as string[]).map((value) => ({ value: { text: value, unit: '1' } })) },
      'si',
    );
    return {
      void: e.validity.state === 'void',
      mean_all: result(e, 'all')?.unrounded ?? null,
      discarded: result(e, 'discarded')?.words ?? [],
      far_from_median: result(e, 'far')?.words ?? [],
      ...both(e, 'number', 'rebound'),
    };
  },
  length_change: (i) => {
    const us = i['gauge_in'] !== undefined;
    const [initial, now, drying] = [rows(i, 'initial'), rows(i, 'specimens'), rows(i, 'drying')];
    const prisms = now.map((_n, k) => ({ initial: initial[k] ?? null, now: now[k] ?? null, drying: drying[k] ?? null }));
    const e = run(
      'length-change',
      'c157',
      { gauge: keyed(i, 'gauge'), initialBar: keyed(i, 'initial_bar'), bar: keyed(i, 'bar'), dryingBar: keyed(i, 'drying_bar'), prisms },
      us ? 'us' : 'si',
    );
    return {
      change_pct: list(e, 'changes'),
      change_pct_reported: result(e, 'changes')?.series?.map((f) => f.reported),
      ...both(e, 'mean', 'mean_pct'),
      ...both(e, 'fromDrying', 'from_drying_mean_pct'),
    };
  },
  'permeability.constant_head': (i) => {
    const input = {
      volume: keyed(i, 'volume'),
      time: keyed(i, 'time'),
      area: keyed(i, 'area'),
      thickness: keyed(i, 'thickness'),
      temperature: keyed(i, 'temperature'),
      pressure: keyed(i, 'pressure'),
      head: keyed(i, 'head'),
      water: keyed(i, 'water_density'),
    };
    const e = run('constant-head', text(i, 'variant'), input, 'si');
    return {
      head_m: result(e, 'head')?.unrounded,
      k_t_m_s: result(e, 'measured')?.unrounded,
      k_27_m_s: result(e, 'standard')?.unrounded,
      k_27_cm_s: result(e, 'centimetres')?.unrounded,
    };
  },
  'permeability.falling_head': (i) => {
    const trials = (i['trials'] as Inputs[]).map((row) => ({ time: keyed(row, 'time'), h1: keyed(row, 'h1'), h2: keyed(row, 'h2') }));
    const e = run(
      'falling-head',
      'mean',
      { tube: keyed(i, 'tube_area'), specimen: keyed(i, 'specimen_area'), length: keyed(i, 'length'), trials },
      'si',
    );
    return { k_cm_s: list(e, 'trials'), mean_k_cm_s: result(e, 'mean')?.unrounded, mean_k_m_s: result(e, 'metres')?.unrounded };
  },
  'air.gravimetric': (i) => {
    const e = run(
      'gravimetric-air',
      text(i, 'form'),
      {
        theoretical: keyed(i, 'theoretical'),
        density: keyed(i, 'density'),
        made: keyed(i, 'yield'),
        absolute: keyed(i, 'absolute_volume'),
      },
      systemOf(i),
    );
    return both(e, 'air', 'air_pct');
  },
};

const schoolOf = (i: Inputs): string => (/^c/.test(text(i, 'variant')) ? 'astm' : 'aashto');
const gravities = (e: Evaluation): Answer => ({
  ...both(e, 'od', 'sg_od'),
  ...both(e, 'ssd', 'sg_ssd'),
  ...both(e, 'apparent', 'sg_apparent'),
  ...both(e, 'absorption', 'absorption_pct'),
});
const list = (e: Evaluation, id: string): string[] => (result(e, id)?.series ?? []).map((f) => f.unrounded);
const positions = (e: Evaluation, id: string): number[] => (result(e, id)?.words ?? []).map(Number);
const strengths = (i: Inputs, stem: string) => rows(i, stem).map((strength) => ({ strength }));
const conformity = (e: Evaluation): Answer => ({
  mean_ok: yes(e, 'meanOk'),
  single_fails: positions(e, 'singles'),
  acceptable: yes(e, 'acceptable'),
});
const beam = (i: Inputs) => ({
  load: keyed(i, 'load'),
  span: keyed(i, 'span'),
  widths: rows(i, 'widths').map((b) => ({ b })),
  depths: rows(i, 'depths').map((d) => ({ d })),
});
const yes = (e: Evaluation, id: string): boolean => result(e, id)?.words?.[0] === 'yes';
const factorInputs = (i: Inputs) => ({ empty: keyed(i, 'empty'), partial: keyed(i, 'partial'), full: keyed(i, 'full') });
const densityInputs = (i: Inputs) => ({ full: keyed(i, 'full'), empty: keyed(i, 'empty'), volume: keyed(i, 'volume') });
const meter = (i: Inputs) => ({ correction: keyed(i, 'correction'), division: keyed(i, 'dial_division') });

export interface Difference {
  readonly key: string;
  readonly expected: unknown;
  readonly got: unknown;
}

/** Decimal text, also as `1.5e-9`. */
function real(value: string): Exact | null {
  const [mantissa = '', power] = value.split('e');
  const base = decimal(mantissa);
  return base && power !== undefined ? base.mul(exact('10').pow(Number(power))) : base;
}

/** Unrounded values agree to 10 significant digits, everything else to the letter. */
function same(key: string, expected: unknown, got: unknown): boolean {
  if (Array.isArray(expected) && Array.isArray(got) && !key.endsWith('_reported')) {
    return expected.length === got.length && expected.every((one, k) => same(key, one, got[k]));
  }
  if (typeof expected !== 'string' || typeof got !== 'string' || key.endsWith('_reported'))
    return JSON.stringify(expected) === JSON.stringify(got);
  const [a, b] = [real(expected), real(got)];
  if (!a || !b || key.startsWith('compared')) return expected === got;
  return significant(a, 10) === significant(b, 10);
}

/** Null where the core has no method for the case yet; otherwise what differs. */
export function check(c: Case): Difference[] | null {
  const door = DOORS[c.method];
  if (!door) return null;
  const got = door(c.inputs);
  return Object.entries(c.expect)
    .filter(([key, expected]) => !same(key, expected, got[key]))
    .map(([key, expected]) => ({ key, expected, got: got[key] ?? null }));
}
