import { HttpResponse, type HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable, Injector, signal } from '@angular/core';
import { catchError, from, of, switchMap, tap, throwError } from 'rxjs';
import type { Device } from './device';

/** The device's store comes once the first screen is there, ms: nothing of it is needed to begin with. */
const LATER = 3000;

/** What the server answered last, and since when nothing new was heard. */
@Injectable({ providedIn: 'root' })
export class Known {
  private readonly injector = inject(Injector);
  /** ms: when the oldest of what is shown was answered; null while the server answers. */
  readonly since = signal<number | null>(null);
  private device: Promise<Device> | null = null;
  private readonly fresh = new Map<string, unknown>();
  private timer: ReturnType<typeof setTimeout> | undefined;

  private store(): Promise<Device> {
    this.device ??= import('./device').then(({ Device: Kept }) => this.injector.get(Kept));
    return this.device;
  }

  put(url: string, body: unknown): void {
    this.since.set(null);
    this.fresh.set(url, body);
    if (this.device) void this.flush();
    else this.timer ??= setTimeout(() => void this.flush(), LATER);
  }

  private async flush(): Promise<void> {
    const device = await this.store().catch(() => null);
    if (!device) {
      // The network went before the store was fetched: what came is known to this page alone until it is there.
      this.device = null;
      this.timer = undefined;
      return;
    }
    const all = [...this.fresh];
    this.fresh.clear();
    for (const [url, body] of all) await device.putAnswer(url, body).catch(() => undefined);
  }

  /** What was known of it and since when; undefined where nothing was. */
  async last(url: string): Promise<{ readonly body: unknown; readonly at: number } | undefined> {
    const found = this.fresh.has(url)
      ? { body: this.fresh.get(url), at: Date.now() }
      : await this.store()
          .then((d) => d.answer(url))
          .catch(() => undefined);
    if (found) this.since.update((since) => Math.min(since ?? Infinity, found.at));
    return found;
  }
}

/**
 * What is looked at without a network: who is here, the day, pours and sheets as they were seen last. A sheet of a sample has a
 * copy of its own (with what is being keyed), and what is searched or reckoned is asked for only where it can be answered.
 */
const KEPT = /^\/api\/v1\/(people|projects|day|bench|breaks|hours|pours|mixes|equipment|specifications|items)(\/[0-9a-f-]{36})?(\/sheet)?$/;
const isAway = (status: number): boolean => status === 0 || status === 502 || status === 503 || status === 504;

/** Keeps what the server answered, and gives it again where the server does not answer: said above the shelf, with its time. */
export const lastKnown: HttpInterceptorFn = (asked, next) => {
  // The worker holds the application, not the record: what is asked of the server goes past it.
  const req = asked.clone({ setHeaders: { 'ngsw-bypass': 'true' } });
  if (req.method !== 'GET' || !KEPT.test(req.url.split('?')[0]!)) return next(req);
  const known = inject(Known);
  return next(req).pipe(
    tap((event) => {
      if (event instanceof HttpResponse) known.put(req.urlWithParams, event.body);
    }),
    catchError((error: HttpErrorResponse) => {
      if (!isAway(error.status)) return throwError(() => error);
      return from(known.last(req.urlWithParams)).pipe(
        switchMap((found) =>
          found ? of(new HttpResponse({ status: 200, body: found.body, url: req.urlWithParams })) : throwError(() => error),
        ),
      );
    }),
  );
};
