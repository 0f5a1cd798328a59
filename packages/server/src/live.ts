import type { LiveMessage } from '@keen-mortar/contract';
import type { Response } from 'express';

/** Bytes that may wait for a listener. */
const MOST_WAITING = 64_000;

/** Open pages that want to know at once when something they show has changed (server-sent events). */
export class Live {
  private readonly topics = new Map<string, Set<Response>>();

  join(topic: string, response: Response): void {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      connection: 'keep-alive',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    this.send(response, { kind: 'hello' });
    const pages = this.topics.get(topic) ?? new Set();
    pages.add(response);
    this.topics.set(topic, pages);
    response.on('close', () => {
      pages.delete(response);
      if (pages.size === 0) this.topics.delete(topic);
    });
  }

  tell(topic: string, message: LiveMessage): void {
    for (const response of this.topics.get(topic) ?? []) this.send(response, message);
  }

  /** Keeps proxies and phones from closing a quiet line. */
  beat(): void {
    for (const pages of this.topics.values()) for (const response of pages) this.write(response, ': beat\n\n');
  }

  close(): void {
    for (const pages of this.topics.values()) for (const response of pages) response.end();
    this.topics.clear();
  }

  /** A listener that does not read is let go: it comes back when it hears again. */
  private write(response: Response, text: string): void {
    if (response.writableLength > MOST_WAITING) response.destroy();
    else response.write(text);
  }

  private send(response: Response, message: LiveMessage): void {
    this.write(response, `data: ${JSON.stringify(message)}\n\n`);
  }
}
