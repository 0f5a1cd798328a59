type Box = HTMLInputElement | HTMLTextAreaElement;

/** The box that somebody keys in; null where none has the focus. What comes by itself takes no key that was meant for it. */
export function keyedBox(): Box | null {
  const at = document.activeElement;
  return at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement ? at : null;
}

/** Whether somebody keys in a box that is none of these. */
export function keysElsewhere(own: HTMLElement): boolean {
  const box = keyedBox();
  return box !== null && !own.contains(box);
}
