import type { Fault, FindingView, PourDetail, Problem, Sheet } from '@keen-mortar/contract';
import { Bench, by, reading } from './bench.js';
import { Harness, id, LOADED_AT } from './harness.js';
import { Site } from './site.js';

describe('what is asked about before it is kept', () => {
  let h: Harness;
  let site: Site;
  beforeAll(async () => {
    h = await Harness.withDemo();
    site = await Site.made(new Bench(h), 0.5);
  });
  afterAll(() => h.stop());

  const water = (loadId: string, mass: string, minutes: number, more: object = {}) =>
    h.post<Problem>(`/loads/${loadId}/water`, { id: id(), by, mass: { text: mass, unit: 'kg' }, at: site.at(minutes), ...more });
  const first = ({ body }: { body: Problem }): Fault => body.errors![0]!;
  const open = async (itemId: string): Promise<FindingView[]> =>
    (await h.get<Sheet>(`/items/${itemId}`)).body.findings.filter((f) => f.finding === 'unanswered');

  it('water on site: the second, too much, and a slip are each refused until somebody says why, with what can be done', async () => {
    const loadId = await site.load(await site.pour());
    const much = await water(loadId, '120', 30);
    expect([much.status, much.body.code, first(much).path]).toEqual([422, 'needs-reason', 'mass']);
    expect([first(much).message, first(much).next]).toEqual([
      'There was room for at most 70 L.',
      'Check the figure and its unit. If so much went in, say who allowed it.',
    ]);
    const slip = await water(loadId, '90000', 30);
    expect([slip.status, first(slip).offer]).toEqual([422, { text: '90', unit: 'kg' }]);
    expect((await water(loadId, '20', 30)).status).toBe(201);
    const second = await water(loadId, '10', 40);
    expect([second.status, first(second).message]).toEqual([422, 'Against the rule for water on site: it was added once already.']);
    // Nothing of what was refused is there; with a reason it is, and nothing is to be answered.
    const said = await water(loadId, '10', 40, { reason: 'the inspector allowed it' });
    expect(said.status).toBe(201);
    const { item, entries } = (await h.get<Sheet>(`/items/${loadId}`)).body;
    expect((item.facts as unknown as { water: unknown[] }).water.length).toBe(2);
    expect(entries.filter((e) => e.reason !== null).map((e) => [e.text, e.reason])).toEqual([['10', 'the inspector allowed it']]);
    expect(await open(loadId)).toEqual([]);
  });

  it('what its maker could not know refuses nothing: it is kept, and stands to be answered until somebody says why', async () => {
    const pourId = await site.pour();
    const loadId = await site.load(pourId);
    const known = new Date().toISOString();
    expect((await water(loadId, '20', 30)).status).toBe(201);
    // Another device, which had read the load before that.
    expect((await water(loadId, '15', 35, { known })).status).toBe(201);
    const [found] = await open(loadId);
    expect(found?.says).toBe('Against the rule for water on site: it was added once already. Nobody has said why.');
    const pour = (await h.get<PourDetail>(`/pours/${pourId}`)).body;
    expect(pour.findings.map((f) => f.says)).toContain(found!.says);
    // What it does know it is asked about all the same.
    expect((await water(loadId, '120', 50, { known: new Date().toISOString() })).status).toBe(422);
    // Kept once more as it stands, with why.
    const { entries } = (await h.get<Sheet>(`/items/${loadId}`)).body;
    const was = entries.find((e) => e.text === '15')!;
    const again = reading(was.field, '15', 'kg', { at: LOADED_AT.toISOString(), supersedes: was.id, reason: 'two trucks of water' });
    expect((await h.post(`/items/${loadId}/entries`, { id: id(), by, readings: [again] })).status).toBe(201);
    expect(await open(loadId)).toEqual([]);
  });

  it('a load beyond what is planned, the same ticket, a slip in its weights, and one portion alone', async () => {
    const pourId = await site.pour('12');
    await site.load(pourId);
    await site.load(pourId, 20);
    const over = site.load(pourId, 40);
    await expectAsync(over).toBeRejectedWithError(/With this load 18 m³ of 12 m³ would be delivered/);
    await expectAsync(site.load(pourId, 41, { ticket: 'F-2' })).toBeRejectedWithError(
      /Ticket F-\d+ is on Load \d already|would be delivered/,
    );
    const made = await h.post<Sheet & Problem>('/items', {
      id: id(),
      by,
      kind: 'load',
      projectId: (await h.get<PourDetail>(`/pours/${pourId}`)).body.projectId,
      parentId: pourId,
      reason: 'the wall was widened',
      facts: {
        ticket: 'F-90',
        truck: 'Truck 4',
        batchedAt: site.at(60),
        design: { text: '6', unit: 'm3' },
        materials: [{ name: 'Cement', role: 'cement', actual: { text: '2040', unit: 'kg' } }],
      },
    });
    expect([made.status, made.body.item.answered]).toEqual([201, ['design']]);
    const sampleId = await site.sample(made.body.item.id, [70], null);
    const finish = (more: object) =>
      h.post<Problem>(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: site.at(75), ...more });
    const alone = await finish({});
    expect([alone.status, alone.body.code, first(alone).path]).toEqual([422, 'needs-reason', 'at']);
    expect((await finish({ reason: 'the truck had gone' })).status).toBe(201);
  });
});
