import { DestroyRef, inject } from '@angular/core';
import { fromEvent } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { namedBy } from './breaks.view';

/** No hand types one key so soon after another, ms; a scanner that types does. */
const SCANNED_WITHIN = 35;
const LEAST = 5;

/**
 * Hears a scanner that types the code of a label and Enter, whatever has the focus: what it typed into a reading is taken
 * out again. To be called where things are injected.
 */
export function hearScanner(heard: (text: string) => void): void {
  let typed = '';
  let last = 0;
  let box: HTMLInputElement | null = null;
  let before = '';
  fromEvent<KeyboardEvent>(document, 'keydown', { capture: true })
    .pipe(takeUntilDestroyed(inject(DestroyRef)))
    .subscribe((event) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const soon = event.timeStamp - last < SCANNED_WITHIN;
      if (event.key === 'Enter') {
        const text = typed;
        typed = '';
        if (!soon || text.length < LEAST || namedBy(text) === null) return;
        event.preventDefault();
        event.stopImmediatePropagation();
        if (box?.isConnected) {
          box.value = before;
          box.dispatchEvent(new Event('input', { bubbles: true }));
        }
        return heard(text);
      }
      if (event.key.length !== 1) return;
      if (!soon) {
        typed = '';
        box = event.target instanceof HTMLInputElement ? event.target : null;
        before = box?.value ?? '';
      }
      typed += event.key;
      last = event.timeStamp;
    });
}
