import { liveMessages } from './live';

/** A line that the browser opens: told what it hears, and closed as a proxy's 502 closes it. */
class Line {
  static readonly CLOSED = 2;
  static readonly all: Line[] = [];
  readyState = 1;
  onmessage?: (event: { data: string }) => void;
  onerror?: () => void;
  constructor(readonly url: string) {
    Line.all.push(this);
  }
  close = (): void => void (this.readyState = Line.CLOSED);
}

describe('a live line', () => {
  const real = globalThis.EventSource;
  beforeEach(() => {
    Line.all.length = 0;
    globalThis.EventSource = Line as unknown as typeof EventSource;
    jasmine.clock().install();
  });
  afterEach(() => {
    jasmine.clock().uninstall();
    globalThis.EventSource = real;
  });

  it('that was refused is opened anew, later each time; one that is lost is left to the browser', () => {
    const heard: string[] = [];
    const listening = liveMessages('/items/1').subscribe((m) => heard.push(m.kind));
    Line.all[0]!.onmessage!({ data: '{"kind":"hello"}' });
    Line.all[0]!.onerror!();
    jasmine.clock().tick(60_000);
    expect([Line.all.length, heard]).toEqual([1, ['hello']]);
    Line.all[0]!.readyState = Line.CLOSED;
    Line.all[0]!.onerror!();
    jasmine.clock().tick(1001);
    expect(Line.all.length).toBe(2);
    Line.all[1]!.readyState = Line.CLOSED;
    Line.all[1]!.onerror!();
    jasmine.clock().tick(1001);
    expect(Line.all.length).toBe(2);
    jasmine.clock().tick(1000);
    expect(Line.all.map((l) => l.url)).toEqual(Array(3).fill('/api/v1/items/1/live?ngsw-bypass=true'));
    listening.unsubscribe();
    expect(Line.all[2]!.readyState).toBe(Line.CLOSED);
  });
});
