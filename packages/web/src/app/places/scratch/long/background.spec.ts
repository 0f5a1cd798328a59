import { exampleOf } from '@keen-mortar/core/examples';
import { evaluate, methodById } from '@keen-mortar/core';
import { Asker, inBackground } from './background';
import type { CurveTask, Task, Message, SeriesTask } from './tasks';
import { work } from './work';

/** A worker that answers when it is told to. */
class StubWorker {
  static made: StubWorker[] = [];
  onmessage: ((event: MessageEvent<Message>) => void) | null = null;
  onerror: ((event: ErrorEvent) => void) | null = null;
  readonly tasks: Task[] = [];
  ended = false;
  constructor() {
    StubWorker.made.push(this);
  }
  postMessage(task: Task): void {
    this.tasks.push(task);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: Message): void {
    this.onmessage?.({ data } as MessageEvent<Message>);
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
    first().say({ progress: 0.5, doing: 'Half' });
    const answer = work(series, () => undefined);
    first().say({ answer });
    expect(await running.answer).toBe(answer);
    expect([told, first().ended]).toEqual([['Half 0.5'], true]);
  });

  it('is cancelled at once, and says when it broke', async () => {
    inBackground(series).cancel();
    expect(first().ended).toBeTrue();
    const broken = inBackground(series);
    StubWorker.made[1]!.say({ fault: 'no such method' });
    await expectAsync(broken.answer).toBeRejectedWithError('no such method');
    const gone = inBackground(series);
    StubWorker.made[2]!.onerror?.({ message: 'not loaded' } as ErrorEvent);
    await expectAsync(gone.answer).toBeRejectedWithError('not loaded');
  });

  it('of questions asked while one is answered only the newest is asked, and only its answer counts', () => {
    const answered: string[] = [];
    const asker = new Asker<CurveTask>((answer, task) => answered.push(`${task.places[0]!.text}: ${answer['expected']?.length}`));
    for (const text of ['23', '24', '25']) asker.ask(curve(text));
    expect(first().tasks.length).toBe(1);
    first().say({ answer: { expected: [1] } });
    expect([first().tasks.length, answered]).toEqual([2, []]);
    first().say({ answer: { expected: [1, 2] } });
    expect(answered).toEqual(['25: 2']);
    asker.end();
    expect([first().ended, StubWorker.made.length]).toEqual([true, 1]);
  });

  it('a worker whose script is gone does not stay busy: the next question asks a new one', () => {
    const asker = new Asker<CurveTask>(() => undefined);
    asker.ask(curve('23'));
    first().onerror?.({ message: 'not loaded' } as ErrorEvent);
    asker.ask(curve('24'));
    expect([first().ended, StubWorker.made.length, StubWorker.made[1]!.tasks.length]).toEqual([true, 2, 1]);
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
