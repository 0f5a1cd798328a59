import type { FileInfo, Problem, Sheet } from '@keen-mortar/contract';
import sharp from 'sharp';
import { idFor } from '../src/demo.js';
import { Bench, at, by, reading } from './bench.js';
import { Harness, id } from './harness.js';

describe('photos, papers and notes of an item', () => {
  let h: Harness;
  let item: string;
  beforeAll(async () => {
    h = await Harness.withDemo();
    item = idFor('span-4');
  });
  afterAll(() => h.stop());

  /** A photo as a phone takes it: lying on its side, with where it was taken. */
  const photo = (width = 400, height = 300) =>
    sharp({ create: { width, height, channels: 3, background: '#8a8a80' } })
      .jpeg()
      .withExif({ IFD0: { Make: 'Phone' }, IFD3: { GPSLatitude: '52/1 30/1 0/1', GPSLatitudeRef: 'N' } })
      .withMetadata({ orientation: 6 })
      .toBuffer();

  async function send(bytes: Buffer | string, type: string, more: Record<string, string> = {}, to = item) {
    const said = new URLSearchParams({ id: id(), by, name: 'slump.jpg', ...more });
    const response = await fetch(`${h.base}/items/${to}/files?${said}`, {
      method: 'POST',
      headers: { 'content-type': type },
      body: bytes as BodyInit,
    });
    return { status: response.status, body: (await response.json()) as FileInfo & Problem };
  }
  const fetched = async (path: string) => {
    const response = await fetch(`${h.base}/files/${path}`);
    return { type: response.headers.get('content-type'), headers: response.headers, bytes: Buffer.from(await response.arrayBuffer()) };
  };

  it('a photo stands upright, says no more where and with what it was taken, and has a small one beside it', async () => {
    const bytes = await photo();
    expect((await sharp(bytes).metadata()).exif?.includes('Phone')).toBeTrue();
    const { status, body } = await send(bytes, 'image/jpeg');
    expect([status, body.type, body.size] as unknown[]).toEqual([201, 'image/jpeg', { width: 300, height: 400 }]);
    const kept = await fetched(body.id);
    expect([kept.type, kept.bytes.length, kept.bytes.includes('Phone'), kept.bytes.includes('GPS')]).toEqual([
      'image/jpeg',
      body.bytes,
      false,
      false,
    ]);
    const { exif, orientation } = await sharp(kept.bytes).metadata();
    expect([exif, orientation]).toEqual([undefined, undefined]);
    expect((await sharp((await fetched(`${body.id}/preview`)).bytes).metadata()).height).toBe(400);
    const sheet = (await h.get<Sheet>(`/items/${item}`)).body;
    expect(sheet.files.map((f) => f.id)).toContain(body.id);
  });

  it('is as large as is of use, and sent twice it is there once', async () => {
    const same = { id: id(), name: 'wide.jpg' };
    const bytes = await photo(5000, 1000);
    const [first, second] = [await send(bytes, 'image/jpeg', same), await send(bytes, 'image/jpeg', same)];
    expect([first.status, second.status, first.body.size?.height] as unknown[]).toEqual([201, 201, 3200]);
    expect(await h.count('file', 'id = ?', [same.id])).toBe(1);
    expect((await send(await photo(), 'image/jpeg', same)).body.code).toBe('id-reused');
  });

  it('what is no picture is refused, whatever it says that it is', async () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
    const cut = (await photo()).subarray(0, 900);
    const gif = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
    for (const bytes of [svg, cut, gif, Buffer.from('hello')]) {
      const answer = await send(bytes, 'image/jpeg');
      expect([answer.status, answer.body.code]).toEqual([415, 'not-a-picture']);
    }
    expect((await send('{}', 'application/json')).status).toBe(415);
    // Few bytes, and more points than memory has room for.
    const bomb = await sharp({ create: { width: 12_000, height: 12_000, channels: 3, background: '#000' }, limitInputPixels: false })
      .png()
      .toBuffer();
    expect((await send(bomb, 'image/png')).body.code).toBe('too-large');
    expect((await send(Buffer.alloc(13_000_000), 'image/png')).status).toBe(413);
    expect((await send(await photo(), 'image/jpeg', { name: '' })).status).toBe(422);
    expect((await send(await photo(), 'image/jpeg', {}, id())).status).toBe(404);
  });

  it('a paper is kept as it came, is downloaded, and runs nothing', async () => {
    const pdf = Buffer.from('%PDF-1.4\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n');
    const { body } = await send(pdf, 'application/pdf', { name: 'Ticket F-4821.pdf' });
    expect([body.type, body.size]).toEqual(['application/pdf', null]);
    const { headers, bytes } = await fetched(body.id);
    expect([headers.get('content-disposition'), headers.get('content-security-policy')]).toEqual([
      'attachment; filename="Ticket F-4821.pdf"',
      "default-src 'none'; sandbox",
    ]);
    expect(bytes.equals(pdf)).toBeTrue();
    expect((await send(pdf.subarray(0, 30), 'application/pdf')).body.code).toBe('not-a-picture');
  });

  it('a note is kept of any item, longer than a reading, and is no fact', async () => {
    const note = (text: string) =>
      h.post<Sheet & Problem>(`/items/${item}/entries`, {
        id: id(),
        by,
        readings: [reading(`notes.${Date.now().toString(36)}.text`, text, null)],
      });
    const long = 'The pump line was primed with grout before this load. '.repeat(10).trim();
    const { status, body } = await note(long);
    expect([status, body.entries.some((e) => e.text === long), JSON.stringify(body.item.facts).includes('pump')]).toEqual([
      201,
      true,
      false,
    ]);
    expect((await note('x'.repeat(1001))).status).toBe(422);
    const b = new Bench(h);
    const load = await b.load(95);
    const ticket = (await h.get<Sheet>(`/items/${load}`)).body.entries.find((e) => e.field === 'ticket')!;
    const readings = [reading('ticket', 'x'.repeat(201), null, { supersedes: ticket.id, reason: 'keyed wrong' })];
    expect((await h.post(`/items/${load}/entries`, { id: id(), by, readings })).status).toBe(422);
    await h.post(`/items/${load}/voiding`, { id: id(), by, voided: true, reason: 'keyed twice', at: at(0) });
    expect((await send(await photo(), 'image/jpeg', {}, load)).body.errors?.[0]?.code).toBe('voided');
  });
});
