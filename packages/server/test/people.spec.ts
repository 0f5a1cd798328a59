import type { Certificate, DayView, DeviceCodes, Problem, Sheet } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import { at, Bench, by, projectId, reading } from './bench.js';
import { Harness, id, people } from './harness.js';
import { wordsOf } from './papers.js';

const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

describe('people and the devices that they carry', () => {
  let h: Harness;
  let b: Bench;
  beforeAll(async () => {
    h = await Harness.withDemo();
    b = new Bench(h);
  });
  afterAll(() => h.stop());

  it('no two devices call anything the same; what one called without a network keeps its code', async () => {
    const device = { id: id(), by };
    const begins = async (body: object) => (await h.post<DeviceCodes>('/devices', body)).body.begins['specimen-set'];
    const [own, again, other] = [await begins(device), await begins(device), await begins({ id: id(), by })];
    expect(own).toMatch(/^D-[A-Z]+$/);
    expect([again, other === own]).toEqual([own, false]);

    const batch = (await b.item('trial-batch', null, { mixedAt: at(0), volume: { text: '30', unit: 'L' } }, { subjectId: idFor('deck') }))
      .item.id;
    const facts = { madeAt: at(600), shape: 'cube', width: { text: '150', unit: 'mm' } };
    const set = (code: string) => ({
      id: id(),
      by,
      code,
      facts,
      specimens: [
        { id: id(), age: null },
        { id: id(), age: null },
      ],
    });
    const mold = (body: object) => h.post<Sheet & Problem>(`/items/${batch}/specimens`, body);
    const first = set(`${own}1`);
    const made = (await mold(first)).body;
    expect([made.item.code, ...made.children.map((c) => c.code)]).toEqual([`${own}1`, `${own}1-A`, `${own}1-B`]);
    expect((await mold(first)).body.item.code).toBe(`${own}1`);
    const refused = async (code: string) => (await mold(set(code))).body.errors?.[0]?.code;
    expect([await refused(`${own}1`), await refused('D-99'), await refused(`Q${own!.slice(1)}2`)]).toEqual([
      'code-taken',
      'not-issued',
      'not-issued',
    ]);
    // What is numbered here goes on as it would have.
    expect((await mold({ ...set(''), code: undefined })).body.item.code).toMatch(/^D-\d+$/);
  });

  it('a certificate that runs out stands on the day until one of its name takes its place', async () => {
    const certify = (until: string, more: object = {}) =>
      h.post<{ items: Certificate[] } & Problem>('/certificates', {
        id: id(),
        by,
        personId: people.sallow,
        what: 'Strength testing',
        from: inDays(-700),
        until,
        ...more,
      });
    const onDay = async () =>
      (await h.get<DayView>(`/day?project=${projectId}`)).body.things
        .filter((t) => t.due === 'certificate' && t.what === 'Strength testing')
        .map((t) => [t.who, t.label]);
    await certify(inDays(10));
    expect(await onDay()).toEqual([[people.sallow, 'Renew']]);
    const { items } = (await certify(inDays(900), { what: 'strength testing' })).body;
    expect(items.filter((c) => /strength/i.test(c.what)).map((c) => c.inForce)).toEqual([true, false]);
    expect(await onDay()).toEqual([]);
    // Keyed wrong, it is put right by another: what was said last counts, and not what lasts longest.
    await certify(inDays(12));
    expect(await onDay()).toEqual([[people.sallow, 'Renew']]);
    await certify(inDays(-90), { what: 'Long ago' });
    expect((await h.get<DayView>(`/day?project=${projectId}`)).body.things.map((t) => t.what)).not.toContain('Long ago');
    expect((await certify(inDays(-800))).body.errors?.[0]?.path).toBe('until');
    expect((await certify(inDays(9), { personId: id() })).body.errors?.[0]?.code).toBe('unknown-person');
  });

  it('prints which loads were drawn, with the seed', async () => {
    const planned = { text: '120', unit: 'm3' };
    const pour = (await b.item('pour', null, { element: 'Deck', planned }, { name: `Drawn ${id()}`, subjectId: idFor('deck') })).item;
    expect((await h.get(`/pours/${pour.id}/draw`)).status).toBe(404);
    const testId = await b.start(pour.id, 'random-loads');
    const asked = { loads: '48', samples: '4', spares: '2', seed: '2611' };
    await b.keep(
      testId,
      Object.entries(asked).map(([field, text]) => reading(field, text, '1')),
    );
    const { drawn } = (await h.get<{ drawn: { loads: number[]; spares: number[] } }>(`/pours/${pour.id}`)).body;
    const words = (await wordsOf(new Uint8Array(await h.bytes(`/pours/${pour.id}/draw`)))).join(' ');
    expect(words).toContain('4 of 48 loads, drawn with seed 2611 by Rosalind Oakhanger');
    expect(
      words
        .match(/By (\d+) (\d+) (\d+) (\d+) In reserve/)
        ?.slice(1)
        .map(Number),
    ).toEqual(drawn.loads);
  });
});
