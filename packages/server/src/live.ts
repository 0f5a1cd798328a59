import type { LiveMessage } from '@keen-mortar/contract';
import type { Response } from 'express';
import type { Change } from './store/changes.js';

/** Bytes that may wait for a listener. */
const MOST_WAITING = 64_000;

/** An open page: the item that it shows, and what that lies in. */
interface Listener {
  readonly itemId: string;
  readonly above: ReadonlySet<string>;
  readonly response: Response;
}

/** Whether a page on an item has to hear of a change: of the item, of what lies in it, of what it lies in. */
export const concerns = (change: Change, itemId: string, above: ReadonlySet<string>): boolean =>
  change.line.includes(itemId) || (change.itemId !== null && above.has(change.itemId));

/** Open pages that want to know at once when something they show has changed (server-sent events). */
export class Live {
  private readonly listeners = new Set<Listener>();

  /** @param seq where the line may be taken up again, should it break */
  join(itemId: string, above: readonly string[], response: Response, seq: string): void {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      connection: 'keep-alive',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const listener = { itemId, above: new Set(above), response };
    this.send(response, { kind: 'hello', seq });
    this.listeners.add(listener);
    response.on('close', () => this.listeners.delete(listener));
  }

  /** Something that is in no table: who is keying what. */
  tell(itemId: string, message: LiveMessage): void {
    for (const l of this.listeners) if (l.itemId === itemId) this.send(l.response, message);
  }

  changed(change: Change, seq: string): void {
    for (const l of this.listeners)
      if (concerns(change, l.itemId, l.above)) this.send(l.response, { kind: 'changed', what: change.kind, seq });
  }

  /** Keeps proxies and phones from closing a quiet line. */
  beat(): void {
    for (const { response } of this.listeners) this.write(response, ': beat\n\n');
  }

  close(): void {
    for (const { response } of this.listeners) response.end();
    this.listeners.clear();
  }

  /** A listener that does not read is let go: it comes back when it hears again. */
  private write(response: Response, text: string): void {
    if (response.writableLength > MOST_WAITING) response.destroy();
    else response.write(text);
  }

  private send(response: Response, message: LiveMessage): void {
    const id = message.seq === undefined ? '' : `id: ${message.seq}\n`;
    this.write(response, `${id}data: ${JSON.stringify(message)}\n\n`);
  }
}
