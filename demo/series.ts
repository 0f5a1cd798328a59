/* The deck mix week by week: a strength test of each pour, two cylinders at 7 days and three at 28; and what became of them. */
import type { DemoItem, DemoTest } from './months.js';

interface Dice {
  near(mean: number, sigma: number): number;
}

/** Days on which the approach was poured, before today. */
const CAST = [
  118, 114, 111, 107, 104, 100, 97, 93, 90, 86, 83, 79, 76, 72, 69, 65, 62, 58, 55, 51, 48, 44, 41, 38, 35, 32, 30, 28, 27, 24, 20, 16, 12,
  7,
];
/** From here on the sand drinks more than the batch allows for: water is lost to it, and made up for on site. */
const SHIFT = 42;
/** The lamp in the cure box went out that night. */
const COLD = 35;
/** Some of these went with the structure, for the forms. */
const FIELD = [58, 12];
const MEAN = { before: 38.2, after: 35.3 };
const AREA_KN = 8.107;
/** On these pads so many were broken before somebody counted. */
const WORN_FROM = 100;
const CHANGED_AT = 106;

const on = (day: number, clock: string): string => `day ${day} ${clock}`;
const minutes = (clock: string, more: number): string => {
  const [h, m] = clock.split(':').map(Number) as [number, number];
  const all = h * 60 + m + more;
  return `${String(Math.floor(all / 60)).padStart(2, '0')}:${String(all % 60).padStart(2, '0')}`;
};

interface Cast {
  readonly n: number;
  readonly day: number;
  readonly at: string;
  readonly strength: number;
  readonly by: string;
}

const MATERIALS = [
  { name: 'Cement', role: 'cement', target: '2040 kg', actual: '2038 kg' },
  { name: 'Fly ash', role: 'cementitious', target: '360 kg', actual: '361 kg' },
  { name: 'Water', role: 'water', target: '829 kg', actual: '830 kg' },
  { name: 'Brackdown sand', role: 'fine', target: '4439 kg', actual: '4441 kg', moisture: '4.1 %', absorption: '1.3 %' },
  { name: 'Pellick stone', role: 'coarse', target: '6012 kg', actual: '6010 kg', moisture: '1.1 %', absorption: '0.9 %' },
  { name: 'Admixtures', role: 'admixture', target: '12 kg', actual: '12 kg' },
];

/** From summer into autumn. @param day before today, negative */
const airOn = (day: number): string => `${Math.round(15 - day / 12)} C`;

/** Pour, load and sample of a cast. */
function poured({ n, day, at, by }: Cast): DemoItem[] {
  const [batched, sampled] = [on(day, minutes(at, -45)), on(day, minutes(at, -12))];
  return [
    {
      key: `approach ${n}`,
      kind: 'pour',
      mix: 'deck',
      name: `Approach, panel ${n}`,
      made: on(day, minutes(at, -90)),
      by,
      facts: { element: `Approach, panel ${n}`, planned: '18 m3', air: airOn(day) },
    },
    {
      key: `approach ${n} load`,
      kind: 'load',
      in: `approach ${n}`,
      made: on(day, minutes(at, -40)),
      by,
      facts: {
        ticket: `F-${3800 + 11 * n}`,
        truck: `Truck ${9 + (n % 6)}`,
        plant: 'Fernhaul',
        batchedAt: batched,
        design: '6 m3',
        materials: MATERIALS,
      },
      later: { at: on(day, minutes(at, 12)), by, facts: { discharged: on(day, minutes(at, 8)) } },
    },
    {
      key: `approach ${n} sample`,
      kind: 'sample',
      in: `approach ${n} load`,
      made: on(day, at),
      by,
      facts: { portions: [{ at: sampled }, { at: on(day, minutes(at, -9)) }], finished: on(day, minutes(at, -7)), molding: on(day, at) },
    },
  ];
}

interface Break {
  readonly at: string;
  /** For the order of the breaks: minutes before today. */
  readonly order: number;
  readonly strength: number;
  readonly key: string;
}

