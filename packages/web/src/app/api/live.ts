import { liveMessage, type LiveMessage } from '@keen-mortar/contract/live';
import { Observable } from 'rxjs';

/** Between two tries of a line that the server would not open, ms: doubled up to the longest. */
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 30_000;

/**
 * Messages of a topic as they come (server-sent events). The browser takes a lost line up again by itself, from where
 * it was; a line that was refused (a proxy that answers for a server which is away) it gives up: it is opened anew.
 */
export const liveMessages = (path: string): Observable<LiveMessage> =>
  new Observable((subscriber) => {
    let pause = FIRST_PAUSE;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let source: EventSource;
    const open = (): void => {
      // Past the worker that holds the application: a line that never ends is none of its business.
      source = new EventSource(`/api/v1${path}/live?ngsw-bypass=true`);
      source.onmessage = (event: MessageEvent<string>) => {
        pause = FIRST_PAUSE;
        const message = liveMessage.safeParse(jsonOf(event.data));
        // What cannot be read says at least that something has changed.
        subscriber.next(message.success ? message.data : { kind: 'changed' });
      };
      source.onerror = () => {
        if (source.readyState !== EventSource.CLOSED) return;
        timer = setTimeout(open, pause);
        pause = Math.min(LONGEST_PAUSE, pause * 2);
      };
    };
    open();
    return () => {
      clearTimeout(timer);
      source.close();
    };
  });

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
