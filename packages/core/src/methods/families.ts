/** Things of the job that have a drawing of their own. */
export type Picture =
  | 'comparator'
  | 'cone'
  | 'bowl'
  | 'meter'
  | 'thermo'
  | 'cyl'
  | 'crush'
  | 'split'
  | 'beam'
  | 'sieve'
  | 'flask'
  | 'basket'
  | 'wash'
  | 'oven'
  | 'soak'
  | 'rodbulk'
  | 'ssd'
  | 'mix'
  | 'truck'
  | 'drop'
  | 'hammer'
  | 'cell'
  | 'prism'
  | 'perm'
  | 'hopper'
  | 'series'
  | 'scale'
  | 'pick'
  | 'heap'
  | 'clock'
  | 'frac'
  | 'mold'
  | 'rod'
  | 'sample'
  | 'press'
  | 'caliper'
  | 'set'
  | 'gauge';

export interface Family {
  readonly label: string;
  /** Its methods in the order of the work, each with the thing that it is done with. */
  readonly members: Readonly<Record<string, Picture>>;
}

/** Every method once, in the order of the work: how a list of them is grouped, and what stands beside each. */
export const FAMILIES: readonly Family[] = [
  {
    label: 'Sampling and the truck',
    members: {
      'sampling-frequency': 'pick',
      'random-loads': 'pick',
      composite: 'sample',
      'time-in-truck': 'truck',
      'water-on-site': 'drop',
    },
  },
  {
    label: 'Fresh concrete',
    members: {
      temperature: 'thermo',
      slump: 'cone',
      'slump-limits': 'cone',
      'slump-class': 'cone',
      workability: 'cone',
      'slump-flow': 'cone',
      'compaction-factor': 'hopper',
      consolidation: 'rod',
      density: 'bowl',
      yield: 'bowl',
      'gravimetric-air': 'bowl',
      'theoretical-density': 'bowl',
      'least-measure': 'bowl',
      rodding: 'rod',
      'pressure-air': 'meter',
      'aggregate-correction': 'meter',
      'wet-sieved-air': 'meter',
      'volumetric-air': 'flask',
      frustum: 'mold',
      'water-density': 'drop',
      'measure-calibration': 'bowl',
    },
  },
  {
    label: 'Mix and batch',
    members: {
      'absolute-volume': 'mix',
      proportions: 'mix',
      'moisture-correction': 'mix',
      'actual-wcm': 'drop',
      'trial-batch': 'scale',
    },
  },
  {
    label: 'Aggregate',
    members: {
      'least-mass': 'heap',
      reduction: 'heap',
      'reduction-tree': 'heap',
      splitter: 'heap',
      'constant-mass': 'oven',
      moisture: 'oven',
      wash: 'wash',
      gradation: 'sieve',
      'grading-band': 'sieve',
      'combined-grading': 'sieve',
      'coarse-gravity': 'basket',
      cone: 'ssd',
      'fine-gravity': 'flask',
      'flask-correction': 'flask',
      'combined-gravity': 'basket',
      'source-history': 'series',
      'bulk-density': 'rodbulk',
      'soak-start': 'soak',
    },
  },
  {
    label: 'Strength',
    members: {
      curing: 'cyl',
      storage: 'thermo',
      'age-window': 'clock',
      cylinder: 'crush',
      cube: 'crush',
      'cube-set': 'set',
      'loading-rate': 'press',
      splitting: 'split',
      'splitting-rate': 'split',
      flexure: 'beam',
      companions: 'set',
      'core-acceptance': 'cyl',
      'aci-acceptance': 'series',
      'en-acceptance': 'series',
      'is-acceptance': 'series',
      'required-average': 'series',
      'is-required-average': 'series',
      'strength-statistics': 'series',
      'control-grade': 'series',
      'early-warning': 'series',
    },
  },
  {
    label: 'In place',
    members: {
      rebound: 'hammer',
      'rebound-strength': 'hammer',
      'rebound-uniformity': 'hammer',
      'half-cell': 'cell',
      'half-cell-map': 'cell',
    },
  },
  {
    label: 'Over months',
    members: {
      'length-change': 'prism',
      'length-series': 'prism',
      'length-schedule': 'clock',
      'constant-head': 'perm',
      'falling-head': 'perm',
    },
  },
];

const pictures = new Map(FAMILIES.flatMap(({ members }) => Object.entries(members)));

/** The thing that a method is done with. */
export const pictureOf = (method: string): Picture => pictures.get(method) ?? 'frac';
