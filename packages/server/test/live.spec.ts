import { connect } from 'node:net';
import { idFor } from '../src/demo.js';
import { Harness, id, LOADED_AT, people } from './harness.js';

const by = people.oakhanger;

/** What an open page hears, until it was heard. */
class Listener {
  private heard = '';
  private constructor(private readonly reader: ReadableStreamDefaultReader<Uint8Array>) {}

  static async at(url: string, lastId?: string): Promise<Listener> {
    const headers = lastId === undefined ? {} : { 'last-event-id': lastId };
    const listener = new Listener((await fetch(url, { headers })).body!.getReader());
    listener.hello = await listener.until('hello');
    return listener;
  }

  /** Its first words: with them the number from which it may take up again. */
  hello = '';

  async until(word: string): Promise<string> {
    while (!this.heard.includes(word)) {
      const { value, done } = await this.reader.read();
      if (done) throw new Error(`the line ended before ${word}: ${this.heard}`);
      this.heard += new TextDecoder().decode(value);
    }
    const all = this.heard;
    this.heard = '';
    return all;
  }

  close = (): Promise<void> => this.reader.cancel();
}

describe('open pages', () => {
  let h: Harness;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());

  it('hear of a new load on their pour, and nothing of another pour', async () => {
    const [mine, other] = await Promise.all(['span-4', 'span-3'].map((pour) => Listener.at(`${h.base}/pours/${idFor(pour)}/live`)));
    const number = 500 + Math.floor(Math.random() * 9000);
    const materials = [{ name: 'All', role: 'coarse', actual: '1', unit: 'kg' }];
    await h.post(`/pours/${idFor('span-4')}/loads`, {
      id: id(),
      by,
      number,
      ticket: 'L',
      reason: 'for a test',
      truck: '1',
      batchedAt: LOADED_AT.toISOString(),
      design: { text: '1', unit: 'm3' },
      materials,
    });
    expect(await mine!.until('changed')).toContain('"kind":"changed"');
    h.live.tell(idFor('span-3'), { kind: 'keying' });
    expect(await other!.until('keying')).not.toContain('changed');
    await Promise.all([mine!.close(), other!.close()]);
  });

  it('hear on the sheet of water added to its load, and of a sample on the pour', async () => {
    const pour = await Listener.at(`${h.base}/pours/${idFor('span-4')}/live`);
    const sampleId = id();
    await h.post('/samples', { id: sampleId, by, loadId: idFor('span-4-4'), firstPortionAt: LOADED_AT.toISOString() });
    await pour.until('changed');
    const sheet = await Listener.at(`${h.base}/samples/${sampleId}/live`);
    await h.post(`/loads/${idFor('span-4-4')}/water`, {
      id: id(),
      by,
      mass: { text: '20', unit: 'kg' },
      at: LOADED_AT.toISOString(),
      reason: 'told late',
    });
    await sheet.until('changed');
    await Promise.all([pour.close(), sheet.close()]);
  });

  it('are let go when they leave, and all at once when the server stops', async () => {
    const page = await Listener.at(`${h.base}/pours/${idFor('span-3')}/live`);
    await page.close();
    const stays = await Listener.at(`${h.base}/pours/${idFor('span-3')}/live`);
    h.live.beat();
    await stays.until(': beat');
    h.live.close();
    await expectAsync(stays.until('never')).toBeRejectedWithError(/the line ended/);
  });

  it('that do not read are let go instead of filling the memory, and nobody else is', async () => {
    const topic = idFor('span-3');
    const reads = await Listener.at(`${h.base}/pours/${idFor('span-3')}/live`);
    // A line that is opened, and never read again.
    const { port } = new URL(h.base);
    const deaf = connect(Number(port), '127.0.0.1');
    deaf.pause();
    deaf.write(`GET /api/v1/pours/${idFor('span-3')}/live HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\n\r\n`);
    const gone = new Promise<void>((resolve) => deaf.once('close', () => resolve()));
    deaf.on('error', () => undefined);
    const note = { kind: 'keying', by: 'x'.repeat(20_000) } as unknown as Parameters<typeof h.live.tell>[1];
    for (let i = 0; i < 600; i++) {
      h.live.tell(topic, note);
      await reads.until('keying');
    }
    deaf.resume();
    await gone;
    h.live.beat();
    await reads.until(': beat');
    await reads.close();
  });

  it('hear of what another server wrote, and of what they missed while theirs was gone', async () => {
    const [one, other] = [await Harness.start(), await Harness.start()];
    const path = `/pours/${idFor('span-4')}/live`;
    const add = (at: Harness) =>
      at.post(`/pours/${idFor('span-4')}/loads`, {
        id: id(),
        by,
        number: 500 + Math.floor(Math.random() * 9000),
        ticket: 'L',
        reason: 'for a test',
        truck: '1',
        batchedAt: LOADED_AT.toISOString(),
        design: { text: '1', unit: 'm3' },
        materials: [{ name: 'All', role: 'coarse', actual: '1', unit: 'kg' }],
      });
    const page = await Listener.at(one.base + path);
    await add(other);
    expect(await page.until('changed')).toContain('"what":"item"');
    const cursor = /id: (\d+)/.exec(page.hello)![1]!;
    await one.stop();
    await add(other);
    const again = await Listener.at(other.base + path, cursor);
    expect(again.hello.includes('changed') ? again.hello : await again.until('changed')).toContain('"kind":"changed"');
    await again.close();
    await other.stop();
  });

  it('are refused at an address that is none', async () => {
    expect((await fetch(`${h.base}/samples/none/live`)).status).toBe(404);
  });
});