/** Sets with their cylinders; `breaks` is filled with those that were broken by now. */
function molded(cast: Cast, dice: Dice, breaks: Map<string, Break>): DemoItem[] {
  const { n, day, at, by } = cast;
  const set = (key: string, curing: string, ages: readonly (number | null)[], more: number): DemoItem[] => [
    {
      key,
      kind: 'specimen-set',
      in: `approach ${n} sample`,
      made: on(day, minutes(at, 10 + more)),
      by,
      facts: {
        madeAt: on(day, minutes(at, more)),
        shape: 'cylinder',
        width: '100 mm',
        length: '200 mm',
        curing,
        place: curing === 'field' ? 'beside the panel' : 'cure box 1, at the site hut',
      },
      later:
        curing === 'field'
          ? { at: on(day + 1, '08:30'), by, facts: { low: '9.0 C', high: '21.0 C' } }
          : {
              at: on(day + 1, '08:40'),
              by,
              facts: {
                low: day === -COLD ? '11.0 C' : `${(18 + dice.near(0, 0.6)).toFixed(1)} C`,
                high: `${(23 + dice.near(0, 0.8)).toFixed(1)} C`,
                demolded: on(day + 1, '08:10'),
                cured: on(day + 1, '08:28'),
                tank: 'Tank 1',
              },
            },
    },
    ...ages.map((age, i): DemoItem => {
      const letter = String.fromCharCode(65 + i);
      if (age !== null && day + age < 0) {
        const share = age === 7 ? 0.72 : 1;
        const field = curing === 'field' ? 0.86 : 1;
        const strength = dice.near(cast.strength * share * field, 0.55);
        const clock = minutes(at, 9 * i);
        const [h, m] = clock.split(':').map(Number) as [number, number];
        breaks.set(`${key} ${letter}`, {
          at: on(day + age, clock),
          order: (day + age) * 1440 + h * 60 + m,
          strength,
          key: `${key} ${letter}`,
        });
      }
      return {
        key: `${key} ${letter}`,
        kind: 'specimen',
        in: key,
        made: on(day, minutes(at, 11 + more + i)),
        by,
        facts: age === null ? {} : { age: `${age} d` },
      };
    }),
  ];
  return [
    ...set(`cast ${n}`, 'standard', [7, 7, 28, 28, 28, null], 0),
    ...(FIELD.includes(-day) ? set(`cast ${n} field`, 'field', [7, 7], 4) : []),
  ];
}

/** How it broke: ends come off where the pads are worn. */
function brokenTest({ at, strength }: Break, nth: number, dice: Dice): DemoTest {
  const worn = nth > WORN_FROM && nth <= CHANGED_AT;
  const odd = worn && nth % 2 === 1;
  const diameter = () => `${(101.6 + dice.near(0, 0.12)).toFixed(2)} mm`;
  return {
    method: 'cylinder',
    at,
    by: nth % 4 === 0 ? 'oakhanger' : 'sallow',
    also: [nth <= CHANGED_AT ? 'pads-1' : 'pads-2'],
    readings: {
      d1: diameter(),
      d2: diameter(),
      length: `${(203 + dice.near(0, 0.5)).toFixed(0)} mm`,
      load: `${((strength - (odd ? 3.6 : 0)) * AREA_KN).toFixed(1)} kN`,
      cap: 'pads',
      fracture: odd ? '5' : ['1', '2', '3', '3', '1', '4'][nth % 6]!,
    },
  };
}

/** Tanks and rooms, and what they were read at. */
function rooms(dice: Dice): DemoItem[] {
  const read = (day: number, temperature: string): DemoTest => ({
    method: 'storage',
    at: on(day, '07:35'),
    by: 'sallow',
    readings: { temperature: `${temperature} C`, wet: 'yes' },
  });
  return [
    { key: 'moist room', name: 'Moist room', kind: 'room' },
    { key: 'tank 1', name: 'Tank 1', kind: 'tank' },
  ].map(({ key, name, kind }): DemoItem => ({
    key,
    kind: 'storage',
    name,
    made: on(-118, '08:00'),
    by: 'thwaite',
    facts: { kind },
    tests: [-4, -3, -2, -1].map((day) => read(day, (22.7 + dice.near(0, 0.4)).toFixed(1))),
  }));
}

/** In the order in which they are made: what lies in another after it. */
export function series(dice: Dice): DemoItem[] {
  const breaks = new Map<string, Break>();
  const items = CAST.flatMap((before, i): DemoItem[] => {
    const mean = before > SHIFT ? MEAN.before : before === COLD ? 31.8 : MEAN.after;
    const cast: Cast = {
      n: i + 1,
      day: -before,
      at: minutes('09:10', (i * 37) % 170),
      strength: before === COLD ? dice.near(mean, 0.3) : dice.near(mean, 1.3),
      by: i % 3 === 1 ? 'sallow' : 'oakhanger',
    };
    return [...poured(cast), ...molded(cast, dice, breaks)];
  });
  const tests = new Map([...breaks.values()].sort((a, b) => a.order - b.order).map((b, i) => [b.key, brokenTest(b, i + 1, dice)]));
  return [...rooms(dice), ...items.map((item) => (tests.has(item.key) ? { ...item, tests: [tests.get(item.key)!] } : item))];
}
