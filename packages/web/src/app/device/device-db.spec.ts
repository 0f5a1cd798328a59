import { Dexie } from 'dexie';
import { openDeviceDb } from './device-db';

describe('what a device keeps', () => {
  it('is taken over from before a test said what it is made with: a draft goes on, a sheet is asked for anew', async () => {
    const name = `keen-mortar-${Date.now()}`;
    const before = new Dexie(name);
    before.version(2).stores({ drafts: 'testId, sampleId', commands: 'id, order', aside: 'id', seen: 'id, at', hands: 'id, itemId' });
    await before.table('drafts').put({ testId: 't', sampleId: 's', equipmentId: 'q', entries: { drop: { text: '96' } } });
    await before.table('seen').put({ id: 's', at: 1, sample: {} });
    before.close();
    const db = openDeviceDb(name);
    const [draft] = await db.drafts.toArray();
    expect(draft as unknown).toEqual({
      testId: 't',
      sampleId: 's',
      equipmentId: 'q',
      entries: { drop: { text: '96' } },
      alsoIds: [],
      kitReason: '',
      readAt: null,
    });
    expect(await db.seen.count()).toBe(0);
    db.close();
    await Dexie.delete(name);
  });

  it('answers that lack what is read of them now are asked for anew', async () => {
    const name = `keen-mortar-answers-${Date.now()}`;
    const before = new Dexie(name);
    before.version(4).stores({ answers: 'url, at' });
    await before.table('answers').put({ url: '/api/v1/breaks/s', at: 1, body: {} });
    before.close();
    const db = openDeviceDb(name);
    expect(await db.answers.count()).toBe(0);
    db.close();
    await Dexie.delete(name);
  });
});
