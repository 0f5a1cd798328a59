import { exampleOf } from '@keen-mortar/core/examples';
import { evaluate, methodById } from '@keen-mortar/core';
import { expose } from 'comlink';
import { Asker, inBackground } from './background';
import type { Answer, CurveTask, SeriesTask, Task, Tell } from './tasks';
import { work } from './work';

interface Asked {
  readonly task: Task;
  readonly tell: Tell;
  readonly answer: (answer: Answer) => void;
  readonly fail: (error: Error) => void;
}

/** A worker that answers when it is told to. */
class StubWorker {
  static made: StubWorker[] = [];
  onerror: ((event: ErrorEvent) => void) | null = null;
  readonly asked: Asked[] = [];
  ended = false;
  private readonly page: MessagePort;
  constructor() {
    StubWorker.made.push(this);
    const { port1, port2 } = new MessageChannel();
    this.page = port1;
    const works = (task: Task, tell: Tell) => new Promise<Answer>((answer, fail) => this.asked.push({ task, tell, answer, fail }));
    expose({ work: works }, port2);
    port1.start();
  }
  postMessage(message: unknown, transfer: Transferable[]): void {
    this.page.postMessage(message, transfer);
  }
  addEventListener(kind: 'message', listener: (event: MessageEvent) => void): void {
    this.page.addEventListener(kind, listener);
  }
  removeEventListener(kind: 'message', listener: (event: MessageEvent) => void): void {
    this.page.removeEventListener(kind, listener);
  }
  terminate(): void {
    this.ended = true;
  }
  /** The question of this turn, once it has come over. */
  async question(n = 0): Promise<Asked> {
    while (this.asked.length <= n) await new Promise((resolve) => setTimeout(resolve));
    return this.asked[n]!;
  }
}

const pairs = methodById('early-warning')!;
const curve = (text: string): CurveTask => ({
  kind: 'curve',
  method: 'early-warning',
  variant: 'pairs',
  system: 'si',
  inputs: exampleOf(pairs),
  along: 'now',
  places: [{ text, unit: 'MPa' }],
  results: ['expected', 'low'],
});
const series: SeriesTask = { kind: 'series', text: '30\n31', simulate: 0, companions: false, specified: null, system: 'si', unit: 'MPa' };

describe('away from the page', () => {
  const real = globalThis.Worker;
  beforeEach(() => {
    StubWorker.made = [];
    globalThis.Worker = StubWorker as unknown as typeof Worker;
  });
  afterEach(() => (globalThis.Worker = real));
  const [first] = [() => StubWorker.made[0]!];

  it('tells its progress, gives its answer and ends its worker', async () => {
    const told: string[] = [];
    const running = inBackground(series, (share, doing) => told.push(`${doing} ${share}`));
    const { tell, answer } = await first().question();
    await tell(0.5, 'Half');
    const given = work(series, () => undefined);
    answer(given);
    expect(await running.answer).toEqual(given);
    expect([told, first().ended]).toEqual([['Half 0.5'], true]);
  });

  it('is cancelled at once, and says when it broke', async () => {
    const told: number[] = [];
    const cancelled = inBackground(series, (share) => told.push(share));
    const { tell } = await first().question();
    cancelled.cancel();
    await tell(0.5, 'on its way already');
    expect([first().ended, told]).toEqual([true, []]);
    const broken = inBackground(series);
    (await StubWorker.made[1]!.question()).fail(new Error('no such method'));
    await expectAsync(broken.answer).toBeRejectedWithError('no such method');
    const gone = inBackground(series);
    StubWorker.made[2]!.onerror?.({ message: 'not loaded' } as ErrorEvent);
    await expectAsync(gone.answer).toBeRejectedWithError('not loaded');
  });

  it('of questions asked while one is answered only the newest is asked, and only its answer counts', async () => {
    const answered: string[] = [];
    const asker = new Asker<CurveTask>((answer, task) => answered.push(`${task.places[0]!.text}: ${answer['expected']?.length}`));
    for (const text of ['23', '24', '25']) asker.ask(curve(text));
    (await first().question()).answer({ expected: [1] });
    const last = await first().question(1);
    expect([(last.task as CurveTask).places[0]!.text, answered]).toEqual(['25', []]);
    last.answer({ expected: [1, 2] });
    while (answered.length === 0) await new Promise((resolve) => setTimeout(resolve));
    expect([answered, first().asked.length]).toEqual([['25: 2'], 2]);
    asker.end();
    expect([first().ended, StubWorker.made.length]).toEqual([true, 1]);
  });

  it('a worker whose script is gone does not stay busy: the next question asks a new one', async () => {
    const asker = new Asker<CurveTask>(() => undefined);
    asker.ask(curve('23'));
    first().onerror?.({ message: 'not loaded' } as ErrorEvent);
    while (!first().ended) await new Promise((resolve) => setTimeout(resolve));
    asker.ask(curve('24'));
    while (StubWorker.made.length < 2) await new Promise((resolve) => setTimeout(resolve));
    expect(((await StubWorker.made[1]!.question()).task as CurveTask).places[0]!.text).toBe('24');
  });

  it('a curve is the method’s own answer at each place, and nothing where it has none', () => {
    const task = curve('23.9');
    const answer = work({ ...task, places: [...task.places, { text: 'tall', unit: 'MPa' }] }, () => undefined);
    const e = evaluate(pairs, exampleOf(pairs), { variant: 'pairs', system: 'si' });
    const expected = Number(e.results.find((r) => r.id === 'expected')!.unrounded);
    expect(answer['expected']).toEqual([expected, null]);
    expect(answer['low']![0]!).toBeLessThan(expected);
  });
});
