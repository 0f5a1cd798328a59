import {
  compare,
  convert,
  convertDifference,
  decimal,
  evaluate,
  exact,
  isUnit,
  methodById,
  reported,
  significant,
  type AnyInputs,
  type Evaluation,
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
    const under = (school: 'rounded' | 'absolute') => ends.map((side) => compare(exact(text(i, 'value')), text(i, side), side, school));
    const [rounded, absolute] = [under('rounded'), under('absolute')];
    const inside = [rounded.every((c) => c.inside), absolute.every((c) => c.inside)];
    return {
      ...Object.fromEntries(ends.map((side, k) => [`compared_${side}`, rounded[k]?.text])),
      inside_rounded: inside[0],
      inside_absolute: inside[1],
      schools_differ: inside[0] !== inside[1],
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
      reasons: e.validity.reasons.map((reason) => SLUMP_REASONS[reason.code] ?? reason.code),
      lacks_cohesion: e.notes.some((note) => note.code === 'lacks-cohesion'),
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
      ...both(e, 'factor', 'cf'),
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
const yes = (e: Evaluation, id: string): boolean => result(e, id)?.words?.[0] === 'yes';
const factorInputs = (i: Inputs) => ({ empty: keyed(i, 'empty'), partial: keyed(i, 'partial'), full: keyed(i, 'full') });
const densityInputs = (i: Inputs) => ({ full: keyed(i, 'full'), empty: keyed(i, 'empty'), volume: keyed(i, 'volume') });
const meter = (i: Inputs) => ({ correction: keyed(i, 'correction'), division: keyed(i, 'dial_division') });

export interface Difference {
  readonly key: string;
  readonly expected: unknown;
  readonly got: unknown;
}

/** Unrounded values agree to 10 significant digits, everything else to the letter. */
function same(key: string, expected: unknown, got: unknown): boolean {
  if (typeof expected !== 'string' || typeof got !== 'string' || key.endsWith('_reported'))
    return JSON.stringify(expected) === JSON.stringify(got);
  const [a, b] = [decimal(expected), decimal(got)];
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
