import {
  againstHistory,
  faultMap,
  duplicatesApart,
  dueWords,
  duesOf,
  giftsOf,
  inputsOf,
  methodById,
  nextRunStep,
  plan,
  planOf,
  runById,
  runMarks,
  RUNS,
  runSteps,
  trialsCountFrom,
  evaluate,
  type AnyInputs,
  type DueItem,
} from '../src/index.js';

const HOUR = 3_600_000;
const MONDAY = Date.parse('2026-11-09T00:00:00Z');
/** Hours of that week. */
const h = (hours: number) => MONDAY + hours * HOUR;
const fine = runById('fine-aashto')!;
const coarse = runById('coarse-aashto')!;
const log = (steps: Readonly<Record<string, number>>) => Object.entries(steps).map(([step, at]) => ({ step, at: h(at) }));
const next = (job: typeof fine, steps: Readonly<Record<string, number>>) => {
  const found = nextRunStep(runSteps(job, log(steps)));
  return found && [found.id, found.opensAt && (found.opensAt - MONDAY) / HOUR, found.endsAt && (found.endsAt - MONDAY) / HOUR];
};

describe('a run at the bench', () => {
  it('ends in tests that there are, each of its steps kept by one that is made on what goes through it', () => {
    const made = (id: string, kind: 'portion' | 'trial-batch') => methodById(id)?.on?.includes(kind) ?? false;
    const named = RUNS.flatMap((r) =>
      [...r.tests!, ...r.events.flatMap((e) => e.test ?? [])].map((id) => [id, r.on ?? 'portion'] as const),
    );
    expect(named.filter(([id, kind]) => !made(id, kind))).toEqual([]);
    expect(RUNS.flatMap((r) => (r.backs ?? []).filter((b) => !r.events.some((e) => e.id === b.to)))).toEqual([]);
  });

  it('waits for its next step, from when what it follows has had its time', () => {
    expect(next(fine, {})).toEqual(['oven', null, null]);
    expect(next(fine, { oven: 8 })).toEqual(['dry', 9.5, null]);
    expect(next(fine, { oven: 8, dry: 12, soak: 13 })).toEqual(['cone', 28, 32]);
    expect(next(fine, { oven: 8, dry: 12, soak: 13, cone: 29, flask: 30, oven2: 32, weigh: 36 })).toBeNull();
  });

  it('goes back: past SSD the sand is covered for half an hour, over-dried stone lies in water as long, and the soak counts as it was', () => {
    const soaked = { oven: 8, dry: 12, soak: 13, cone: 29 };
    expect(next(fine, { ...soaked, wetted: 30 })).toEqual(['flask', 30.5, null]);
    const stone = { oven: 8, dry: 12, soak: 14, ssd: 30 };
    expect(next(coarse, { ...stone, back: 30.25 })).toEqual(['ssd', 30.75, null]);
    // Then it waits as long as somebody likes: nothing says that it soaked too long.
    expect(nextRunStep(runSteps(coarse, log({ ...stone, back: 30.25 })))!.late).toBe('');
    expect(runMarks(coarse, [...log({ ...stone, back: 30.25 }), { step: 'ssd', at: h(31) }])).toEqual([]);
    expect(runMarks(coarse, [...log({ ...stone, back: 30.25 }), { step: 'ssd', at: h(30.5) }]).map((m) => m.code)).toEqual(['step-early']);
    // Dried anew it begins there again: what came after is not done any more.
    expect(next(fine, { soak: 13, cone: 29, oven: 40 })).toEqual(['dry', 41.5, null]);
  });

  it('a soak that was too short or too long stands on the result, with by how much; what only a lab is used to does not', () => {
    const marks = (steps: Readonly<Record<string, number>>) => runMarks(fine, log(steps)).map((m) => [m.code, m.params['by']]);
    expect(marks({ soak: 0, cone: 14 })).toEqual([['step-early', '1 h']]);
    expect(marks({ soak: 0, cone: 20.5 })).toEqual([['step-late', '1 h 30 min']]);
    expect(marks({ soak: 0, cone: 19 })).toEqual([]);
    expect(marks({ oven: 0, dry: 0.5, soak: 0.6 })).toEqual([]);
    const wetted = runMarks(fine, log({ soak: 0, cone: 16, wetted: 17, flask: 17.25 }));
    expect(wetted.map((m) => m.params['step'])).toEqual(['SSD: into the flask']);
  });

  it('trials at the cone count from when it was wetted last, and later wetting takes nothing back', () => {
    const from = (steps: Readonly<Record<string, number>>, before?: number) => {
      const found = trialsCountFrom(fine, log(steps), before === undefined ? undefined : h(before));
      return found === null ? null : (found - MONDAY) / HOUR;
    };
    expect([
      from({ soak: 13, cone: 29 }),
      from({ soak: 13, cone: 29, wetted: 30 }),
      from({ soak: 13, cone: 29, wetted: 30 }, 29.5),
    ]).toEqual([13, 30, 13]);
    expect(trialsCountFrom(coarse, log({ soak: 1 }))).toBeNull();
  });

  it('is planned from where it stands, against opening hours', () => {
    const { events, links } = planOf(fine, log({ oven: 8, dry: 12, soak: 13 }));
    const days = [0, 24, 48].map((day) => ({ from: h(day + 7), to: h(day + 17) }));
    const made = plan(events, links, days, 'earliest', h(14));
    const best = Object.fromEntries(made.events.map((e) => [e.id, (e.best - MONDAY) / HOUR]));
    expect([made.ok, Object.keys(best)[0]]).toEqual([true, 'cone']);
    // Soaked from 13:00 it may be drained from 04:00; somebody is there from 07:00.
    expect(best['cone']! >= 31 && best['cone']! <= 32).toBeTrue();
    expect(best['weigh']! > 31 && best['weigh']! <= 41).toBeTrue();
  });

  it('is waited for on the day, what was done too', () => {
    const facts = { run: 'fine-aashto', steps: [{ step: 'soak', at: new Date(h(13)).toISOString() }] } as unknown as AnyInputs;
    const item: DueItem = { kind: 'portion', facts, events: {}, tests: [], sources: {}, properties: [], truckMinutes: null };
    expect(duesOf(item).map((d) => [d.id, (d.opensAt - MONDAY) / HOUR, d.doneAt && (d.doneAt - MONDAY) / HOUR])).toEqual([
      ['run:soak', 13, 13],
      ['run:cone', 28, null],
    ]);
    expect(dueWords('portion', 'run:cone', facts)).toEqual(jasmine.objectContaining({ group: 'bench', window: 'soaks for 15 to 19 h' }));
    expect(duesOf({ ...item, facts: { run: 'fine-aashto' } })).toEqual([]);
    // Planned, its first step is due then; once that is done the plan says nothing any more.
    const begins = new Date(h(5)).toISOString();
    expect(duesOf({ ...item, facts: { run: 'fine-aashto', begins } as never }).map((d) => [d.id, d.opensAt])).toEqual([['run:oven', h(5)]]);
    expect(duesOf({ ...item, facts: { ...facts, begins } as never }).map((d) => d.id)).toEqual(['run:soak', 'run:cone']);
  });

  it('sand that the cone does not show at SSD is weighed with a reason only', () => {
    const [cone, gravity] = [methodById('cone')!, methodById('fine-gravity')!];
    const given = (looks: readonly string[]) => {
      const trials = looks.map((look, i) => ({ at: new Date(h(i)).toISOString(), look }));
      const e = evaluate(cone, { trials } as AnyInputs, { variant: 'slight', system: 'si' });
      const [gift] = giftsOf(cone, e, {} as AnyInputs);
      const inputs = inputsOf(gravity, { ssd: { text: '500.0', unit: 'g' } }, { 'test.cone': gift!.value });
      return evaluate(gravity, inputs, { variant: 'aashto', system: 'si' }).issues.map((i) => [i.code, i.path, i.severity]);
    };
    expect(given(['slight'])).toEqual([['not-at-ssd', 'ssd', 'implausible']]);
    expect(given(['kept', 'slight'])).toEqual([]);
  });
});

