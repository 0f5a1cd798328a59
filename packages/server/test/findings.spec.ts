import type {
  DayView,
  DecisionEffect,
  FindingView,
  LedgerPage,
  MixesPage,
  MixSeries,
  MixSheet,
  PourDetail,
  Problem,
  Report,
  Sheet,
} from '@keen-mortar/contract';
import fc from 'fast-check';
import { AGAIN_WORDS, FINDINGS, isTold, stateAt } from '@keen-mortar/core';
import { judgeLine } from '../src/commands/findings.js';
import { transaction, select } from '../src/db.js';
import { Postponed } from '../src/postponed.js';
import { findingsAbout, postponeLines } from '../src/store/findings.js';
import { idFor } from '../src/demo.js';
import { Bench, by, projectId, reading } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';
import { wordsOf } from './papers.js';
import { Site } from './site.js';

/** As printed: a paper breaks lines where it likes, and writes ’ as its font has it. */
const plain = (text: string): string => text.replace(/\s+/g, '').replace(/[’']/g, '');

const HISTORIES = 40;

describe('what is found', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());
  const foundOf = async (subjectId: string, finding: string): Promise<FindingView | undefined> =>
    (await h.get<{ items: FindingView[] }>(`/items/${subjectId}/findings`)).body.items.find((f) => f.finding === finding);
  const decide = (body: object) =>
    h.post<Problem>('/decisions', {
      id: id(),
      by,
      part: '',
      who: { name: 'C. Pendry-Vale', firm: 'Harrow Consult' },
      why: 'companions agree',
      at: LOADED_AT.toISOString(),
      ...body,
    });

  it('is said in the same words by sheet, list, ledger, interface and report: every finding at every outlet', async () => {
    const lengthId = id();
    const length = { id: id(), property: 'length-change', unit: '%', lower: '-0.040', atDays: 28, source: '2.8' };
    const asked = { id: lengthId, by, projectId, name: `Length ${lengthId}`, comparison: 'reported', limits: [length] };
    expect((await h.post('/specifications', asked)).status).toBe(201);
    const site = await Site.made(b, 60, [idFor('spec-deck'), lengthId], {
      sand: { sourceId: idFor('source sand') },
      correctionOn: '2020-02-03',
    });
    const pour = await site.pour('20');
    site.unknowing = { known: site.at(0) };
    const [bad, grab, wet, good] = [
      await site.load(pour, 0, { discharged: site.at(96) }),
      await site.load(pour, 1),
      await site.load(pour, 2),
      await site.load(pour, 3),
    ];
    const out = await site.sample(bad);
    const first = await site.slump(out, '170');
    await site.slump(out, '175', { retestOf: first, minutes: 22 });
    await site.test(out, 'yield', { full: ['18.60', 'kg'], empty: ['3.21', 'kg'], volume: ['7.043', 'L'] }, { reason: 'weighed twice' });
    await site.test(out, 'pressure-air', { gauge: ['5.0', '%'] });
    // Two devices, neither of which knew of the other’s.
    await site.water(wet, '40', 16);
    await site.water(wet, '50', 17);
    const void_ = await site.sample(grab, [10, 30], 31);
    await site.slump(void_, '95');
    const low = await site.sample(wet);
    await site.slump(low, '40', { minutes: 16 });
    const molded = await site.sample(good);
    await site.slump(molded, '40');
    const cold = await site.set(molded, [7, 7, 28, 28, 28], { low: { text: '11', unit: 'C' }, high: { text: '22', unit: 'C' } });
    for (const [i, load] of ['230', '231', '200', '205', '203'].entries()) await site.break(cold.specimens[i]!, load, i < 2 ? 7 : 28);
    const field = await site.set(molded, [28, 28], { curing: 'field' });
    for (const specimen of field.specimens) await site.break(specimen, '150', 28);
    const wide = await site.set(molded, [28], { width: { text: '150', unit: 'mm' } });
    await site.test(
      wide.specimens[0]!,
      'cylinder',
      { d1: ['101.5', 'mm'], d2: ['101.5', 'mm'], length: ['203', 'mm'], load: ['300', 'kN'] },
      { minutes: 20 + 28 * 1440, reason: 'its label says so' },
    );

    const prisms = await site.prisms(molded);
    for (const [i, hours] of [24, 28 * 24].entries()) await site.prismTest(prisms, hours, i === 0 ? '0' : '0.12');

    // A meter that is found wrong afterwards, and a revision that is keyed afterwards.
    const meter = id();
    await site.post('/equipment', { id: meter, projectId, kind: 'air-meter', name: 'Meter 9', values: [] });
    await site.post(`/equipment/${meter}/calibrations`, { on: site.at(-1440).slice(0, 10), values: [] });
    await site.test(molded, 'pressure-air', { gauge: ['6.6', '%'] }, { equipmentId: meter });
    await site.post(`/equipment/${meter}/findings`, { since: site.at(-60), why: 'it leaked' });
    const later = { ...site.revision([idFor('spec-deck')]), effectiveFrom: site.at(-60), why: 'more sand' };
    await site.post(`/mixes/${site.mixId}/revisions`, later);
    await new Postponed(h.pool, { error: fail } as never).work();

    const sheet = (itemId: string) => h.get<Sheet>(`/items/${itemId}`);
    const now = Date.now();
    const lines = (await select<{ line_id: string }>(h.pool, 'SELECT DISTINCT line_id FROM item WHERE subject_id = ?', [site.mixId])).map(
      (r) => r.line_id,
    );
    const subjects = (await select<{ id: string }>(h.pool, 'SELECT id FROM item WHERE line_id IN (?)', [lines])).map((r) => r.id);
    const rows = await findingsAbout(h.pool, [...subjects, site.mixId]);
    // All that is declared is there, but for the tank, which nobody reads here, and what is found of a source: that has a spec of its own.
    const kinds = new Set(rows.map((f) => f.finding));
    expect(FINDINGS.map((f) => f.id).filter((kind) => !kinds.has(kind))).toEqual(['source-strays', 'tank']);

    const detail = (await h.get<PourDetail>(`/pours/${pour}`)).body;
    const ledger = (await h.get<LedgerPage>(`/ledger?project=${projectId}&of=${site.mixId}&limit=100`)).body.rows;
    const day = (await h.get<DayView>(`/day?project=${projectId}`)).body;
    const paperOf = async (scope: object): Promise<string> => {
      const issued = await h.post<Report>('/reports', { id: id(), by, projectId, scope });
      return plain((await wordsOf(new Uint8Array(await h.bytes(`/reports/${issued.body.id}/paper`)))).join(' '));
    };
    const papers = new Map<string, string>();
    for (const load of [pour, bad, grab, wet, good]) papers.set(load, await paperOf({ of: 'item', itemId: load }));
    const [kinds_, line] = [new Map<string, string>(), new Map<string, string>()];
    for (const r of await select<{ id: string; kind: string; line_id: string }>(
      h.pool,
      'SELECT id, kind, line_id FROM item WHERE id IN (?)',
      [subjects],
    )) {
      kinds_.set(r.id, r.kind);
      line.set(r.id, r.line_id);
    }
    const mix = {
      sheet: (await h.get<MixSheet>(`/mixes/${site.mixId}/sheet`)).body.findings,
      list: (await h.get<MixesPage>(`/mixes?project=${projectId}&limit=200`)).body.findings,
      series: (await h.get<MixSeries>(`/mixes/${site.mixId}/series`)).body.findings,
      paper: await paperOf({ of: 'month', subjectId: site.mixId, month: site.at(0).slice(0, 7) }),
    };
    for (const row of rows) {
      const { says, grade, next } = stateAt(row, now);
      const same = (f: { finding: string; subjectId: string; part: string }) =>
        f.finding === row.finding && f.subjectId === row.subjectId && f.part === row.part;
      const told = (f: FindingView | undefined) => f && [f.says, f.grade, f.next];
      const expected = [says, grade, [...next]];
      const about = `${row.finding} ${row.part}`;
      if (row.subjectId === site.mixId) {
        for (const outlet of [mix.sheet, mix.list, mix.series]) expect([about, told(outlet.find(same))]).toEqual([about, expected]);
        expect([about, mix.paper.includes(plain(says))]).toEqual([about, isTold({ grade, next })]);
        continue;
      }
      expect([about, told((await sheet(row.subjectId)).body.findings.find(same))]).toEqual([about, expected]);
      expect([about, told((await h.get<{ items: FindingView[] }>(`/items/${row.subjectId}/findings`)).body.items.find(same))]).toEqual([
        about,
        expected,
      ]);
      const kind = kinds_.get(row.subjectId)!;
      if (['pour', 'load', 'sample'].includes(kind)) expect([about, told(detail.findings.find(same))]).toEqual([about, expected]);
      if (grade === 'asks') expect([about, told([...day.asks, ...day.unanswered].find(same))]).toEqual([about, expected]);
      const tested = ledger.filter((r) => r.itemId === row.subjectId);
      for (const r of tested) expect([about, told(r.findings.find(same))]).toEqual([about, isTold({ grade, next }) ? expected : undefined]);
      // A paper says of what was tested, and of what that lies in, all that is not as asked.
      if (isTold({ grade, next }) && tested.length > 0)
        expect([about, papers.get(line.get(row.subjectId)!)!.includes(plain(says))]).toEqual([about, true]);
    }
    const letter = plain((await wordsOf(new Uint8Array(await h.bytes(`/breaks/${cold.specimens[2]!}/letter`)))).join(' '));
    const found = await foundOf(cold.id, 'low-strength');
    for (const sentence of [found!.says, ...found!.evidence.map((e) => e.says), ...found!.next]) expect(letter).toContain(plain(sentence));
    expect(letter).not.toContain(plain('Nothing on record speaks against'));
  });

  it('a void composite voids what was molded of it: no strength, nothing to be molded, no figure on paper', async () => {
    const site = await Site.made(b);
    const load = await site.load(await site.pour());
    const sample = await site.sample(load, [10, 14], 16);
    const { specimens, id: setId } = await site.set(sample, [28, 28, 28]);
    for (const [i, s] of specimens.entries()) await site.break(s, `${300 + i}`, 28);
    expect((await foundOf(setId, 'strength-test'))?.acceptance).toBe('counts');
    // The second portion was not at 14 but at 26 min.
    const entries = (await h.get<Sheet>(`/items/${sample}`)).body.entries.filter((e) => /^portions\..*\.at$/.test(e.field));
    const late = entries.sort((x, y) => (x.text! < y.text! ? -1 : 1)).at(-1)!;
    const amend = (field: string, text: string, supersedes: string) =>
      site.post(`/items/${sample}/entries`, {
        readings: [reading(field, text, null, { at: LOADED_AT.toISOString(), supersedes, reason: 'read wrong' })],
      });
    const finished = (await h.get<Sheet>(`/items/${sample}`)).body.entries.find((e) => e.field === 'finished')!;
    await amend('finished', site.at(28), finished.id);
    await amend(late.field, site.at(26), late.id);
    const strength = await foundOf(setId, 'strength-test');
    expect([strength?.grade, strength?.acceptance]).toEqual(['void', 'excluded']);
    const test = (await h.get<Sheet>(`/items/${specimens[0]!}`)).body.tests[0]!;
    expect(test.kept!.evaluation.validity.reasons.map((r) => r.code)).toContain('sample-void');
    const issued = await h.post<Report>('/reports', { id: id(), by, projectId, scope: { of: 'item', itemId: load } });
    const paper = (await wordsOf(new Uint8Array(await h.bytes(`/reports/${issued.body.id}/paper`)))).join(' ');
    expect(/fcm = .*|.{30}\b3\d\.\d MPa/.exec(paper)?.[0]).toBeUndefined();
  });

  it('prisms that were first read off their hour are void, and are read no more, until another hour is on record', async () => {
    const site = await Site.made(b, 60);
    const prisms = await site.prisms(await site.sample(await site.load(await site.pour())));
    await site.prismTest(prisms, 25, '0');
    const states = async () => {
      const { tests } = (await h.get<Sheet>(`/items/${prisms}`)).body;
      return [(await foundOf(prisms, 'initial-reading'))?.grade, ...tests.map((t) => t.kept!.evaluation.validity.state)];
    };
    expect(await states()).toEqual(['void', 'void']);
    await expectAsync(site.prismTest(prisms, 28 * 24, '0.05')).toBeRejectedWithError(/testing-ended/);
    await site.tell(prisms, { initialAt: [site.at(24 * 60), null] });
    await site.prismTest(prisms, 28 * 24, '0.05');
    expect(await states()).toEqual(['fine', 'valid', 'valid']);
  });

  it('a decision makes a marked strength test count, or not; taken back it waits again; each with who and why', async () => {
    const site = await Site.made(b, 90);
    const sample = await site.sample(await site.load(await site.pour()));
    const { specimens, id: setId } = await site.set(sample, [28, 28, 28], {
      low: { text: '11', unit: 'C' },
      high: { text: '22', unit: 'C' },
    });
    for (const [i, s] of specimens.entries()) await site.break(s, `${300 + i}`, 28);
    const on = { finding: 'strength-test', subjectId: setId, part: 'strength@28' };
    const standing = async () => [
      (await foundOf(setId, 'strength-test'))!.acceptance,
      await h.count('strength', 'item_id = ? AND not_for IS NULL', [setId]),
    ];
    expect(await standing()).toEqual(['waits', 0]);
    expect((await h.get<DayView>(`/day?project=${projectId}`)).body.asks.some((f) => f.subjectId === setId)).toBeTrue();
    for (const [body, path] of [
      [{ ...on, decided: 'rejected' }, 'decided'],
      [{ ...on, part: 'strength@7', decided: 'counts' }, 'part'],
      [{ ...on, finding: 'nothing', decided: 'counts' }, 'finding'],
      [{ ...on, decided: 'counts', who: undefined }, 'who'],
      [{ ...on, decided: 'counts', who: undefined, whoId: id() }, 'whoId'],
      [{ ...on, decided: 'counts', at: new Date(Date.now() + 86_400_000).toISOString() }, 'at'],
    ] as const) {
      const { status, body: problem } = await decide(body);
      expect([status, problem.errors?.[0]?.path]).toEqual([422, path]);
    }
    const first = id();
    expect((await decide({ ...on, decided: 'counts', id: first })).status).toBe(201);
    expect((await decide({ ...on, decided: 'counts', id: first })).status).toBe(201);
    expect(await h.count('decision', 'subject_id = ?', [setId])).toBe(1);
    expect(await standing()).toEqual(['counts', 1]);
    expect((await foundOf(setId, 'strength-test'))!.says).toContain('Counts, says C. Pendry-Vale, Harrow Consult: companions agree.');
    // What a word would do is told before it is given: the same as it does then, and nothing of it stays.
    const tried = { subject: setId, finding: 'strength-test', part: 'strength@28', decided: 'counts-not', by };
    const kept = await h.count('decision', 'TRUE');
    const effect = (await h.get<DecisionEffect>(`/decisions/effect?${new URLSearchParams(tried).toString()}`)).body;
    expect(effect.series?.figures.find((f) => f.label === 'Strength tests')).toEqual({
      ...{ label: 'Strength tests', now: '1', then: '0', asked: null, holds: null },
    });
    // The point that it takes away, and the mean that goes with it.
    const { tests, now, then, specified } = effect.series!.course;
    expect([tests.map((t) => [t.decided, t.counts]), now.length, then.length, specified]).toEqual([[[true, false]], 0, 0, 32]);
    expect(tests[0]!.strength).toBeCloseTo(37.2, 1);
    expect([await h.count('decision', 'TRUE'), await standing()] as unknown[]).toEqual([kept, ['counts', 1]]);
    const refused = await h.get<Problem>(`/decisions/effect?${new URLSearchParams({ ...tried, decided: 'rejected' }).toString()}`);
    expect([refused.status, refused.body.errors?.[0]?.code]).toEqual([422, 'unknown-choice']);
    const again = await decide({ ...on, decided: 'again', at: new Date().toISOString() });
    expect(again.body.errors?.[0]?.message).toMatch(/^No specimen of .* is left to test\.$/);
    // A later word counts; the one before stays.
    await decide({ ...on, decided: 'counts-not', at: new Date().toISOString() });
    expect(await standing()).toEqual(['excluded', 0]);
    const [newest] = (await h.get<{ decided: { id: string }[] }>(`/decisions?project=${projectId}`)).body.decided;
    expect((await h.post(`/decisions/${newest!.id}/withdrawal`, { id: id(), by, why: 'of another set' })).status).toBe(201);
    expect(await standing()).toEqual(['counts', 1]);
    expect((await h.post(`/decisions/${first}/withdrawal`, { id: id(), by, why: 'of another set' })).status).toBe(201);
    expect(await standing()).toEqual(['waits', 0]);
    expect((await h.post(`/decisions/${first}/withdrawal`, { id: id(), by, why: 'once more' })).status).toBe(409);
    await expectAsync(h.pool.query('DELETE FROM decision')).toBeRejectedWithError(/denied/);
  });

  it('a test that is low takes the two after it along, and no other: their means of three are judged again', async () => {
    const site = await Site.made(b, 120);
    const pour = await site.pour('60');
    const sets: { id: string; tests: string[] }[] = [];
    for (let n = 0; n < 4; n++) {
      const sample = await site.sample(await site.load(pour, n * 30), [n * 30 + 10, n * 30 + 14], n * 30 + 16);
      const { specimens, id: setId } = await site.set(sample, [28, 28, 28], { madeAt: site.at(n * 30 + 20) });
      const tests: string[] = [];
      for (const s of specimens) tests.push(await site.break(s, '280', 28));
      sets.push({ id: setId, tests });
    }
    const low = async () =>
      Promise.all(sets.map(async (s) => (await foundOf(s.id, 'low-strength'))?.says.replace(/.*: the/, 'the') ?? null));
    expect(await low()).toEqual([null, null, null, null]);
    // 34.6 MPa each; 25.9 of the second pulls its own mean, and those of the two after it, below 32.
    for (const testId of sets[1]!.tests) {
      const test = (await h.get<{ readings: { id: string; field: string }[] }>(`/tests/${testId}`)).body.readings.find(
        (r) => r.field === 'load',
      )!;
      const kept = await b.keep(testId, [reading('load', '210', 'kN', { supersedes: test.id, reason: 'read wrong' })]);
      expect(kept.status).toBe(201);
    }
    const [a, second, c, d] = await low();
    expect([a, second?.includes('below the least'), c?.startsWith('the mean of three'), d?.startsWith('the mean of three')]).toEqual([
      null,
      true,
      true,
      true,
    ]);
  });

  it('says of a line that waits that it is being worked out again, until it was', async () => {
    const site = await Site.made(b, 30);
    const load = await site.load(await site.pour(), 0, { discharged: site.at(96) });
    const says = async () => (await foundOf(load, 'time-in-truck'))!.says;
    const before = await says();
    await transaction(h.pool, (cx) => postponeLines(cx, [load]));
    expect(await says()).toBe(`${before} ${AGAIN_WORDS}`);
    await new Postponed(h.pool, { error: fail } as never).work();
    expect(await says()).toBe(before);
  });

  it('whatever is amended in whatever order, every derived row is what it would be if all was worked out afresh', async () => {
    const site = await Site.made(b, 40);
    const snapshot = async (cx: Parameters<typeof findingsAbout>[0], lineId: string) => ({
      findings: await select(
        cx,
        'SELECT subject_id, finding, part, states, evidence, acceptance, choices, decision_id FROM finding WHERE line_id IN (?) ORDER BY 1, 2, 3',
        [[lineId, site.mixId]],
      ),
      strengths: await select(
        cx,
        'SELECT s.item_id, s.property, s.age_days, s.mean_text, s.count, s.not_for, s.specimens FROM strength s JOIN item i ON i.id = s.item_id WHERE i.line_id = ? ORDER BY 1, 2, 3',
        [lineId],
      ),
    });
    const amended = async (drawn: readonly number[]): Promise<void> => {
      const left = [...drawn];
      const next = (n: number): number => (left.pop() ?? 0) % n;
      const load = await site.load(await site.pour());
      const sample = await site.sample(load);
      const { specimens, id: setId } = await site.set(sample, [28, 28, 28]);
      const tests: string[] = [];
      const did = new Set<string>();
      const once = async (name: string, what: () => Promise<unknown>): Promise<void> => {
        if (did.has(name)) return;
        did.add(name);
        await what();
      };
      const acts: (() => Promise<unknown>)[] = [
        () => once('empty', () => site.tell(load, { discharged: [site.at(70 + next(50)), null] })),
        () => once('water', () => site.water(load, String(20 + next(150)), 17)),
        async () => tests.push(await site.slump(sample, String(40 + next(140)), { minutes: 18 + next(20) })),
        () => once('air', () => site.test(sample, 'pressure-air', { gauge: [String(4 + next(4)), '%'] })),
        ...specimens.map((s, i) => () => once(`break ${i}`, () => site.break(s, String(220 + next(100)), 28))),
        () => once('cold', () => site.tell(setId, { low: [String(8 + next(12)), 'C'], high: ['22', 'C'] })),
        () => once('left', () => site.tell(specimens[0]!, { left: ['a cap came off', null] })),
        () => decide({ finding: 'strength-test', subjectId: setId, part: 'strength@28', decided: next(2) === 0 ? 'counts' : 'counts-not' }),
        () => decide({ finding: 'load-stands', subjectId: load, decided: next(2) === 0 ? 'accepted' : 'rejected' }),
        async () => {
          const item = next(3) === 0 ? load : sample;
          const { voided } = (await h.get<Sheet>(`/items/${item}`)).body.item;
          await site.post(`/items/${item}/voiding`, { voided: !voided, reason: 'another truck', at: LOADED_AT.toISOString() });
        },
      ];
      for (let step = 1; step <= 15; step++) {
        // Some are refused: of what was taken back nothing is made, and not everything is to be decided.
        await acts[next(acts.length)]!().catch(() => undefined);
        if (step % 5 !== 0) continue;
        const now = await snapshot(h.pool, load);
        const afresh = await transaction(h.pool, async (cx) => {
          await cx.query('DELETE FROM finding WHERE line_id IN (?)', [[load, site.mixId]]);
          await cx.query('DELETE s FROM strength s JOIN item i ON i.id = s.item_id WHERE i.line_id = ?', [load]);
          await judgeLine(cx, load);
          await judgeLine(cx, site.mixId);
          return snapshot(cx, load);
        });
        expect(now).withContext(`step ${step} of ${drawn.join()}`).toEqual(afresh);
      }
    };
    // Asked at three moments of each history. A history that fails is told as it was drawn: to make it smaller takes too long here.
    const histories = fc.asyncProperty(fc.array(fc.nat(999), { minLength: 60, maxLength: 60 }), amended);
    await fc.assert(histories, { numRuns: HISTORIES, endOnFailure: true });
  }, 300_000);
});
