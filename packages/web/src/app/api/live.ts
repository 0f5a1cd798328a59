import type { LiveMessage } from '@keen-mortar/contract';
import { Observable } from 'rxjs';

/** Messages of a topic as they come (server-sent events); the browser joins again by itself after a lost line. */
export const liveMessages = (path: string): Observable<LiveMessage> =>
  new Observable((subscriber) => {
    const source = new EventSource(`/api/v1${path}/live`);
    source.onmessage = (event: MessageEvent<string>) => subscriber.next(JSON.parse(event.data) as LiveMessage);
    return () => source.close();
  });
