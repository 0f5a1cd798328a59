import { isStale, type DayView, type Problem, type Revision, type Sheet, type SourceSheet, type Test } from '@keen-mortar/contract';
import { Postponed } from '../src/postponed.js';
import { Bench, at, by, reading, reported } from './bench.js';
import { idFor } from '../src/demo.js';
import { createConnection } from 'mysql2/promise';
import { Harness, id, urls } from './harness.js';

const kept = (value: string, unit: string) => ({ text: value, unit });
/** Given by a test, whose id goes with it. */
const given = (value: string, unit: string) => jasmine.objectContaining(kept(value, unit));

const quiet = { error: () => undefined };

describe('what tests give to each other on record', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  const testOf = async (testId: string) => (await h.get<Test>(`/tests/${testId}`)).body;
  const correct = (test: Test, field: string, text: string, unit: string) =>
    b.keep(test.id, [
      reading(field, text, unit, { supersedes: test.readings.findLast((r) => r.field === field)!.id, reason: 'read wrong' }),
    ]);
  const source = (kind: string) => b.item('source', null, { pit: 'Brackdown', kind }, { name: `${kind} ${id()}` });
  const fieldSample = async (kind = 'fine', of?: string) =>
    (await b.item('field-sample', of ?? (await source(kind)).item.id, { takenAt: at(0), from: 'stockpile' })).item.id;
  /** Sand in the flask: so much of it dry, and so heavy with it. */
  const flask = (dry: string, sample = '973.0') => [
    reading('ssd', '500.0', 'g'),
    reading('flaskWater', '661.8', 'g'),
    reading('flaskSample', sample, 'g'),
    reading('dry', dry, 'g'),
  ];
  const keptOn = async (itemId: string, method: string, readings: object[], more: object = {}) => {
    const testId = await b.start(itemId, method, more);
    const answer = await b.keep<{ test: Test } & Problem>(testId, readings);
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return answer.body.test;
  };

  it('a wash gives its masses to the gradation of the same sample, and moves it when it is corrected', async () => {
    const item = await fieldSample();
    const sieve = (row: string, opening: string, mass: string) => [
      reading(`sieves.${row}.opening`, opening, 'mm'),
      reading(`sieves.${row}.retained`, mass, 'g'),
    ];
    const wash = await keptOn(item, 'wash', [reading('before', '500.0', 'g'), reading('after', '490.0', 'g')]);
    const rows = [...sieve('0000', '4.75', '20.0'), ...sieve('0001', '0.075', '468.0'), reading('pan', '2.0', 'g')];
    const sheet = (await h.get<Sheet>(`/items/${item}`)).body;
    expect(sheet.given['gradation']?.sources as unknown).toEqual({
      'test.before-wash': given('500.0', 'g'),
      'test.after-wash': given('490.0', 'g'),
    });
    const gradation = await keptOn(item, 'gradation', rows);
    expect([gradation.kept?.inputs['dry'], gradation.given.from.map((f) => f.testId)]).toEqual([given('500.0', 'g'), [wash.id, wash.id]]);
    await correct(wash, 'before', '510.0', 'g');
    const moved = await testOf(gradation.id);
    expect([moved.kept?.inputs['dry'], moved.kept?.cause, moved.kept?.turn]).toEqual([given('510.0', 'g'), 'test', 1]);
    // What is keyed counts before what is given, and a wash moves it no more.
    await b.keep(gradation.id, [reading('dry', '505.0', 'g')]);
    await correct(await testOf(wash.id), 'before', '511.0', 'g');
    expect((await testOf(gradation.id)).kept?.inputs['dry']).toEqual(jasmine.objectContaining(kept('505.0', 'g')));
  });

  it('a trial batch is weighed up by the recipe of its mix, damp as its sources were found this shift', async () => {
    const deck = idFor('deck');
    const mix = (await h.get<{ revisions: Revision[] }>(`/mixes/${deck}`)).body.revisions[0]!;
    const sand = mix.ingredients.find((i) => i.role === 'fine')!;
    const trial = async (mixed: number) => {
      const facts = { mixedAt: at(mixed), volume: kept('30', 'L') };
      const { item, sources } = await b.item('trial-batch', null, facts, { subjectId: deck });
      const rows = sources['mix.recipe'] as readonly { name: string; mass: object; moisture: object | null; absorption: object | null }[];
      return { id: item.id, rows, sand: rows.find((r) => r.name === sand.name)! };
    };
    await keptOn(await fieldSample('fine', sand.sourceId), 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')], {
      startedAt: at(0),
    });
    const [soon, late] = [await trial(3600), await trial(13 * 3600)];
    expect([soon.rows.length, soon.sand.mass, soon.sand.moisture] as unknown[]).toEqual([
      mix.ingredients.length,
      sand.mass,
      kept('5.0', '%'),
    ]);
    expect([late.sand.moisture, late.sand.absorption]).toEqual([null, soon.sand.absorption]);
    expect(soon.sand.absorption).not.toBeNull();
    // What nobody keys is of the record: the result is there, and says by what.
    const test = await keptOn(
      soon.id,
      'trial-batch',
      ['cylinders', 'diameter', 'height', 'waste'].map((f, i) => reading(f, ['6', '100', '200', '15'][i]!, ['1', 'mm', 'mm', '%'][i]!)),
    );
    expect(test.kept?.evaluation.missing).toContain(`ingredients.${mix.ingredients.findIndex((i) => i.role === 'coarse')}.moisture`);
    // Nothing is weighed up by half.
    expect(test.kept?.evaluation.results.find((r) => r.id === 'masses')?.series).toBeFalsy();
    expect((test.kept?.inputs['ingredients'] as readonly { mass: object }[])[0]!.mass).toEqual(mix.ingredients[0]!.mass);
  });

  it('specimens give their strengths to the test of their set, of one age; one that is taken back does not count', async () => {
    const sample = await b.sample(await b.load(91));
    const set = await b.item('specimen-set', sample, { madeAt: at(0), shape: 'cylinder', width: kept('100', 'mm') });
    const broken = async (age: string, load: string) => {
      const { item } = await b.item('specimen', set.item.id, { age: kept(age, 'd') });
      const readings = [
        reading('d1', '100', 'mm'),
        reading('d2', '100', 'mm'),
        reading('length', '200', 'mm'),
        reading('load', load, 'kN'),
      ];
      return { item, test: await keptOn(item.id, 'cylinder', readings) };
    };
    await broken('7', '180');
    const [one, two, three] = [await broken('28', '300'), await broken('28', '310'), await broken('28', '305')];
    const test = await keptOn(set.item.id, 'companions', [reading('age', '28', 'd')]);
    expect([reported(test, 'mean'), test.given.from.length]).toEqual(['38.8', 4]);
    await correct(two.test, 'load', '320', 'kN');
    expect(reported(await testOf(test.id), 'mean')).toBe('39.2');
    await h.post(`/items/${three.item.id}/voiding`, { id: id(), by, voided: true, reason: 'another set', at: at(0) });
    const without = await testOf(test.id);
    expect([reported(without, 'mean'), without.kept?.cause]).toEqual(['39.4', 'facts']);
    // One that is found to be of another age is left out as well.
    const facts = (await h.get<Sheet>(`/items/${one.item.id}`)).body.entries;
    const age = { supersedes: facts.find((e) => e.field === 'age')!.id, reason: 'label read wrong' };
    await h.post(`/items/${one.item.id}/entries`, { id: id(), by, readings: [reading('age', '56', 'd', age)] });
    expect((await testOf(test.id)).kept?.evaluation.missing).toEqual(['companions.1.strength']);
  });

  it('what a source had is taken as of the day: a later test moves nothing, a correction of what was taken does', async () => {
    const sand = (await source('fine')).item.id;
    const first = await keptOn(await fieldSample('fine', sand), 'fine-gravity', flask('494.0'), { startedAt: at(100) });
    const moist = (item: string) =>
      keptOn(item, 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')], { startedAt: at(300) });
    const moisture = await moist(await fieldSample('fine', sand));
    expect(moisture.kept?.inputs['absorption']).toEqual(given('1.2', '%'));
    const later = await keptOn(await fieldSample('fine', sand), 'fine-gravity', flask('490.0'), { startedAt: at(200) });
    expect(reported(later, 'absorption')).toBe('2.0');
    await correct(moisture, 'wet', '1051', 'g');
    const again = await testOf(moisture.id);
    expect([again.kept?.turn, again.kept?.inputs['absorption']] as unknown[]).toEqual([1, given('1.2', '%')]);
    await correct(first, 'dry', '492.0', 'g');
    expect((await testOf(moisture.id)).kept?.inputs['absorption']).toEqual(given('1.6', '%'));
    // Taken back, it gives no more: what was there before the test was started does.
    await h.post(`/items/${(await h.get<Sheet>(`/items/${await itemOf(first.id)}`)).body.item.id}/voiding`, {
      id: id(),
      by,
      voided: true,
      reason: 'another sand',
      at: at(0),
    });
    expect((await testOf(moisture.id)).kept?.inputs['absorption']).toEqual(given('2.0', '%'));
  });

  it('what lies in something that was taken back gives no more either', async () => {
    const sand = (await source('fine')).item.id;
    const outer = await fieldSample('fine', sand);
    const portion = (await b.item('portion', outer, {})).item.id;
    await keptOn(portion, 'fine-gravity', flask('494.0'), { startedAt: at(100) });
    const moisture = await keptOn(await fieldSample('fine', sand), 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')], {
      startedAt: at(300),
    });
    expect(moisture.kept?.inputs['absorption']).toEqual(given('1.2', '%'));
    await h.post(`/items/${outer}/voiding`, { id: id(), by, voided: true, reason: 'another sand', at: at(0) });
    const without = await testOf(moisture.id);
    expect([without.kept?.inputs['absorption'] ?? null, without.kept?.cause]).toEqual([null, 'facts']);
  });

  const itemOf = async (testId: string): Promise<string> => {
    const [rows] = await h.pool.query('SELECT item_id FROM test WHERE id = ?', [testId]);
    return (rows as { item_id: string }[])[0]!.item_id;
  };

  it('an ingredient takes its gravity from its source, and says from which test; where nobody found one it is keyed', async () => {
    const stone = (await source('coarse')).item.id;
    const projectId = await b.project();
    const mixId = id();
    await h.post('/mixes', { id: mixId, by, projectId, code: `M-${mixId.slice(0, 4)}`, name: 'Trial' });
    const revise = (number: number) =>
      h.post<{ revisions: Revision[] } & Problem>(`/mixes/${mixId}/revisions`, {
        id: id(),
        by,
        number,
        effectiveFrom: at(0),
        largest: kept('25', 'mm'),
        nominal: kept('19', 'mm'),
        air: '6.0',
        ingredients: [
          { name: 'Cement', role: 'cement', mass: kept('340', 'kg'), sg: '3.15' },
          { name: 'Stone', role: 'coarse', mass: kept('1010', 'kg'), sourceId: stone },
        ],
      });
    expect((await revise(1)).body.errors?.[0]).toEqual(jasmine.objectContaining({ code: 'no-gravity', path: 'ingredients.1.sg' }));
    const readings = [reading('dry', '3000', 'g'), reading('ssd', '3027', 'g'), reading('inWater', '1897', 'g')];
    const test = await keptOn(await fieldSample('coarse', stone), 'coarse-gravity', readings);
    const revision = (await revise(1)).body.revisions.at(-1)!;
    expect(revision.ingredients[1]).toEqual(
      jasmine.objectContaining({ sg: reported(test, 'ssd'), sgTest: jasmine.objectContaining({ id: test.id }) }),
    );
    expect(revision.theoretical).not.toBeNull();
    const shown = (await h.get<SourceSheet>(`/sources/${stone}`)).body;
    expect([shown.gravity?.text, shown.gravity?.test.id, shown.usedBy[0]?.sg]).toEqual([
      reported(test, 'ssd')!,
      test.id,
      reported(test, 'ssd')!,
    ]);
  });

  it('a gravity that strays from its source waits: mixes go on with the one before, until somebody’s word, a correction, or a history that is another', async () => {
    const sand = (await source('fine')).item.id;
    const find = async (n: number, dry: string) => {
      const item = (await b.item('field-sample', sand, { takenAt: at(n * 1000), from: 'stockpile' })).item.id;
      return { item, test: await keptOn(item, 'fine-gravity', flask(dry), { startedAt: at(n * 1000 + 60) }) };
    };
    const before: Awaited<ReturnType<typeof find>>[] = [];
    for (const [i, dry] of ['494.0', '494.2', '493.9', '494.1', '494.0'].entries()) before.push(await find(i - 20, dry));
    const odd = await find(-10, '490.0');
    const counting = async () => (await h.get<SourceSheet>(`/sources/${sand}`)).body.gravity?.test.id;
    const found = async () => (await h.get<Sheet>(`/items/${odd.item}`)).body.findings.find((f) => f.finding === 'source-strays');
    expect([(await found())?.grade, await counting()]).toEqual(['asks', before[4]!.test.id]);
    const asked = async () => (await h.get<DayView>(`/day?project=${await b.project()}`)).body.asks.map((f) => f.subjectId);
    expect(await asked()).toContain(odd.item);
    const decide = async (decided: string) =>
      h.post<Problem>('/decisions', {
        ...{ id: id(), by, subjectId: odd.item, finding: 'source-strays', part: 'fine-gravity', decided },
        ...{ who: { name: 'C. Pendry-Vale', firm: 'Harrow Consult' }, why: 'a second portion gave the same', at: at(-9000) },
      });
    expect((await decide('counts-not')).status).toBe(201);
    expect([(await found())?.acceptance, await counting()]).toEqual(['excluded', before[4]!.test.id]);
    expect((await decide('counts')).status).toBe(201);
    expect([(await found())?.grade, await counting(), (await asked()).includes(odd.item)]).toEqual(['watch', odd.test.id, false]);
    // Taken over by name it is asked no more, whatever was found before it.
    expect(
      (await h.post(`/sources/${sand}/acceptances`, { id: id(), by, testId: odd.test.id, from: at(0), why: 'two agree' })).status,
    ).toBe(201);
    expect((await found())?.says).toContain('taken over for the mixes all the same');
    // A history that is too short says nothing: what waited by it waits no more.
    const next = await find(-5, '486.0');
    const waiting = () => h.count('gift', 'test_id = ? AND counts_from IS NOT NULL AND subject_id IS NOT NULL', [next.test.id]);
    expect([await counting(), await waiting()]).toEqual([odd.test.id, 2]);
    for (const { item } of before) await h.post(`/items/${item}/voiding`, { id: id(), by, voided: true, reason: 'another pit', at: at(0) });
    expect([await found(), await waiting()]).toEqual([undefined, 0]);
  });

  it('what was found counts from the day it is taken over; nothing worked out moves, and a mix is stale until somebody looks', async () => {
    const sand = (await source('fine')).item.id;
    const find = async (flaskOf: object[], minutes: number) =>
      keptOn(await fieldSample('fine', sand), 'fine-gravity', flaskOf, { startedAt: at(minutes) });
    const shown = async (moment?: string) => (await h.get<SourceSheet>(`/sources/${sand}${moment ? `?at=${moment}` : ''}`)).body;
    const accept = (testId: string, from: string) =>
      h.post<SourceSheet & Problem>(`/sources/${sand}/acceptances`, { id: id(), by, testId, from, why: 'two tests agree' });
    const moist = async (minutes: number) =>
      (
        await keptOn(await fieldSample('fine', sand), 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')], {
          startedAt: at(minutes),
        })
      ).kept?.inputs['absorption'] as { text: string } | undefined;

    const first = await find(flask('494.0'), 100);
    expect((await accept(first.id, at(100))).status).toBe(201);
    const projectId = await b.project();
    const mixId = id();
    const made = await h.post<Problem>('/mixes', {
      id: mixId,
      by,
      projectId,
      code: `A-${mixId.slice(0, 4)}`,
      name: 'Accepted',
      revision: {
        id: id(),
        effectiveFrom: at(0),
        largest: kept('25', 'mm'),
        nominal: kept('19', 'mm'),
        air: '6.0',
        ingredients: [
          { name: 'Cement', role: 'cement', mass: kept('340', 'kg'), sg: '3.15' },
          { name: 'Sand', role: 'fine', mass: kept('710', 'kg'), sourceId: sand },
        ],
      },
    });
    expect(made.status).toBe(201);
    const second = await find(flask('490.0', '971.0'), 200);
    // Found, and not taken over: what counts is the first, for whatever takes it too.
    const found = await shown();
    expect([found.gravity?.test.id, found.newer?.gravity?.test.id]).toEqual([first.id, second.id]);
    expect((await moist(300))?.text).toBe('1.2');
    expect((await accept(second.id, at(150))).body.errors?.[0]?.code).toBe('too-early');
    expect((await accept(id(), at(400))).body.errors?.[0]?.code).toBe('unknown');
    const after = (await accept(second.id, at(400))).body;
    expect([after.gravity?.test.id, after.newer, after.accepted?.why]).toEqual([second.id, null, 'two tests agree']);
    expect((await shown(at(350))).gravity?.test.id).toBe(first.id);
    expect([(await moist(390))?.text, (await moist(410))?.text]).toEqual(['1.2', '2.0']);
    const stale = ({ gravity, usedBy }: SourceSheet) => usedBy.map((u) => isStale(u, gravity, u.looks));
    expect(stale(after)).toEqual([true]);
    const look = (testId: string) => h.post<Problem>(`/mixes/${mixId}/looks`, { id: id(), by, testId, why: 'too little to matter' });
    expect((await look(id())).body.errors?.[0]?.code).toBe('unknown');
    expect((await look(second.id)).status).toBe(201);
    expect(stale(await shown())).toEqual([false]);
    // Its test taken back, the one before counts again.
    await h.post(`/items/${await itemOf(second.id)}/voiding`, { id: id(), by, voided: true, reason: 'another sand', at: at(0) });
    const back = await shown();
    expect([back.gravity?.test.id, back.accepted?.testId]).toEqual([first.id, first.id]);
    // Moisture is of its shift: it is not taken over.
    const damp = await keptOn(await fieldSample('fine', sand), 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')]);
    expect((await accept(damp.id, at(500))).body.errors?.[0]?.code).toBe('unknown');
  });

  it('where more than a hundred stood on it they wait, are shown so, and are made again after a restart', async () => {
    const sand = (await source('fine')).item.id;
    const giver = await keptOn(await fieldSample('fine', sand), 'fine-gravity', flask('494.0'), { startedAt: at(100) });
    const item = await fieldSample('fine', sand);
    const takers: Test[] = [];
    for (let i = 0; i < 101; i++)
      takers.push(await keptOn(item, 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')], { startedAt: at(300 + i) }));
    const giverItem = await itemOf(giver.id);
    const again = async () => (await h.get<Sheet>(`/items/${giverItem}`)).body.again;
    expect((await correct(giver, 'dry', '492.0', 'g')).status).toBe(201);
    expect(await again()).toEqual({ left: 101, of: 101 });
    const waiting = await testOf(takers[0]!.id);
    expect([waiting.again, waiting.kept?.inputs['absorption']]).toEqual([true, given('1.2', '%')]);
    // Whichever server comes to it: one of another start, two at once.
    await Promise.all([new Postponed(h.pool, quiet).work(), new Postponed(h.pool, quiet).work()]);
    await new Postponed(h.pool, quiet).work();
    expect(await again()).toBeNull();
    const all = await Promise.all(takers.map((t) => testOf(t.id)));
    expect(
      all.filter((t) => t.again || t.kept?.turn !== 1 || (t.kept.inputs['absorption'] as { text: string }).text !== '1.6').length,
    ).toBe(0);
    expect(all[0]!.kept?.cause).toBe('test');
    // What cannot be worked out any more holds nothing else up, and is not tried for ever.
    expect((await correct(await testOf(giver.id), 'dry', '493.0', 'g')).status).toBe(201);
    const broken = await fieldSample('fine', sand);
    const other = await keptOn(broken, 'moisture', [reading('wet', '1050', 'g'), reading('dry', '1000', 'g')]);
    const cx = await createConnection(urls.migrate);
    await cx.query(
      'INSERT INTO pending (test_id, item_id, used_id, used_item_id, cause, cause_id, person_id, batch) VALUES (?, ?, ?, ?, ?, ?, ?, 1)',
      [other.id, broken, giver.id, giverItem, 'test', giver.id, by],
    );
    await cx.query("UPDATE evaluation SET frozen = '{}' WHERE test_id = ?", [other.id]);
    let told = 0;
    const postponed = new Postponed(h.pool, { error: () => void told++ });
    for (let i = 0; i < 8; i++) await postponed.work();
    expect([told, await h.count('pending'), await h.count('pending', 'item_id = ?', [broken])]).toEqual([5, 1, 1]);
    await cx.query('DELETE FROM pending');
    await cx.end();
  }, 60_000);
});
