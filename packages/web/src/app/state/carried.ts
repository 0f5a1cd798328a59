import { Injectable, signal } from '@angular/core';
import { methodById } from '@keen-mortar/core';
import type { Hand } from './hand';

const KEY = 'km.carried';

/** What was computed in Scratch and is on its way to an item that is still to be found, or made: it outlives a reload. */
@Injectable({ providedIn: 'root' })
export class Carried {
  private readonly carried = signal<Hand | null>(remembered());
  readonly hand = this.carried.asReadonly();

  take(hand: Hand): void {
    localStorage.setItem(KEY, JSON.stringify(hand));
    this.carried.set(hand);
  }

  drop(): void {
    localStorage.removeItem(KEY);
    this.carried.set(null);
  }
}

function remembered(): Hand | null {
  try {
    const hand = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Hand | null;
    const m = hand && methodById(hand.method);
    return m && Object.hasOwn(m.variants as object, hand.variant) ? hand : null;
  } catch {
    return null;
  }
}
