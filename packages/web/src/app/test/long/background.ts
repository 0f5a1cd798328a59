import { proxy, wrap } from 'comlink';
import type { Answer, AnswerOf, Task, Tell } from './tasks';

export interface Running<A> {
  readonly answer: Promise<A>;
  /** Ends it at once; `answer` then never comes. */
  cancel(): void;
}

const begun = (): Worker => new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });

/** Asks a worker; a script that is gone after an update is a fault like any other. */
const asked = <T extends Task>(worker: Worker, task: T, tell: Tell = () => undefined): Promise<AnswerOf<T>> =>
  new Promise((resolve, reject) => {
    worker.onerror = (event) => reject(new Error(event.message));
    wrap<{ work(task: Task, tell: Tell): Answer }>(worker)
      .work(task, proxy(tell))
      .then((answer) => resolve(answer as AnswerOf<T>), reject);
  });

/** Computes away from the page, in a worker of its own, so that the page stays at hand. */
export function inBackground<T extends Task>(task: T, tell?: Tell): Running<AnswerOf<T>> {
  const worker = begun();
  let over = false;
  const end = (): void => {
    over = true;
    worker.terminate();
  };
  // What was on its way when it ended tells nothing any more.
  const told: Tell = (share, doing) => (over ? undefined : tell?.(share, doing));
  return { answer: asked(worker, task, told).finally(end), cancel: end };
}

/** One worker for one kind of question asked again and again: only the newest answer counts. */
export class Asker<T extends Task> {
  private worker: Worker | null = null;
  private busy = false;
  private next: T | null = null;

  constructor(private readonly answered: (answer: AnswerOf<T>, task: T) => void) {}

  ask(task: T): void {
    this.next = task;
    if (!this.busy) this.send();
  }

  private send(): void {
    const task = this.next;
    if (!task) return;
    this.next = null;
    this.busy = true;
    this.worker ??= begun();
    asked(this.worker, task)
      .then(
        (answer) => {
          if (this.next === null) this.answered(answer, task);
        },
        // The next question asks a new one.
        () => this.end(),
      )
      .finally(() => {
        this.busy = false;
        this.send();
      });
  }

  end(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
