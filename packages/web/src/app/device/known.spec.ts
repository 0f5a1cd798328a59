import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import { Device } from './device';
import { Known, lastKnown } from './known';

describe('what was known last', () => {
  const answers = new Map<string, unknown>();
  const THEN = Date.parse('2026-11-12T10:42:00Z');
  let http: HttpTestingController;
  let known: Known;
  beforeEach(() => {
    answers.clear();
    const device = {
      answer: (url: string) => Promise.resolve(answers.has(url) ? { url, body: answers.get(url), at: THEN } : undefined),
      putAnswer: (url: string, body: unknown) => Promise.resolve(answers.set(url, body)),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([lastKnown])),
        provideHttpClientTesting(),
        { provide: Device, useValue: device },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    known = TestBed.inject(Known);
  });

  const get = (url: string) =>
    firstValueFrom(TestBed.inject(HttpClient).get(url)).then(
      (body) => body,
      (error: { status: number }) => error.status,
    );
  const away = (url: string) => http.expectOne(url).error(new ProgressEvent('error'));

  it('is kept, and given again with its time while the server does not answer', async () => {
    const url = '/api/v1/day?project=1';
    const first = get(url);
    http.expectOne(url).flush({ things: [1] });
    await first;
    while (!answers.has(url)) await new Promise((resolve) => setTimeout(resolve, 10));
    const again = get(url);
    away(url);
    expect(await again).toEqual({ things: [1] });
    expect(known.since()).toBe(THEN);
    const back = get(url);
    http.expectOne(url).flush({ things: [] });
    expect([await back, known.since()]).toEqual([{ things: [] }, null]);
  });

  it('is nothing where the server says no, where nothing was known, or where it has to be reckoned', async () => {
    answers.set('/api/v1/pours/1', 'old');
    answers.set('/api/v1/ledger', 'old');
    const [refused, unknown, ledger] = [get('/api/v1/pours/1'), get('/api/v1/people'), get('/api/v1/ledger')];
    http.expectOne('/api/v1/pours/1').flush('gone', { status: 404, statusText: 'Not found' });
    away('/api/v1/people');
    away('/api/v1/ledger');
    expect(await Promise.all([refused, unknown, ledger])).toEqual([404, 0, 0]);
    expect(known.since()).toBeNull();
  });
});
