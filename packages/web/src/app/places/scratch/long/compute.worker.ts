/// <reference lib="webworker" />
import type { Task, Message } from './tasks';
import { work } from './work';

const post = (message: Message): void => postMessage(message);

addEventListener('message', ({ data }: MessageEvent<Task>) => {
  try {
    post({ answer: work(data, (progress, doing) => post({ progress, doing })) });
  } catch (error) {
    post({ fault: error instanceof Error ? error.message : String(error) });
  }
});