describe('several tests of one sample', () => {
  const wash = methodById('wash')!;
  const of = (after: string) =>
    evaluate(wash, { before: { text: '1000.0', unit: 'g' }, after: { text: after, unit: 'g' } } as unknown as AnyInputs, {
      variant: 'a',
      system: 'si',
    });

  it('a third is asked for where two are further apart than d2s, until one bears another out; one that is void counts for nothing', () => {
    const [low, high, near] = [of('983.0'), of('977.0'), of('978.0')];
    expect(duplicatesApart(wash, [low], high)).toEqual({
      code: 'duplicates-apart',
      params: { apart: '0.6 %', most: '0.43 %' },
      causes: [],
    });
    expect(duplicatesApart(wash, [low, high], near)).toBeNull();
    expect(duplicatesApart(wash, [], low)).toBeNull();
    const spoiled = { ...low, validity: { state: 'void' as const, reasons: [] } };
    expect(duplicatesApart(wash, [spoiled], high)).toBeNull();
  });
});

describe('a gravity against what its source gave before', () => {
  const history = (absorptions: readonly string[]) => ({
    'sg-od': absorptions.map((_a, i) => ({ sample: `B-${i}`, reported: `2.63${i % 3}` })),
    'sg-apparent': absorptions.map((_a, i) => ({ sample: `B-${i}`, reported: `2.72${i % 3}` })),
    absorption: absorptions.map((reported, i) => ({ sample: `B-${i}`, reported })),
  });
  const gravity = methodById('fine-gravity')!;
  const of = (dry: string) => {
    const g = (text: string) => ({ text, unit: 'g' });
    const inputs = { ssd: g('500.0'), flaskWater: g('661.8'), flaskSample: g('972.4'), dry: g(dry) } as unknown as AnyInputs;
    return evaluate(gravity, inputs, { variant: 'aashto', system: 'si' });
  };

  it('names the slip that would look like it, with what is usual; too few before it, or none of all three figures, say nothing', () => {
    const usual = history(['1.3', '1.2', '1.3', '1.4', '1.3', '1.3']);
    const found = againstHistory(of('488.4'), usual)!;
    const said = (id: string) => found.results.find((r) => r.id === id);
    expect([said('meanAbsorption')?.reported, said('shift')?.words]).toEqual(['1.30', ['news']]);
    expect(found.notes.map((n) => n.code)).toContain('source-shifted');
    // Drawn: where they lie, as far as is usual, and whither each slip leads; the method's own deviation stands for a luckily tight history.
    const map = faultMap(of('488.4'), found, usual)!;
    expect([map.before.length, map.usual.y.toFixed(1), map.reach.x.toFixed(3), map.now.y]).toEqual([6, '1.3', '0.022', 2.4]);
    expect(map.faults.filter((f) => f.towards.x < 0 && f.towards.y > 0).map((f) => f.label)).toEqual(['film left', 'fines lost']);
    const film = { ...found, notes: [{ code: 'film-left' as const, params: {} }] };
    expect(
      faultMap(of('488.4'), film, usual)!
        .faults.filter((f) => f.looks)
        .map((f) => f.label),
    ).toEqual(['film left']);
    expect(againstHistory(of('488.4'), history(['1.3', '1.2', '1.3', '1.4']))).toBeNull();
    expect(againstHistory(of('488.4'), { ...usual, absorption: [] })).toBeNull();
    expect(againstHistory(evaluate(methodById('wash')!, {} as AnyInputs, { variant: 'a', system: 'si' }), usual)).toBeNull();
  });
});
