import { newFile } from '@keen-mortar/contract';
import { createHash } from 'node:crypto';
import express, { Router, type Response } from 'express';
import { attachFile, readFile } from '../commands/files.js';
import { fromZod } from '../problems.js';
import { contentOf, fileOf } from '../store/files.js';
import { writeOnce } from '../store/writes.js';
import type { Parts } from './app.js';
import { idOf } from './requests.js';

const LONGEST = '12mb';

/** Pictures and papers of an item: sent as they are, with what is said of them in the address. */
export function fileRoutes({ pool, changes }: Parts): Router {
  const routes = Router();
  routes.post('/items/:id/files', express.raw({ type: ['image/*', 'application/pdf'], limit: LONGEST }), async (req, res) => {
    const itemId = idOf(req);
    const parsed = newFile.safeParse(req.query);
    if (!parsed.success) throw fromZod(parsed.error);
    const { id, by, name } = parsed.data;
    const read = await readFile(req.body);
    const sent = createHash('sha256')
      .update(req.body as Buffer)
      .digest('hex');
    const done = await writeOnce(pool, { kind: 'file', targetId: itemId, raw: { name, sent }, id, personId: by }, (cx, act) =>
      attachFile(cx, act, itemId, id, name, read),
    );
    void changes.look();
    res.status(201).json(done ?? (await fileOf(pool, id)));
  });
  const send = async (id: string, which: 'content' | 'preview', res: Response): Promise<void> => {
    const { type, name, bytes } = await contentOf(pool, id, which);
    // What it holds never changes; a paper is for whoever reads papers, and runs nothing here.
    res.set({ 'cache-control': 'private, max-age=31536000, immutable', 'content-security-policy': "default-src 'none'; sandbox" });
    if (type === 'application/pdf') res.attachment(name);
    res.type(type).send(bytes);
  };
  routes.get('/files/:id', (req, res) => send(idOf(req), 'content', res));
  routes.get('/files/:id/preview', (req, res) => send(idOf(req), 'preview', res));
  return routes;
}
