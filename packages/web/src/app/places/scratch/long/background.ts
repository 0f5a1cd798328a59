import type { AnswerOf, Task, Message } from './tasks';

export interface Running<A> {
  readonly answer: Promise<A>;
  /** Ends it at once; `answer` then never comes. */
  cancel(): void;
}

/** Computes away from the page, in a worker of its own, so that the page stays at hand. */
export function inBackground<T extends Task>(
  task: T,
  tell: (share: number, doing: string) => void = () => undefined,
): Running<AnswerOf<T>> {
  const worker = new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
  const answer = new Promise<AnswerOf<T>>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Message>) => {
      if ('progress' in data) return tell(data.progress, data.doing);
      worker.terminate();
      if ('answer' in data) resolve(data.answer as AnswerOf<T>);
      else reject(new Error(data.fault));
    };
    worker.onerror = (event) => {
      worker.terminate();
      reject(new Error(event.message));
    };
  });
  worker.postMessage(task);
  return { answer, cancel: () => worker.terminate() };
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
    this.worker ??= new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<Message>) => {
      if ('progress' in data) return;
      this.busy = false;
      if ('answer' in data && this.next === null) this.answered(data.answer as AnswerOf<T>, task);
      this.send();
    };
    this.worker.onerror = () => {
      // Its script may be gone after an update: the next question asks a new one.
      this.worker?.terminate();
      this.worker = null;
      this.busy = false;
    };
    this.worker.postMessage(task);
  }

  end(): void {
    this.worker?.terminate();
  }
}
